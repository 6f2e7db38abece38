<script setup lang="ts">
import { deepEqual } from '../../../core/equality'
import { computed, ref, watch } from 'vue'
import {
  endingOf,
  soundCodecNamed,
  soundCodecs,
  videoCodecNamed,
  videoCodecs,
  wrapperNamed,
  deliveryWrappers,
} from '../../../core/dispatch/codecs'
import { soundIn, soundLike, usualSound, usualVideo } from '../../../core/dispatch/usual'
import type { Deliverable } from '../../../core/model/deliverable'
import { lengthOf, timecodeAt } from '../../../core/model/timeline'
import { rateName } from '../../../core/rate/rate'
import { timecodeToFrame } from '../../../core/rate/timecode'
import { toNumber } from '../../../core/rational/rational'
import { channelsOf, layoutOf } from '../../../core/sound/mix'
import { counted, kilohertz } from '../../../core/words/figures'
import { useDispatching } from '../../../stores/dispatching'
import type { OwnProfile } from '../../../core/model/preferences'
import { usePreferences } from '../../../stores/preferences'
import { useSelection } from '../../../stores/selection'
import { useProject } from '../../../stores/document/project'
import { useTimelines } from '../../../stores/timelines'
import CommitInput from '../../components/CommitInput.vue'
import NativeSelect from '../../components/NativeSelect.vue'

/** What is set of the deliverable in hand. */
const dispatching = useDispatching()
const project = useProject()
const habits = usePreferences()
const selection = useSelection()
const timelines = useTimelines()
const chosen = computed<Deliverable>(() => dispatching.current as Deliverable)
const out = computed(() => dispatching.check?.out ?? null)

const set = (label: string, what: Partial<Deliverable>) =>
  dispatching.change(label, { ...chosen.value, ...what })
const setVideo = (label: string, what: object) =>
  chosen.value.video && set(label, { video: { ...chosen.value.video, ...what } })
const setSound = (label: string, what: object) =>
  chosen.value.sound && set(label, { sound: { ...chosen.value.sound, ...what } })

const codec = computed(() => videoCodecNamed(chosen.value.video?.codec))
const heard = computed(() => soundCodecNamed(chosen.value.sound?.codec))
const options = <T extends string | number>(values: readonly T[], label: (value: T) => string = String) =>
  values.map((value) => ({ value, label: label(value) }))

function setWrapper(name: string) {
  const holder = wrapperNamed(name)
  if (!holder) return
  // What it cannot carry is taken anew as usual; what it can stays.
  const keepsPicture = codec.value?.wrappers.includes(holder)
  const keepsSound = heard.value?.wrappers.includes(holder)
  const usual = videoCodecs.find((videoCodec) => videoCodec.wrappers.includes(holder))
  set(`wrap it in ${name}`, {
    wrapper: name,
    video: keepsPicture ? chosen.value.video : usual ? usualVideo(usual, chosen.value) : null,
    sound: keepsSound
      ? chosen.value.sound
      : soundLike(chosen.value.sound, soundIn(name, keepsPicture ? chosen.value.video?.codec : usual?.name)),
  })
}
function setCodec(name: string) {
  const next = videoCodecNamed(name)
  const holder = wrapperNamed(chosen.value.wrapper)
  if (!next) return
  const fits = holder && next.wrappers.includes(holder)
  const wrapper = fits ? holder : (next.wrappers[0] ?? null)
  set(`encode it as ${name}`, {
    wrapper,
    video: usualVideo(next, chosen.value),
    sound: soundLike(chosen.value.sound, soundIn(wrapper, name)),
  })
}
function setSoundCodec(name: string) {
  const next = soundCodecNamed(name)
  set(next ? `sound as ${name}` : 'no sound', {
    sound: next ? soundLike(chosen.value.sound ?? usualSound(next), usualSound(next)) : null,
  })
}
function setBitRate(text: string) {
  const megabits = Number(text.replace(',', '.'))
  if (Number.isFinite(megabits) && megabits > 0)
    setVideo(`${megabits} Mbit/s`, { rateControl: { kind: 'bit-rate', bitsPerSecond: megabits * 1e6 } })
}
const bitRate = computed(() => {
  const control = chosen.value.video?.rateControl
  return control?.kind === 'bit-rate' ? String(Number((control.bitsPerSecond / 1e6).toFixed(2))) : ''
})
const loudness = computed(() => String(chosen.value.sound?.loudnessLufs ?? '').replace('-', '−'))
function setLoudness(text: string) {
  const value = Number(text.replace('−', '-').replace(',', '.'))
  if (text.trim() === '') setSound('as loud as the cut', { loudnessLufs: null })
  else if (Number.isFinite(value) && value <= 0 && value >= -70)
    setSound(`${text} LUFS`, { loudnessLufs: value })
}
/** The own profile that it is set as; none where it differs from all. */
const profileId = computed(() => {
  const set = ({ wrapper, video, sound, burnIn }: Omit<OwnProfile, 'id' | 'name'>) => [
    wrapper,
    video,
    sound,
    burnIn,
  ]
  return habits.ownProfiles.find((own) => deepEqual(set(own), set(chosen.value)))?.id ?? ''
})
function takeProfile(id: string) {
  const own = habits.ownProfiles.find((profile) => profile.id === id)
  if (!own) return
  const { wrapper, video, sound, burnIn } = own
  set(`set it as ${own.name}`, { wrapper, video, sound, burnIn })
}
/** How the cut comes into a frame of another shape. */
const framing = computed(() => chosen.value.treatment.framing?.mode?.kind ?? 'framed')
function setFraming(kind: string) {
  const { framing: _, ...rest } = chosen.value.treatment
  set(`frame it: ${kind}`, {
    treatment: kind === 'fit' || kind === 'fill' ? { ...rest, framing: { mode: { kind } } } : rest,
  })
}
const frames = computed(() => out.value?.range ?? { from: 0, to: 0 })
const whole = computed(() => chosen.value.range === null)
function setRange(end: 'from' | 'to', text: string) {
  const timeline = out.value?.timeline
  if (!timeline?.rate) return
  const at = timecodeToFrame(text, timeline.rate, timeline.dropFrame)
  const first = timecodeToFrame(timeline.startTimecode, timeline.rate, timeline.dropFrame) ?? 0
  const length = lengthOf(timeline)
  rangeTrouble.value = null
  if (at === null) {
    rangeTrouble.value = `“${text}” is no timecode at ${rateName(timeline.rate)} frames a second.`
    return
  }
  const typed = at - first
  const other = end === 'from' ? frames.value.to : frames.value.from
  // Whichever end is typed first: the earlier one is where it begins.
  const [from, to] = [Math.min(typed, other), Math.max(typed, other)]
  if (typed < 0 || typed > length)
    rangeTrouble.value = `“${text}” lies outside: the cut goes from ${timecode(0)} to ${timecode(length)}.`
  else if (from === to) rangeTrouble.value = 'It would begin where it ends.'
  else set('set what of it goes out', { range: { from, to } })
}
/** Why what was typed of the range is not set; null where it is. */
const rangeTrouble = ref<string | null>(null)
watch(
  () => chosen.value.id,
  () => (rangeTrouble.value = null),
)
/** The stretch in hand on the timeline, in frames of what goes out; null where none is, or it is of another timeline. */
const inHand = computed(() => {
  const [stretch, outgoing] = [selection.stretch, out.value]
  if (!stretch || !outgoing || outgoing.source.id !== timelines.current?.id) return null
  const times = toNumber(outgoing.format.rate) / toNumber(outgoing.sourceFormat.rate)
  return { from: Math.floor(stretch.from * times), to: Math.ceil(stretch.to * times) }
})
const timecode = (frame: number) => (out.value ? timecodeAt(out.value.timeline, frame) : '')
</script>

<template>
  <div class="form" role="group" :aria-label="`Settings of ${chosen.name}`">
    <label
      ><span>name</span
      ><CommitInput
        :text="chosen.name"
        label="Name of the deliverable"
        @commit="(name) => name.trim() && set(`call it ${name.trim()}`, { name: name.trim() })"
    /></label>
    <label
      ><span>timeline</span
      ><NativeSelect
        :value="chosen.timelineId ?? out?.source.id ?? ''"
        aria-label="Timeline that goes out"
        :options="project.timelines.map(({ id, name }) => ({ value: id, label: name }))"
        @update:value="(timelineId: string) => set('deliver another timeline', { timelineId, range: null })"
    /></label>
    <div class="row">
      <span>own profile</span
      ><span class="pair"
        ><NativeSelect
          :value="profileId"
          aria-label="Own profile"
          :options="[
            { value: '', label: habits.ownProfiles.length ? 'none of these' : 'none kept yet' },
            ...habits.ownProfiles.map(({ id, name }) => ({ value: id, label: name })),
          ]"
          @update:value="takeProfile"
        />
        <button class="word" :disabled="profileId !== ''" @click="habits.keepProfile(chosen, chosen.name)">
          keep as own
        </button></span
      >
    </div>
    <label
      ><span>wrapper</span
      ><NativeSelect
        :value="chosen.wrapper ?? ''"
        aria-label="Wrapper"
        :options="
          deliveryWrappers.map((value) => ({
            value: value as string,
            label: `${value}, .${endingOf[value]}`,
          }))
        "
        @update:value="setWrapper"
    /></label>
    <label
      ><span>codec</span
      ><span class="pair"
        ><NativeSelect
          :value="chosen.video?.codec ?? ''"
          aria-label="Codec"
          :options="options(videoCodecs.map(({ name }) => name))"
          @update:value="setCodec" /><NativeSelect
          v-if="codec"
          :value="chosen.video?.profile ?? ''"
          aria-label="Profile"
          :options="options(codec.profiles.map(({ name }) => name))"
          @update:value="(profile: string) => setVideo(`profile ${profile}`, { profile })" /></span
    ></label>
    <label v-if="codec?.amount === 'bit-rate'"
      ><span>bit rate</span
      ><span class="pair"
        ><CommitInput :text="bitRate" label="Bit rate in Mbit/s" @commit="setBitRate" /><span class="quiet"
          >Mbit/s</span
        ></span
      ></label
    >
    <label v-if="codec?.twoPasses"
      ><span>passes</span
      ><NativeSelect
        :value="chosen.video?.passes ?? 1"
        aria-label="Passes"
        :options="[
          { value: 1, label: 'one' },
          { value: 2, label: 'two: slower, the bits where they are needed' },
        ]"
        @update:value="(passes: number) => setVideo(`${counted(passes, 'pass', 'passes')}`, { passes })"
    /></label>
    <label
      ><span>framing</span
      ><NativeSelect
        :value="framing"
        aria-label="Framing in another shape"
        :options="[
          { value: 'framed', label: 'as framed for this shape' },
          { value: 'fill', label: 'fills the frame' },
          { value: 'fit', label: 'fits, with bars' },
        ]"
        @update:value="setFraming"
    /></label>
    <label
      ><span>sound</span
      ><span class="pair"
        ><NativeSelect
          :value="chosen.sound?.codec ?? ''"
          aria-label="Sound codec"
          :options="[...options(soundCodecs.map(({ name }) => name)), { value: '', label: 'none' }]"
          @update:value="setSoundCodec" /><NativeSelect
          v-if="chosen.sound && heard"
          :value="chosen.sound.sampleRate"
          aria-label="Sample rate"
          :options="options(heard.sampleRates, kilohertz)"
          @update:value="
            (sampleRate: number) => setSound(kilohertz(sampleRate), { sampleRate })
          " /><NativeSelect
          v-if="chosen.sound"
          :value="chosen.sound.channels"
          aria-label="Channels"
          :options="options(Object.values(channelsOf), (count) => layoutOf(count) ?? String(count))"
          @update:value="
            (channels: number) => setSound(layoutOf(channels) ?? String(channels), { channels })
          " /></span
    ></label>
    <label v-if="chosen.sound"
      ><span>loudness</span
      ><span class="pair"
        ><CommitInput
          :text="loudness"
          label="Loudness in LUFS"
          placeholder="as the cut"
          @commit="setLoudness"
        /><span class="quiet">LUFS; −23 by EBU R 128</span></span
      ></label
    >
    <label
      ><span>goes out</span
      ><span class="pair"
        ><CommitInput
          :text="timecode(frames.from)"
          label="From timecode"
          @commit="(text) => setRange('from', text)"
        />
        <CommitInput
          :text="timecode(frames.to)"
          label="To timecode"
          @commit="(text) => setRange('to', text)"
        />
        <button class="word" :disabled="whole" @click="set('deliver all of it', { range: null })">all</button>
        <button
          v-if="inHand"
          class="word"
          :title="`${timecode(inHand.from)} to ${timecode(inHand.to)}`"
          @click="set('deliver what is in hand', { range: inHand })"
        >
          in hand
        </button></span
      ></label
    >
    <p v-if="rangeTrouble" class="trouble" role="alert">{{ rangeTrouble }}</p>
    <label
      ><span>written in</span
      ><span class="pair"
        ><input
          type="checkbox"
          :checked="chosen.burnIn"
          aria-label="Timecode and source frame written into the picture"
          @change="set('timecode in the picture', { burnIn: ($event.target as HTMLInputElement).checked })"
        />
        timecode and source frame</span
      ></label
    >
  </div>
</template>

<style scoped>
/* Under the fields that it is about. */
.trouble {
  margin: 0;
  padding: 3px 0 3px 78px;
}
label,
.row {
  display: grid;
  grid-template-columns: 78px minmax(0, 1fr);
  align-items: center;
  padding: 3px 0;
  border-bottom: 1px solid var(--line);
}
label > span:first-child,
.row > span:first-child {
  color: var(--quiet);
}
.pair {
  display: flex;
  gap: 6px;
  align-items: center;
}
</style>
