<script setup lang="ts">
import { Button } from 'ant-design-vue'
import { computed, ref, watch } from 'vue'
import { proposalGroups } from '../../../../core/check/proposals'
import type { Timeline } from '../../../../core/model/timeline'
import type { Format } from '../../../../core/format/format'
import { toNumber } from '../../../../core/rational/rational'
import { clockTime, counted, figure } from '../../../../core/words/figures'
import { useProject } from '../../../../stores/document/project'
import { useCut } from '../../../../stores/cut'

/** What is usual for every clip that nobody has treated: how many of which kind, why, each kind to be left out; one step. */
const props = defineProps<{ timeline: Timeline; format: Format }>()
const project = useProject()
const cut = useCut()

const groups = computed(() => proposalGroups(project.opened, props.timeline))
/** Reasons that are left out. */
const leftOut = ref(new Set<string>())
watch(
  () => props.timeline.id,
  () => (leftOut.value = new Set()),
)
const taken = computed(() =>
  groups.value.filter(({ reason }) => !leftOut.value.has(reason)).flatMap((group) => group.taken),
)
function leave(reason: string, isTaken: boolean) {
  const next = new Set(leftOut.value)
  if (isTaken) next.delete(reason)
  else next.add(reason)
  leftOut.value = next
}
const seconds = (frames: number) => frames / toNumber(props.format.rate)
</script>

<template>
  <section v-if="groups.length" aria-label="Treat all">
    <h3>
      Usual for
      {{
        counted(
          groups.reduce((sum, group) => sum + group.taken.length, 0),
          'clip',
        )
      }}
    </h3>
    <ul>
      <li v-for="group in groups" :key="group.reason">
        <label>
          <input
            type="checkbox"
            :checked="!leftOut.has(group.reason)"
            @change="leave(group.reason, leftOut.has(group.reason))"
          />
          <span
            ><b class="figures">{{ group.taken.length }} ×</b> {{ group.reason }}
            <span class="quiet figures line"
              >{{ clockTime(seconds(group.frames)) }} · loss {{ figure(group.loss[0], 3) }} →
              {{ figure(group.loss[1], 3)
              }}{{ group.couldLoseLess ? `; ${group.couldLoseLess} could lose less` : '' }}</span
            ></span
          >
        </label>
      </li>
    </ul>
    <p class="quiet small">What you have set stays. One step: undo takes all of it back.</p>
    <Button size="small" type="primary" :disabled="taken.length === 0" @click="cut.treatAsProposed(taken)">{{
      taken.length === 1 ? 'Treat 1 clip so' : `Treat ${taken.length} clips so`
    }}</Button>
  </section>
</template>

<style scoped>
section {
  border-left: 3px solid var(--accent);
  padding: 2px 0 4px 8px;
}
h3 {
  margin: 0;
}
ul {
  list-style: none;
  padding: 0;
  margin: 0 0 6px;
}
li {
  padding: 4px 0;
}
label {
  display: flex;
  gap: 6px;
  align-items: baseline;
  accent-color: var(--accent);
}
.line {
  display: block;
}
.small {
  font-size: 12px;
}
</style>
