<script setup lang="ts">
import { type FormatOrigin, type Timeline } from '../../../core/edit/timeline'
import { Button, Input, Modal } from 'ant-design-vue'
import { computed, ref, shallowRef } from 'vue'
import { consequenceFor, consequenceSentence, costlyLater } from '../../../core/check/consequence'
import { formatOfClip } from '../../../core/edit/placing'
import { proposeName } from '../../../core/edit/reformat'
import { formatOf } from '../../../core/edit/project'
import { originWords } from '../../../core/exchange/log'
import { type Format, formatName, rec709, sameFormat } from '../../../core/format/format'
import { useProject } from '../../../stores/project'
import { useTimelines } from '../../../stores/timelines'
import FormatPicker from '../../components/FormatPicker.vue'

/**
 * A timeline's name and what it runs in: the project's format, or its own, from wherever; with what a change does to its
 * cut. Without a timeline, one is made.
 */
const props = defineProps<{ timeline: Timeline | null }>()
const emit = defineEmits<{ close: [] }>()
const project = useProject()
const timelines = useTimelines()

const now = computed(() => (props.timeline ? formatOf(project.opened, props.timeline) : project.format))
const own = shallowRef<Format | null>(props.timeline?.ownFormat ?? null)
const origin = shallowRef<FormatOrigin | null>(props.timeline?.formatOrigin ?? null)
const follows = ref(props.timeline ? props.timeline.ownFormat === null : false)
const shownOwn = computed(() => {
  const format = own.value ?? now.value
  return format ? formatName(format) : 'none chosen'
})
const wanted = computed(() => (follows.value ? null : (own.value ?? now.value)))
const runsIn = computed(() => (follows.value ? project.format : wanted.value))

/** Until a name is typed, it proposes itself. */
const typedName = ref(props.timeline?.name ?? '')
const proposed = computed(() => proposeName(project.opened, runsIn.value))
const newName = computed(() => {
  const name = typedName.value.trim()
  return name && name !== props.timeline?.name ? name : undefined
})

/** Following and holding the same format are two things: later changes of the project reach only the first. */
const same = computed(() => {
  if (!props.timeline) return false
  const { ownFormat } = props.timeline
  return ownFormat && wanted.value ? sameFormat(ownFormat, wanted.value) : ownFormat === wanted.value
})
const consequence = computed(() =>
  props.timeline ? consequenceFor(project.opened, props.timeline, wanted.value) : null,
)
const says = computed(() => {
  const following = follows.value
    ? 'It changes whenever the project’s format does.'
    : 'It stays when the project’s format changes.'
  if (!runsIn.value) return 'It has no format yet.'
  if (!consequence.value) {
    const from = follows.value
      ? 'from the project'
      : origin.value
        ? originWords(origin.value)
        : 'as the project’s'
    return `It runs in ${formatName(runsIn.value)}, ${from}. ${following}`
  }
  if (same.value) return `As it is now. ${following}`
  const sentence = consequence.value.changes
    ? consequenceSentence(consequence.value)
    : `Nothing changes in “${consequence.value.timeline.name}” now.`
  return `${sentence} ${following}`
})

function take(format: Format, from: FormatOrigin) {
  own.value = format
  origin.value = from
  follows.value = false
}
/** Clips that have a format to give: moving pictures with a known rate. */
const givers = computed(() =>
  project.clips.flatMap((clip) => {
    const format = clip.fault ? null : formatOfClip(clip, now.value?.colour ?? rec709)
    return format ? [{ clip, format }] : []
  }),
)
function takeFromClip(event: Event) {
  const select = event.target as HTMLSelectElement
  const giver = givers.value.find(({ clip }) => clip.id === select.value)
  select.value = ''
  if (giver) take(giver.format, { setBy: 'clip', clip: giver.clip.name })
}

function set() {
  if (props.timeline)
    timelines.change(props.timeline, {
      name: newName.value,
      ...(!same.value && { format: wanted.value, origin: origin.value }),
    })
  else timelines.create(wanted.value, origin.value, newName.value)
  emit('close')
}
</script>

<template>
  <Modal
    open
    :footer="null"
    :width="560"
    :title="timeline ? `“${timeline.name}”` : 'A new timeline'"
    @cancel="emit('close')"
  >
    <div class="ways">
      <label
        >name <Input v-model:value="typedName" :placeholder="proposed" aria-label="Name of the timeline"
      /></label>
      <label
        ><input v-model="follows" type="radio" :value="true" name="follows" /> follows the project,
        <span class="figures">{{
          project.format ? formatName(project.format) : 'no format yet'
        }}</span></label
      >
      <label
        ><input v-model="follows" type="radio" :value="false" name="follows" /> has its own,
        <span class="figures">{{ shownOwn }}</span></label
      >
      <FormatPicker
        :base="now"
        verb="Use"
        name="Its own format"
        @pick="(format, setBy) => take(format, { setBy, clip: null })"
      >
        <select aria-label="The format of a clip" @change="takeFromClip">
          <option value="">of a clip…</option>
          <option v-for="{ clip, format } in givers" :key="clip.id" :value="clip.id">
            {{ clip.name }}: {{ formatName(format) }}
          </option>
        </select>
      </FormatPicker>
    </div>
    <p role="status">{{ says }}</p>
    <p v-if="consequence?.carried" class="quiet">{{ costlyLater(project.opened) }}</p>
    <div class="foot">
      <Button type="primary" :disabled="(same && !newName) || !runsIn" @click="set">{{
        timeline ? 'Set it' : 'Make it'
      }}</Button>
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
select {
  width: 110px;
}
.foot {
  display: flex;
  gap: 8px;
  padding-top: 14px;
}
</style>
