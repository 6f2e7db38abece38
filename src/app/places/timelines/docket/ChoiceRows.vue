<script setup lang="ts">
import type { Choice } from '../../../../core/check/choices'
import { figure } from '../../../../core/words/figures'
import { useSelection } from '../../../../stores/selection'
import { useCut } from '../../../../stores/cut'
import GradeMark from '../../../components/GradeMark.vue'
import TermText from '../../../components/terms/TermText.vue'

/** One side of a treatment: each way a line, with what it does and what it costs. Pointing at one shows it; a click takes it. */
defineProps<{ title: string; note?: string; choices: readonly Choice[] }>()
const selection = useSelection()
const cut = useCut()
function beside(event: KeyboardEvent, by: 1 | -1) {
  const row = event.currentTarget as HTMLElement
  const next = by > 0 ? row.nextElementSibling : row.previousElementSibling
  if (next instanceof HTMLElement) next.focus()
}
function take({ set }: Choice) {
  selection.pointAt(null)
  cut.setTreatment(selection.placements, set)
}
</script>

<template>
  <section v-if="choices.length" :aria-label="title">
    <header>
      <h3><TermText :text="title" /></h3>
      <span v-if="note" class="quiet figures">{{ note }}</span>
    </header>
    <div role="radiogroup" :aria-label="title" @mouseleave="selection.pointAt(null)">
      <button
        v-for="choice in choices"
        :key="choice.id"
        role="radio"
        class="way"
        :class="{ tried: selection.pointedAt?.set === choice.set }"
        :aria-checked="choice.taken === 'all' ? 'true' : 'false'"
        :data-taken="choice.taken"
        @click="take(choice)"
        @mouseenter="
          choice.taken === 'all' ? selection.pointAt(null) : selection.pointAt(choice.set, choice.name)
        "
        @focus="choice.taken === 'all' ? selection.pointAt(null) : selection.pointAt(choice.set, choice.name)"
        @blur="selection.pointAt(null)"
        @keydown.down.prevent="beside($event, 1)"
        @keydown.up.prevent="beside($event, -1)"
      >
        <span class="box" :class="choice.taken" aria-hidden="true" />
        <span class="name">{{ choice.name }}</span>
        <span class="does quiet ellipsis" :title="choice.does">{{
          choice.taken === 'some' ? 'some of them' : choice.does
        }}</span>
        <span v-if="choice.group !== 'quality'" class="price figures" :class="choice.price.grade"
          ><GradeMark :grade="choice.price.grade" shape-only />{{ figure(choice.price.loss, 2) }}</span
        >
      </button>
    </div>
    <slot />
  </section>
</template>

<style scoped>
section {
  border-top: 1px solid var(--line);
  padding-top: 6px;
}
header {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
}
h3 {
  margin: 0;
}
.way {
  all: unset;
  box-sizing: border-box;
  display: flex;
  align-items: center;
  gap: 7px;
  width: 100%;
  min-height: 24px;
  padding: 0 4px;
  cursor: pointer;
}
.way:focus-visible {
  outline: 2px solid var(--accent);
  outline-offset: -2px;
}
.tried {
  background: color-mix(in srgb, var(--line) 45%, transparent);
}
.box {
  flex: none;
  width: 9px;
  height: 9px;
  border: 1px solid var(--ink);
}
.box.all {
  background: var(--accent);
  border-color: var(--accent);
}
.box.some {
  background: linear-gradient(135deg, var(--accent) 50%, transparent 50%);
}
.name {
  flex: none;
  max-width: 165px;
}
[data-taken='all'] .name {
  font-weight: 600;
}
.does {
  flex: 1;
  text-align: right;
  font-size: 11.5px;
  min-width: 0;
}
.price {
  flex: none;
  display: inline-flex;
  gap: 4px;
  width: 46px;
  justify-content: flex-end;
}
</style>
