<script setup lang="ts">
import type { Timeline } from '../../../../core/model/timeline'
import { conditionWords, overrideWords } from '../../../../core/treatment/words'
import { computed } from 'vue'
import { useSelection } from '../../../../stores/selection'
import { useCut } from '../../../../stores/cut'

/** The rules of a timeline in their order, a later one over an earlier one: read, moved, switched off, taken out. */
defineProps<{ timeline: Timeline }>()
const cut = useCut()
const selection = useSelection()
/** Whether what is in hand sets something of its own that a rule could take over. */
const sets = computed(() => Object.keys(cut.ownOf(selection.placements)).length > 0)
</script>

<template>
  <h2 class="heading">
    rules · {{ timeline.rules.filter(({ on }) => on).length }} of {{ timeline.rules.length }} on
  </h2>
  <p v-if="Object.keys(timeline.treatment).length" class="defaults">
    by default: {{ overrideWords(timeline.treatment) }}
    <button class="word" @click="cut.dropDefaults()">take back</button>
  </p>
  <ol aria-label="Rules">
    <li v-for="(rule, i) in timeline.rules" :key="rule.id" :class="{ off: !rule.on }">
      <label
        ><input type="checkbox" :checked="rule.on" @change="cut.switchRule(rule)" />
        <span
          ><b>{{ conditionWords(rule.when) }}</b
          >: {{ overrideWords(rule.set) }}</span
        ></label
      >
      <span class="acts">
        <button
          class="word"
          :disabled="!sets"
          title="It sets what is set of its own by what is in hand"
          @click="cut.setRuleFrom(rule, selection.placements)"
        >
          as in hand
        </button>
        <button
          class="word"
          :disabled="i === 0"
          :aria-label="`Rule ${i + 1} earlier`"
          @click="cut.shiftRule(rule, -1)"
        >
          ↑
        </button>
        <button
          class="word"
          :disabled="i === timeline.rules.length - 1"
          :aria-label="`Rule ${i + 1} later`"
          @click="cut.shiftRule(rule, 1)"
        >
          ↓
        </button>
        <button class="word" :aria-label="`Take rule ${i + 1} out`" @click="cut.dropRule(rule)">out</button>
      </span>
    </li>
  </ol>
</template>

<style scoped>
.defaults {
  font-size: 12px;
  width: 100%;
}
ol {
  list-style: none;
  padding: 0;
  width: 100%;
  max-height: 130px;
  overflow: auto;
  flex: none;
  border-top: 1px solid var(--line);
}
li {
  border-bottom: 1px solid var(--line);
  padding: 3px 8px 3px 0;
  font-size: 12px;
}
label {
  display: flex;
  gap: 6px;
  align-items: baseline;
}
.off label span {
  text-decoration: line-through;
  color: var(--quiet);
}
.acts {
  display: flex;
  justify-content: flex-end;
}
</style>
