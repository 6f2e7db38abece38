<script setup lang="ts">
import { computed } from 'vue'
import { clockTime, counted, fileSize, figure } from '../../../core/words/figures'
import { type QueuedRender, fileOf, isOver, useRendering } from '../../../stores/rendering'
import type { RenderProgress } from '../../../media/render/plan'
import type { RenderResult } from '../../../media/render/render'
import { saveFile } from '../../download'
import { askForFolder, givesFolders } from '../../folder'

/** What is being made, what waits, and what is whole or is not. */
const rendering = useRendering()
const progressOf = ({ state }: QueuedRender): RenderProgress | null =>
  'progress' in state ? state.progress : null
const errorOf = ({ state }: QueuedRender): string | null => ('error' in state ? state.error : null)
const left = ({ total, frames, framesPerSecond }: RenderProgress) =>
  framesPerSecond > 0 ? (total - frames) / framesPerSecond : null
/** What there is to show of each. */
const lines = computed(() =>
  rendering.queue.map((queued) => ({
    queued,
    kind: queued.state.kind,
    progress: progressOf(queued),
    file: fileOf(queued),
    error: errorOf(queued),
  })),
)
const evenedWords = (evened: RenderResult['evened']) =>
  evened
    ? `, sound ${figure(evened.gain)} dB${evened.limited ? ': its peak lets it be no louder' : ''}`.replace(
        '-',
        '−',
      )
    : ''
async function chooseFolder() {
  const chosen = await askForFolder()
  if (chosen) rendering.folder = chosen
}
/** Files of before: what is in the queue stands there. */
const before = computed(() =>
  rendering.found.filter(({ name }) => rendering.queue.every(({ fileName }) => fileName !== name)),
)
const runs = computed(() => rendering.queue.some(({ state }) => state.kind === 'renders'))
</script>

<template>
  <section aria-label="Queue">
    <h2 class="with-ways">
      Queue
      <span v-if="givesFolders" class="ways">
        <span v-if="rendering.folder" class="quiet">into {{ rendering.folder.name }}</span>
        <button v-if="rendering.folder" class="word" @click="rendering.folder = null">keep here</button>
        <button v-else class="word" @click="chooseFolder">into a folder…</button>
      </span>
      <button v-if="runs" class="word" @click="rendering.pause(!rendering.isPaused)">
        {{ rendering.isPaused ? 'go on' : 'pause' }}
      </button>
    </h2>
    <p v-if="rendering.removed.length" role="status">
      Was not whole when the page went, and was taken away: {{ rendering.removed.join(', ') }}.
    </p>
    <ul>
      <li v-for="{ queued, kind, progress, file, error } in lines" :key="queued.id">
        <div class="line">
          <b>{{ queued.deliverable.name }}</b>
          <span v-if="progress" class="figures"
            >{{ kind === 'proves' ? 'read back' : 'frame' }} {{ progress.frames }} of
            {{ progress.total }}</span
          >
          <span v-else class="quiet">{{
            {
              waits: 'waits',
              renders: 'begins',
              proves: 'is read back',
              whole: 'made',
              failed: 'failed',
              ended: 'ended',
            }[kind]
          }}</span>
          <button
            v-if="!isOver(queued)"
            class="word"
            :aria-label="`Cancel “${queued.deliverable.name}”`"
            @click="rendering.end(queued.id)"
          >
            cancel
          </button>
          <button
            v-else
            class="word"
            :aria-label="`put away “${queued.deliverable.name}”`"
            @click="rendering.forget(queued.id)"
          >
            put away
          </button>
        </div>
        <template v-if="progress">
          <progress
            :value="progress.frames"
            :max="progress.total"
            :aria-label="`Progress of ${queued.deliverable.name}`"
          ></progress>
          <p class="quiet figures">
            {{ figure(progress.framesPerSecond) }} frames a second · {{ clockTime(left(progress)) }} left
          </p>
        </template>
        <p v-if="error" role="alert" class="trouble">
          {{ error }}
          {{ file ? 'The file was not read back to its end.' : 'Nothing of it was kept.' }}
        </p>
        <p v-if="file && !file.rendered" class="quiet">
          {{ queued.fileName }}, {{ fileSize(file.file.size) }}, made elsewhere
        </p>
        <p v-else-if="file?.rendered" :data-frames-per-second="file.rendered.frames / file.rendered.seconds">
          {{ queued.fileName }}, {{ fileSize(file.file.size) }},
          {{ counted(file.rendered.frames, 'frame') }} in {{ clockTime(file.rendered.seconds)
          }}{{ evenedWords(file.rendered.evened) }}
          <button class="word" @click="saveFile(file.file, queued.fileName)">save the file</button>
        </p>
      </li>
    </ul>
    <p v-if="rendering.queue.length === 0 && before.length === 0" class="quiet">Nothing is being made.</p>
    <p v-for="{ name, file } in before" :key="name" class="line">
      <span>{{ name }}, {{ fileSize(file.size) }}</span>
      <button class="word" @click="saveFile(file, name)">save the file</button>
      <button class="word" :aria-label="`Delete ${name}`" @click="rendering.drop(name)">delete</button>
    </p>
  </section>
</template>

<style scoped>
ul {
  list-style: none;
}
li {
  padding: 5px 0;
  border-bottom: 1px solid var(--line);
}
.line {
  display: flex;
  gap: 10px;
}
.line b {
  flex: 1;
}
progress {
  width: 100%;
  height: 7px;
  appearance: none;
  border: 1px solid var(--ink);
  background: none;
}
progress::-webkit-progress-bar {
  background: none;
}
progress::-webkit-progress-value {
  background: var(--accent);
}
.trouble {
  color: var(--severe);
}
</style>
