<script setup lang="ts">
import { Button } from 'ant-design-vue'
import { ref } from 'vue'
import { megabits } from '../../../core/dispatch/sheet'
import { type OwnProfile, usualRate } from '../../../core/model/preferences'
import { formatName, formatText, tradeName } from '../../../core/format/format'
import { parseFormat } from '../../../core/format/parse'
import { parseShape } from '../../../core/format/shape'
import { objections } from '../../../core/format/standard'
import { parseRate } from '../../../core/rate/parse'
import { rateName } from '../../../core/rate/rate'
import { useTerms } from '../../components/terms/terms'
import { usePreferences } from '../../../stores/preferences'
import CommitInput from '../../components/CommitInput.vue'
import FileButton from '../../components/FileButton.vue'
import FormatPicker from '../../components/FormatPicker.vue'
import MainsChoice from '../../components/MainsChoice.vue'
import TermMark from '../../components/terms/TermMark.vue'
import { download } from '../../download'
import { counted, kilohertz } from '../../../core/words/figures'
import { keysListed } from '../../keys/use-keys'

/** What is set once and used for every new project, and the formats that the editor keeps. */
const habits = usePreferences()
const terms = useTerms()
const said = ref<string | null>(null)

function setShape(text: string) {
  const shape = parseShape(text)
  said.value = shape ? null : `“${text}” is not a shape; write it as 16:9 or 2.39:1.`
  if (shape) habits.set('shape', shape.name)
}
function setRate(text: string) {
  if (!text.trim()) return habits.set('rate', null)
  const typed = parseRate(text)
  said.value = typed ? typed.message : `“${text}” is not a rate; write it as 25, 23.976 or 30000/1001.`
  if (typed) habits.set('rate', typed.rate)
}
function setFormat(id: string, text: string) {
  const parsed = parseFormat(text)
  const against = parsed
    ? objections(parsed.format)
    : [`“${text}” is not a format; write it as 1920x1080@25p.`]
  said.value = against[0] ?? parsed?.message ?? null
  if (parsed && against.length === 0) habits.change(id, { format: parsed.format })
}
function setName(id: string, name: string) {
  if (name.trim()) habits.change(id, { name: name.trim().slice(0, 80) })
}
const exportFile = () => download('own-formats.json', habits.exportFormats(), 'application/json')
type Imported = Awaited<ReturnType<typeof habits.importFormats>>
const tellImported = (result: Imported, what: string) =>
  (said.value = result.ok
    ? `${counted(result.added, what)} came in${result.known ? `, ${result.known} were here already` : ''}.`
    : result.error)
const importFile = async (file: File) => tellImported(await habits.importFormats(file), 'format')
const importProfiles = async (file: File) => tellImported(await habits.importProfiles(file), 'profile')
const exportProfiles = () => download('own-profiles.json', habits.exportProfiles(), 'application/json')
const profileWords = ({ wrapper, video, sound, burnIn }: OwnProfile) =>
  [
    wrapper,
    [video?.codec, video?.profile].filter(Boolean).join(' '),
    video?.rateControl?.kind === 'bit-rate' && megabits(video.rateControl.bitsPerSecond),
    sound ? `${sound.codec}, ${kilohertz(sound.sampleRate)}` : 'no sound',
    burnIn && 'timecode in the picture',
  ]
    .filter(Boolean)
    .join(' · ')
</script>

<template>
  <main class="habits" :data-saved="habits.saved">
    <p v-if="habits.trouble" role="alert">
      The last changes are not saved: {{ habits.trouble }}
      <Button size="small" @click="habits.retry">Try again</Button>
    </p>
    <div class="head">
      <RouterLink to="/">all projects</RouterLink>
      <h1>Habits</h1>
      <span class="quiet">used for every new project; a project may differ</span>
      <span class="end">
        <button class="word" @click="keysListed = true">keys</button>
        <button class="word" :aria-pressed="terms.listed" @click="terms.listed = !terms.listed">terms</button>
        <button
          class="word"
          :disabled="!habits.undoLabel"
          :title="habits.undoLabel ? `Undo: ${habits.undoLabel}` : 'Nothing to undo'"
          @click="habits.undo"
        >
          undo
        </button>
        <button
          class="word"
          :disabled="!habits.redoLabel"
          :title="habits.redoLabel ? `Redo: ${habits.redoLabel}` : 'Nothing to redo'"
          @click="habits.redo"
        >
          redo
        </button>
      </span>
    </div>
    <p v-if="said" role="status" class="said">{{ said }}</p>
    <section>
      <h2>A new project begins with</h2>
      <dl>
        <dt>mains where you film</dt>
        <dd>
          <MainsChoice
            :value="habits.habits.mains"
            name="mains"
            @set="(mains) => habits.set('mains', mains)"
          />
          <span class="quiet"
            ><template v-if="habits.habits.mains"
              >lamps pulse at {{ 2 * habits.habits.mains }} a second: rates that divide it do not
              flicker</template
            ><template v-else>no rate counts as foreign, and none as safe from flicker</template></span
          >
        </dd>
        <dt><TermMark term="display-shape">shape</TermMark></dt>
        <dd>
          <CommitInput :text="habits.habits.shape" label="Shape" class="short" @commit="setShape" />
        </dd>
        <dt><TermMark term="frame-rate">rate</TermMark></dt>
        <dd>
          <CommitInput
            :text="habits.habits.rate ? rateName(habits.habits.rate) : ''"
            :placeholder="rateName(usualRate(habits.habits))"
            label="Rate"
            class="short"
            @commit="setRate"
          />
          <span v-if="!habits.habits.rate" class="quiet">{{
            habits.habits.mains ? 'from the mains region' : 'until a region is known'
          }}</span>
        </dd>
        <dt>a clip that does not match</dt>
        <dd>
          <label
            ><input
              type="radio"
              name="mismatch"
              :checked="habits.habits.onMismatch === 'ask'"
              @change="habits.set('onMismatch', 'ask')"
            />
            ask, with figures for both ways</label
          >
          <label
            ><input
              type="radio"
              name="mismatch"
              :checked="habits.habits.onMismatch === 'keep'"
              @change="habits.set('onMismatch', 'keep')"
            />
            keep the timeline’s format, treat the clip</label
          >
        </dd>
      </dl>
    </section>
    <section>
      <div class="title">
        <h2>Own formats</h2>
        <Button :disabled="habits.ownFormats.length === 0" @click="exportFile">Export as JSON</Button>
        <FileButton accept=".json,application/json" name="File of formats" @file="importFile"
          >Import…</FileButton
        >
      </div>
      <p v-if="habits.ownFormats.length === 0" class="quiet">
        None yet. Keep one here, or in the Yard with “Keep as own”; it is offered wherever a format is chosen.
      </p>
      <table v-else>
        <thead class="heading">
          <tr>
            <th>name</th>
            <th>format</th>
            <th>what it is</th>
            <th><span class="visually-hidden">drop</span></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="own in habits.ownFormats" :key="own.id">
            <td>
              <CommitInput
                :text="own.name"
                :label="`Name of ${own.name}`"
                @commit="setName(own.id, $event)"
              />
            </td>
            <td>
              <CommitInput
                :text="formatText(own.format)"
                class="figures"
                :label="`Format of ${own.name}`"
                @commit="setFormat(own.id, $event)"
              />
            </td>
            <td class="quiet">
              {{ formatName(own.format) }}{{ tradeName(own.format) ? `, ${tradeName(own.format)}` : '' }}
            </td>
            <td>
              <button class="word" :aria-label="`Drop ${own.name}`" @click="habits.drop(own.id)">drop</button>
            </td>
          </tr>
        </tbody>
      </table>
      <FormatPicker
        :base="null"
        verb="Keep"
        name="A format to keep"
        @pick="(format) => habits.keep(format)"
      />
    </section>
    <section>
      <div class="title">
        <h2>Own profiles</h2>
        <Button :disabled="habits.ownProfiles.length === 0" @click="exportProfiles">Export as JSON</Button>
        <FileButton accept=".json,application/json" name="File of profiles" @file="importProfiles"
          >Import…</FileButton
        >
      </div>
      <p v-if="habits.ownProfiles.length === 0" class="quiet">
        None yet. Keep how a deliverable is wrapped and encoded in Dispatch.
      </p>
      <table v-else>
        <thead class="heading">
          <tr>
            <th>name</th>
            <th>what it is</th>
            <th><span class="visually-hidden">drop</span></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="own in habits.ownProfiles" :key="own.id">
            <td>
              <CommitInput
                :text="own.name"
                :label="`Name of ${own.name}`"
                @commit="(name) => name.trim() && habits.renameProfile(own.id, name.trim().slice(0, 80))"
              />
            </td>
            <td class="figures">{{ profileWords(own) }}</td>
            <td>
              <button class="word" :aria-label="`Drop ${own.name}`" @click="habits.dropProfile(own.id)">
                drop
              </button>
            </td>
          </tr>
        </tbody>
      </table>
    </section>
  </main>
</template>

<style scoped>
.habits {
  height: 100%;
  overflow: auto;
  padding: 0 32px 40px;
}
.head {
  display: flex;
  gap: 20px;
  align-items: baseline;
  padding: 18px 0 12px;
  border-bottom: 1px solid var(--ink);
}
.end {
  margin-left: auto;
}
.said {
  padding-top: 10px;
}
section {
  padding-top: 18px;
  max-width: 900px;
}
dl {
  display: grid;
  grid-template-columns: 190px 1fr;
}
dt,
dd {
  padding: 9px 0;
  border-bottom: 1px solid var(--line);
  min-height: 46px;
}
dt {
  padding-top: 14px;
}
th {
  font-weight: 500;
}
dd {
  display: flex;
  gap: 18px;
  align-items: center;
}
dd :deep(label) {
  display: flex;
  gap: 6px;
  min-height: 24px;
  align-items: center;
}
.short {
  width: 130px;
  font-family: var(--mono);
}
.title {
  display: flex;
  gap: 8px;
  align-items: center;
  padding-bottom: 8px;
}
.title h2 {
  margin-right: auto;
}
table {
  border-collapse: collapse;
  width: 100%;
  margin-bottom: 12px;
}
th {
  text-align: left;
}
td,
th {
  padding: 4px 12px 4px 0;
  border-bottom: 1px solid var(--line);
}
</style>
