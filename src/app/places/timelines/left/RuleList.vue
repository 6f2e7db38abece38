<script setup lang="ts">
import type { Timeline } from '../../../../core/edit/timeline'
import { conditionWords, overrideWords } from '../../../../core/treatment/words'
import { useTreating } from '../../../../stores/treating'

/** The rules of a timeline in their order, a later one over an earlier one: read, moved, switched off, taken out. */
defineProps<{ timeline: Timeline }>()
const treating = useTreating()
</script>

<template>
  <h2 class="heading">
    rules · {{ timeline.rules.filter(({ on }) => on).length }} of {{ timeline.rules.length }} on
  </h2>
  <ol aria-label="Rules">
    <li v-for="(rule, i) in timeline.rules" :key="rule.id" :class="{ off: !rule.on }">
      <label
        ><input type="checkbox" :checked="rule.on" @change="treating.switchRule(rule)" />
        <span
          ><b>{{ conditionWords(rule.when) }}</b
          >: {{ overrideWords(rule.set) }}</span
        ></label
      >
      <span class="acts">
        <button
          class="word"
          :disabled="i === 0"
          :aria-label="`Rule ${i + 1} earlier`"
          @click="treating.shiftRule(rule, -1)"
        >
          ↑
        </button>
        <button
          class="word"
          :disabled="i === timeline.rules.length - 1"
          :aria-label="`Rule ${i + 1} later`"
          @click="treating.shiftRule(rule, 1)"
        >
          ↓
        </button>
        <button class="word" :aria-label="`Take rule ${i + 1} out`" @click="treating.dropRule(rule)">
          out
        </button>
      </span>
    </li>
  </ol>
</template>

<style scoped>
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
