<script setup lang="ts">
import { Button, Checkbox } from 'ant-design-vue'
import { computed } from 'vue'
import type { CarryPrice } from '../../../../core/check/carried'
import { carryWords, waySays } from '../../../../core/check/carry-words'
import { shortWords } from '../../../../core/toll/sentence'
import { figure, pays } from '../../../../core/words/figures'
import { useCarrying } from '../../../../stores/carrying'
import GradeMark from '../../../components/GradeMark.vue'
import TermText from '../../../components/terms/TermText.vue'

/** One way of carrying a cut: what moves, how long it gets, who pays, what follows, and the taking of it. */
const props = defineProps<{ price: CarryPrice; held: boolean }>()
const emit = defineEmits<{ hold: []; take: [asCopy: boolean] }>()
const carrying = useCarrying()
/** Longer lists are no help. */
const most = 200
const says = computed(() => waySays[props.price.way])
const rows = computed(() =>
  carrying.timeline ? carryWords(props.price, carrying.timeline, carrying.keepPitch) : [],
)
</script>

<template>
  <section
    class="way"
    :class="{ held }"
    :aria-label="says.name"
    @pointerenter="emit('hold')"
    @focusin="emit('hold')"
  >
    <h3 :title="says.what">{{ says.name }}</h3>
    <p class="quiet ellipsis">{{ says.what }}</p>
    <dl>
      <div v-for="row in rows" :key="row.name">
        <dt class="quiet"><TermText :text="row.name" /></dt>
        <dd :class="row.grade ?? ''">{{ row.says }}</dd>
      </div>
    </dl>
    <details v-if="price.paysMore.length > 1" class="all">
      <summary>{{ price.paysMore.length }} {{ pays(price.paysMore.length) }} more</summary>
      <ul>
        <li v-for="dearer in price.paysMore.slice(0, most)" :key="dearer.before.placement.id">
          <GradeMark :grade="dearer.grades[1]" shape-only /> {{ dearer.name }}
          <span class="quiet">{{ dearer.adds.map(shortWords).join(', ') }}</span>
        </li>
      </ul>
    </details>
    <details v-if="price.paysLess.length > 1" class="all">
      <summary>{{ price.paysLess.length }} pay less</summary>
      <ul>
        <li v-for="cheaper in price.paysLess.slice(0, most)" :key="cheaper.before.placement.id">
          <GradeMark :grade="cheaper.grades[1]" shape-only /> {{ cheaper.name }}
          <span class="quiet figures"
            >{{ figure(cheaper.loss[0], 2) }} → {{ figure(cheaper.loss[1], 2) }}</span
          >
        </li>
      </ul>
    </details>
    <Checkbox v-if="price.way === 'slowed'" v-model:checked="carrying.keepPitch">keep the pitch</Checkbox>
    <div class="actions">
      <template v-if="price.way === 'recut' || price.way === 'slowed'">
        <Button :type="held ? 'primary' : 'default'" @click="emit('take', true)"
          >{{ says.take }} as a copy</Button
        >
        <Button @click="emit('take', false)">in place</Button>
      </template>
      <Button v-else :type="held ? 'primary' : 'default'" @click="emit('take', true)">{{ says.take }}</Button>
    </div>
  </section>
</template>

<style scoped>
.way {
  background: var(--sheet);
  border: 1px solid var(--line);
  border-top: 3px solid var(--line);
  padding: 7px 10px 9px;
  display: flex;
  flex-direction: column;
  gap: 6px;
  min-width: 0;
}
.held {
  border-color: var(--accent);
}
p {
  font-size: 12px;
  margin-top: -6px;
}
dl > div {
  display: grid;
  grid-template-columns: 62px minmax(0, 1fr);
  gap: 6px;
  padding: 2px 0;
  border-bottom: 1px solid var(--line);
  font-size: 12px;
  line-height: 1.35;
}
.all {
  font-size: 12px;
}
.all ul {
  list-style: none;
  max-height: 130px;
  overflow: auto;
}
.actions {
  display: flex;
  gap: 6px;
  flex-wrap: wrap;
  margin-top: auto;
}
</style>
