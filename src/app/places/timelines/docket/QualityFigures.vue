<script setup lang="ts">
import { computed } from 'vue'
import type { SettledPlacement } from '../../../../core/plan/running'
import { useSelection } from '../../../../stores/selection'
import { useCut } from '../../../../stores/cut'
import FigureInput from './FigureInput.vue'

/** Sharpening after scaling: how much stronger what is finer than a radius becomes. */
const props = defineProps<{ settled: SettledPlacement }>()
const selection = useSelection()
const cut = useCut()
const sharpen = computed(() => props.settled.treatment.framing.sharpen)
const usual = { amount: 0.4, radius: 1.2 }
const clamp = (value: number, least: number, most: number) => Math.max(least, Math.min(most, value))
const set = (next: typeof sharpen.value) =>
  cut.setTreatment(selection.placements, { framing: { sharpen: next } })
</script>

<template>
  <div class="sharpen">
    <label
      @mouseenter="sharpen || selection.pointAt({ framing: { sharpen: usual } })"
      @mouseleave="selection.pointAt(null)"
      ><input
        type="checkbox"
        :checked="sharpen !== null"
        @change="set(($event.target as HTMLInputElement).checked ? usual : null)"
      />
      sharpen</label
    >
    <template v-if="sharpen">
      <FigureInput
        label="by"
        :value="sharpen.amount"
        :step="0.1"
        @change="set({ ...sharpen, amount: clamp($event, 0, 5) })"
      />
      <FigureInput
        label="at"
        unit="px"
        :value="sharpen.radius"
        :step="0.1"
        @change="set({ ...sharpen, radius: clamp($event, 0.1, 20) })"
      />
    </template>
  </div>
</template>

<style scoped>
.sharpen {
  display: flex;
  gap: 10px;
  align-items: center;
  min-height: 26px;
  padding: 0 4px;
  font-size: 12px;
}
label {
  display: flex;
  gap: 6px;
  align-items: center;
}
</style>
