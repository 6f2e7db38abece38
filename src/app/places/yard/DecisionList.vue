<script setup lang="ts">
import { Button } from 'ant-design-vue'
import { stamp } from '../../dates'
import { computed, ref } from 'vue'
import { logText, setByWords } from '../../../core/exchange/log'
import { formatName, tradeName } from '../../../core/format/format'
import { useProject } from '../../../stores/document/project'

/** The decision log: what format was set when, from what, and why with the figures of that time. */
const project = useProject()
const decisions = computed(() => [...project.opened.project.decisions].reverse())
const copied = ref(false)
async function copy() {
  await navigator.clipboard.writeText(logText(project.opened.project.name, project.opened.project.decisions))
  copied.value = true
}
</script>

<template>
  <p v-if="decisions.length === 0" class="quiet">
    No format was set yet. Every setting is written here with its reason and figures.
  </p>
  <ol v-else>
    <li v-for="decision in decisions" :key="decision.at">
      <span class="quiet figures">{{ stamp(decision.at) }}</span>
      <b class="figures">{{ formatName(decision.format) }}</b>
      <span class="quiet"
        >{{ tradeName(decision.format) ? `${tradeName(decision.format)}, ` : ''
        }}{{ setByWords[decision.setBy] }}</span
      >
      <p>{{ decision.reason }}</p>
    </li>
  </ol>
  <div v-if="decisions.length" class="actions no-print">
    <Button @click="copy">{{ copied ? 'Copied' : 'Copy the log' }}</Button>
    <slot />
  </div>
</template>

<style scoped>
ol {
  list-style: none;
  padding: 0;
}
li {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 10px;
  padding: 8px 0;
  border-bottom: 1px solid var(--line);
  break-inside: avoid;
}
p {
  width: 100%;
}
.actions {
  display: flex;
  gap: 14px;
  align-items: center;
  padding-top: 10px;
}
</style>
