<script setup lang="ts">
import { Button, Modal } from 'ant-design-vue'
import { computed, ref } from 'vue'
import { type Clip } from '../../../core/model/clip'
import { takeOut } from '../../../core/edit/operations'
import { formatOf } from '../../../core/model/project'
import { clipIdOf, leadsIn, timecodeAt } from '../../../core/model/timeline'
import { counted } from '../../../core/words/figures'
import { useProject } from '../../../stores/document/project'
import { useTimelines } from '../../../stores/timelines'

/** Clips that are placed take their placements with them: which ones, and what becomes of the gaps. */
const props = defineProps<{ clips: readonly Clip[] }>()
const emit = defineEmits<{ close: [] }>()
const project = useProject()
const timelines = useTimelines()
const closesUp = ref(timelines.closesUp)

const going = computed(() => {
  const names = new Map(props.clips.map(({ id, name }) => [id, name]))
  return project.timelines.flatMap((timeline) => {
    const rate = timeline.rate ?? formatOf(project.opened, timeline)?.rate
    return leadsIn(timeline).flatMap((placement) => {
      const name = names.get(clipIdOf(placement) ?? '')
      return name === undefined || !rate
        ? []
        : [{ id: placement.id, name, timeline, at: timecodeAt(timeline, placement.start), placement }]
    })
  })
})

function go() {
  const ids = props.clips.map(({ id }) => id)
  timelines.closesUp = closesUp.value
  project.edit(`take out ${counted(ids.length, 'clip')}`, (doc) => takeOut(doc, ids, closesUp.value))
  emit('close')
}
</script>

<template>
  <Modal
    open
    :footer="null"
    :width="600"
    :title="`${counted(going.length, 'placement goes', 'placements go')} along with ${clips.length === 1 ? clips[0]?.name : counted(clips.length, 'clip')}`"
    @cancel="emit('close')"
  >
    <ul>
      <li v-for="entry in going" :key="`${entry.timeline.id} ${entry.id}`">
        <span class="ellipsis">{{ entry.name }}</span>
        <span class="quiet">“{{ entry.timeline.name }}”</span>
        <span class="figures">{{ entry.at }}, {{ counted(entry.placement.length, 'frame') }}</span>
      </li>
    </ul>
    <label
      ><input v-model="closesUp" type="radio" :value="true" name="gap" /> close the gaps: what follows moves
      up</label
    >
    <label
      ><input v-model="closesUp" type="radio" :value="false" name="gap" /> leave the gaps: nothing else
      moves</label
    >
    <div class="foot">
      <Button type="primary" @click="go">Take them out</Button>
      <Button @click="emit('close')">Keep them</Button>
    </div>
  </Modal>
</template>

<style scoped>
ul {
  list-style: none;
  max-height: 240px;
  overflow: auto;
  border-top: 1px solid var(--ink);
  border-bottom: 1px solid var(--line);
  margin-bottom: 10px;
}
li {
  display: grid;
  grid-template-columns: minmax(160px, auto) 1fr auto;
  gap: 10px;
  padding: 4px 0;
}
label {
  display: block;
  padding: 3px 0;
}
.foot {
  display: flex;
  gap: 10px;
  padding-top: 12px;
}
</style>
