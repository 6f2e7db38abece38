<script setup lang="ts">
import { computed } from 'vue'
import { clockTime, counted, fileSize, figure } from '../../../core/words/figures'
import { type QueuedRender, useRendering } from '../../../stores/rendering'
import type { RenderResult } from '../../../media/render/render'
import { saveFile } from '../../download'
import { askForFolder, givesFolders } from '../../folder'

/** What is being made, what waits, and what is whole or is not. */
const rendering = useRendering()
const left = ({ progress }: QueuedRender) =>
  progress && progress.framesPerSecond > 0
    ? (progress.total - progress.frames) / progress.framesPerSecond
    : null
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
const isOver = ({ state }: QueuedRender) => state === 'whole' || state === 'failed' || state === 'ended'
/** Files of before: what is in the queue stands there. */
const before = computed(() =>
  rendering.found.filter(({ name }) => rendering.queue.every(({ fileName }) => fileName !== name)),
)
const runs = computed(() => rendering.queue.some(({ state }) => state === 'renders'))
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
      <li v-for="queued in rendering.queue" :key="queued.id">
        <div class="line">
          <b>{{ queued.deliverable.name }}</b>
          <span v-if="!isOver(queued) && queued.progress" class="figures"
            >{{ queued.state === 'proves' ? 'read back' : 'frame' }} {{ queued.progress.frames }} of
            {{ queued.progress.total }}</span
          >
          <span v-else class="quiet">{{
            {
              waits: 'waits',
              renders: 'begins',
              proves: 'is read back',
              whole: 'made',
              failed: 'failed',
              ended: 'ended',
            }[queued.state]
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
        <template v-if="!isOver(queued) && queued.progress">
          <progress
            :value="queued.progress.frames"
            :max="queued.progress.total"
            :aria-label="`Progress of ${queued.deliverable.name}`"
          ></progress>
          <p class="quiet figures">
            {{ figure(queued.progress.framesPerSecond) }} frames a second · {{ clockTime(left(queued)) }} left
          </p>
        </template>
        <p v-if="queued.why" role="alert" class="trouble">
          {{ queued.why }}
          {{ queued.file ? 'The file was not read back to its end.' : 'Nothing of it was kept.' }}
        </p>
        <p v-if="queued.file && !queued.file.rendered" class="quiet">
          {{ queued.fileName }}, {{ fileSize(queued.file.file.size) }}, made elsewhere
        </p>
        <p
          v-else-if="queued.file?.rendered"
          :data-frames-per-second="queued.file.rendered.frames / queued.file.rendered.seconds"
        >
          {{ queued.fileName }}, {{ fileSize(queued.file.file.size) }},
          {{ counted(queued.file.rendered.frames, 'frame') }} in {{ clockTime(queued.file.rendered.seconds)
          }}{{ evenedWords(queued.file.rendered.evened) }}
          <button class="word" @click="saveFile(queued.file.file, queued.fileName)">save the file</button>
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
