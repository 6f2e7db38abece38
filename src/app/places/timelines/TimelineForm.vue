<script setup lang="ts">
import { type FormatOrigin, type Timeline } from '../../../core/model/timeline'
import { Button, Input, Modal } from 'ant-design-vue'
import { computed, ref, shallowRef } from 'vue'
import { consequenceFor, consequenceSentence, costlyLater } from '../../../core/check/consequence'
import { formatOfClip } from '../../../core/edit/placing'
import { proposeName } from '../../../core/edit/reformat'
import { formatOf } from '../../../core/model/project'
import { originWords } from '../../../core/exchange/log'
import { type Format, formatName, rec709, sameFormat } from '../../../core/format/format'
import { useProject } from '../../../stores/document/project'
import { canDropFrame, timecodeToFrame } from '../../../core/rate/timecode'
import { kilohertz } from '../../../core/words/figures'
import { useCut } from '../../../stores/cut'
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
const cut = useCut()

const currentFormat = computed(() =>
  props.timeline ? formatOf(project.opened, props.timeline) : project.format,
)
const own = shallowRef<Format | null>(props.timeline?.ownFormat ?? null)
const origin = shallowRef<FormatOrigin | null>(props.timeline?.formatOrigin ?? null)
const follows = ref(props.timeline ? props.timeline.ownFormat === null : false)
const shownOwn = computed(() => {
  const format = own.value ?? currentFormat.value
  return format ? formatName(format) : 'none chosen'
})
const wanted = computed(() => (follows.value ? null : (own.value ?? currentFormat.value)))
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
    const format = clip.fault ? null : formatOfClip(clip, currentFormat.value?.colour ?? rec709)
    return format ? [{ clip, format }] : []
  }),
)
function takeFromClip(event: Event) {
  const select = event.target as HTMLSelectElement
  const giver = givers.value.find(({ clip }) => clip.id === select.value)
  select.value = ''
  if (giver) take(giver.format, { setBy: 'clip', clip: giver.clip.name })
}

/** How its sound is laid out and its frames are counted. */
const soundLayout = ref(props.timeline?.soundLayout ?? 'stereo')
const sampleRate = ref(props.timeline?.sampleRate ?? 48_000)
const startTimecode = ref(props.timeline?.startTimecode ?? '00:00:00:00')
const dropFrame = ref(props.timeline?.dropFrame ?? false)
const rate = computed(() => runsIn.value?.rate ?? null)
const drops = computed(() => dropFrame.value && rate.value !== null && canDropFrame(rate.value))
const startIsRead = computed(
  () => rate.value === null || timecodeToFrame(startTimecode.value, rate.value, drops.value) !== null,
)
/** What of them is another than it was. */
const counting = computed(() => {
  const settings = {
    soundLayout: soundLayout.value,
    sampleRate: sampleRate.value,
    startTimecode: startTimecode.value.trim(),
    dropFrame: drops.value,
  }
  return Object.fromEntries(
    Object.entries(settings).filter(
      ([key, value]) => props.timeline?.[key as keyof typeof settings] !== value,
    ),
  )
})

const recounts = computed(() => Object.keys(counting.value).length > 0)

function set() {
  if (props.timeline) {
    if (newName.value !== undefined || !same.value)
      timelines.change(props.timeline, {
        name: newName.value,
        ...(!same.value && { format: wanted.value, origin: origin.value }),
      })
    if (recounts.value) cut.setTimeline(counting.value, props.timeline.id)
  } else timelines.create(wanted.value, origin.value, newName.value)
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
        :base="currentFormat"
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
    <div v-if="timeline" class="counting">
      <label
        >sound
        <select v-model="soundLayout" aria-label="Layout of its sound">
          <option value="mono">mono</option>
          <option value="stereo">stereo</option>
          <option value="5.1">5.1</option>
        </select></label
      >
      <label
        >at
        <select v-model="sampleRate" aria-label="Samples of its sound a second">
          <option v-for="hertz in [44100, 48000, 96000]" :key="hertz" :value="hertz">
            {{ kilohertz(hertz) }}
          </option>
        </select></label
      >
      <label
        >first frame
        <input
          v-model="startTimecode"
          class="figures"
          aria-label="Start timecode"
          :aria-invalid="!startIsRead"
      /></label>
      <label v-if="rate && canDropFrame(rate)"
        ><input v-model="dropFrame" type="checkbox" /> drop-frame</label
      >
      <span v-if="!startIsRead" class="severe">no such timecode at this rate</span>
    </div>
    <p role="status">{{ says }}</p>
    <p v-if="consequence?.carried" class="quiet">{{ costlyLater(project.opened) }}</p>
    <div class="foot">
      <Button
        type="primary"
        :disabled="(same && !newName && !recounts) || !runsIn || !startIsRead"
        @click="set"
        >{{ timeline ? 'Set it' : 'Make it' }}</Button
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
select {
  width: 110px;
}
.counting {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
  padding-bottom: 10px;
}
.counting select {
  width: 84px;
}
.counting input:not([type]) {
  width: 104px;
  height: 28px;
  border: 1px solid var(--ink);
  background: var(--sheet);
  color: var(--ink);
}
.foot {
  display: flex;
  gap: 8px;
  padding-top: 14px;
}
</style>
