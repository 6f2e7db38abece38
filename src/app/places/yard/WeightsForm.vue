<script setup lang="ts">
import { Button, InputNumber } from 'ant-design-vue'
import { computed } from 'vue'
import { type Policy, defaultPolicy } from '../../../core/toll/policy'
import { useProject } from '../../../stores/project'

/** The weights of all charges: shown, changeable, and the ranking follows at once. */
const project = useProject()
const policy = computed(() => project.doc!.project.policy)

const words: Record<keyof Policy, string> = {
  unusedDetail: 'detail left unused, balanced lean',
  barsOrCrop: 'bars and crop, a share',
  distortion: 'distortion',
  evenHold: 'every frame shown again, evenly',
  evenSkip: 'frames left out evenly',
  slip: 'slip',
  slipPerMinute: 'slip, each a minute',
  slipMost: 'slips, at most',
  judderPerMs: 'judder, each millisecond',
  judderMost: 'judder, at most',
  speedSlight: 'speed within 0.1 %',
  speed: 'other speed, not wanted',
  deinterlaceSameRate: 'deinterlaced, same rate',
  deinterlaceDoubleRate: 'deinterlaced, double rate',
  weave: 'fields woven on progressive',
  fieldOrder: 'field order turned',
  fieldRescale: 'fields rescaled',
  variableRate: 'variable rate',
  variableMost: 'frames off nominal, at most',
  dynamicRange: 'dynamic range converted',
  primaries: 'primaries converted',
  depth: 'depth reduced',
}
const keys = Object.keys(words) as (keyof Policy)[]
const changed = computed(() => keys.filter((key) => policy.value[key] !== defaultPolicy[key]).length)

/** A comma is a point as well. */
const point = (text: string) => text.replace(',', '.')

function set(key: keyof Policy, value: unknown) {
  const number = Number(value)
  if (!(number >= 0 && number <= 10)) return
  project.edit(
    `weigh ${words[key]} ${number}`,
    (doc) => void (doc.project.policy[key] = Math.min(key === 'distortion' ? 10 : 1, number)),
    `weight ${key}`,
  )
}
const reset = () => project.edit('weigh as usual', (doc) => void (doc.project.policy = { ...defaultPolicy }))
</script>

<template>
  <p class="quiet">
    What each charge weighs, from 0 to 1. The ranking follows at once{{
      changed ? `; ${changed} changed` : ''
    }}.
  </p>
  <div class="weights">
    <label v-for="key in keys" :key="key"
      >{{ words[key] }}
      <InputNumber
        :value="policy[key]"
        :min="0"
        :max="key === 'distortion' ? 10 : 1"
        :step="0.01"
        :parser="point"
        size="small"
        @change="set(key, $event)"
    /></label>
  </div>
  <Button size="small" :disabled="changed === 0" @click="reset">As usual</Button>
</template>

<style scoped>
.weights {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 3px 16px;
  padding: 8px 0;
}
label {
  display: flex;
  justify-content: space-between;
  align-items: center;
  font-size: 12px;
  gap: 6px;
}
label :deep(.ant-input-number) {
  flex: none;
  width: 74px;
}
label :deep(input) {
  font-family: var(--mono);
}
</style>
