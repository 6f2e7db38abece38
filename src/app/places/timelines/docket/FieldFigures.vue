<script setup lang="ts">
import { computed } from 'vue'
import type { SettledPlacement } from '../../../../core/plan/running'
import { useSelection } from '../../../../stores/selection'
import { useCut } from '../../../../stores/cut'

/** Which field the same rate keeps, and whether the field order is turned by a line of shift. */
const props = defineProps<{ settled: SettledPlacement; interlacedTimeline: boolean }>()
const selection = useSelection()
const cut = useCut()
const same = computed(() => {
  const { fields } = props.settled.treatment
  return fields.kind === 'deinterlace' && fields.rate.kind === 'same' ? fields : null
})
const keep = (field: 'first' | 'second') =>
  same.value &&
  cut.setTreatment(selection.placements, { fields: { ...same.value, rate: { kind: 'same', keep: field } } })
</script>

<template>
  <div class="fields">
    <label v-if="same" class="quiet"
      >keeps
      <select
        aria-label="Which field is kept"
        :value="same.rate.kind === 'same' ? same.rate.keep : 'first'"
        @change="keep(($event.target as HTMLSelectElement).value as 'first' | 'second')"
      >
        <option value="first">the first field</option>
        <option value="second">the second field</option>
      </select></label
    >
    <label v-if="interlacedTimeline"
      ><input
        type="checkbox"
        :checked="settled.treatment.shiftOrder"
        @change="
          cut.setTreatment(selection.placements, { shiftOrder: ($event.target as HTMLInputElement).checked })
        "
      />
      turn the field order by a line</label
    >
  </div>
</template>

<style scoped>
.fields {
  display: flex;
  gap: 10px;
  padding: 0 4px;
  font-size: 12px;
}
label {
  display: flex;
  gap: 6px;
  align-items: center;
  min-height: 24px;
}
select {
  height: 24px;
  font-size: 12px;
}
</style>
