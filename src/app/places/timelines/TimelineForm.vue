<script setup lang="ts">
import { Button, Input, Modal } from 'ant-design-vue'
import { computed, ref, shallowRef } from 'vue'
import { consequenceFor, consequenceSentence, costlyLater } from '../../../core/check/consequence'
import { type Timeline, formatOf } from '../../../core/edit/project'
import { type Format, formatName, sameFormat } from '../../../core/format/format'
import { useProject } from '../../../stores/project'
import { useTimelines } from '../../../stores/timelines'
import FormatPicker from '../../components/FormatPicker.vue'

/** A timeline's name and what it runs in: the project's format, or its own; with what a change does to its cut. */
const props = defineProps<{ timeline: Timeline }>()
const emit = defineEmits<{ close: [] }>()
const project = useProject()
const timelines = useTimelines()

const name = ref(props.timeline.name)
const renamed = computed(() => name.value.trim() !== '' && name.value.trim() !== props.timeline.name)
const own = shallowRef<Format | null>(props.timeline.ownFormat)
const follows = ref(props.timeline.ownFormat === null)
const now = computed(() => formatOf(project.doc!, props.timeline))
const wanted = computed(() => (follows.value ? null : (own.value ?? now.value)))
/** Following and holding the same format are two things: later changes of the project reach only the first. */
const same = computed(() => {
  const { ownFormat } = props.timeline
  return ownFormat && wanted.value ? sameFormat(ownFormat, wanted.value) : ownFormat === wanted.value
})
const consequence = computed(() => consequenceFor(project.doc!, props.timeline, wanted.value))
const says = computed(() => {
  const following = follows.value
    ? 'It changes whenever the project’s format does.'
    : 'It stays when the project’s format changes.'
  if (same.value) return `As it is now. ${following}`
  const sentence = consequence.value.changes
    ? consequenceSentence(consequence.value)
    : `Nothing changes in “${props.timeline.name}” now.`
  return `${sentence} ${following}`
})

function pick(format: Format) {
  own.value = format
  follows.value = false
}
function set() {
  timelines.change(props.timeline, {
    ...(renamed.value && { name: name.value.trim() }),
    ...(!same.value && { format: wanted.value }),
  })
  emit('close')
}
</script>

<template>
  <Modal open :footer="null" :width="560" :title="`“${timeline.name}”`" @cancel="emit('close')">
    <div class="ways">
      <label>name <Input v-model:value="name" aria-label="Name of the timeline" /></label>
      <label
        ><input v-model="follows" type="radio" :value="true" name="follows" /> follows the project,
        <span class="figures">{{
          project.format ? formatName(project.format) : 'no format yet'
        }}</span></label
      >
      <label
        ><input v-model="follows" type="radio" :value="false" name="follows" /> has its own,
        <span class="figures">{{ (own ?? now) ? formatName((own ?? now)!) : 'none chosen' }}</span></label
      >
      <FormatPicker :base="now" verb="Use" name="Its own format" @pick="pick" />
    </div>
    <p role="status">{{ says }}</p>
    <p v-if="consequence.carried" class="quiet">{{ costlyLater(project.doc!) }}</p>
    <div class="foot">
      <Button type="primary" :disabled="(same && !renamed) || (!follows && !wanted)" @click="set"
        >Set it</Button
      >
      <Button @click="emit('close')">Leave it</Button>
    </div>
  </Modal>
</template>

<style scoped>
.ways {
  display: flex;
  flex-direction: column;
  gap: 8px;
  padding-bottom: 12px;
  margin-bottom: 12px;
  border-bottom: 1px solid var(--line);
}
label {
  display: flex;
  gap: 8px;
  align-items: center;
  min-height: 24px;
}
.foot {
  display: flex;
  gap: 8px;
  padding-top: 14px;
}
</style>
