<script setup lang="ts">
import { clockOf } from '../dates'
import { computed } from 'vue'
import { useRoute } from 'vue-router'
import { runningTime } from '../../core/words/figures'
import { formatName, tradeName } from '../../core/format/format'
import { setByWords } from '../../core/exchange/log'
import { useCarrying } from '../../stores/carrying'
import { useProject } from '../../stores/document/project'
import { useTerms } from './terms/terms'
import { useTimelines } from '../../stores/timelines'
import { keysListed } from '../keys/use-keys'
import { useEdition } from '../theme/edition'
import { type Place, places } from '../place'
import TallyMarks from './TallyMarks.vue'

/** Whether the history is looked at. */
const history = defineModel<boolean>('history', { required: true })
const route = useRoute()
const project = useProject()
const timelines = useTimelines()
const carrying = useCarrying()
const terms = useTerms()
const { edition, turn } = useEdition()

const doc = computed(() => project.opened)
const seconds = computed(() =>
  project.clips.reduce(
    (sum, clip) => sum + (clip.reading?.kind === 'video' ? (clip.reading.durationSec ?? 0) : 0),
    0,
  ),
)
const faulty = computed(() => project.clips.filter((clip) => clip.fault).length)
/** Open concerns of each place. */
const concerns = computed<Record<Place, { count: number; what: string }>>(() => {
  return {
    arrivals: {
      count: faulty.value + project.putAside.length,
      what: 'files or parts not read',
    },
    yard: doc.value.project.format
      ? { count: carrying.wrong ? 1 : 0, what: 'format that the footage speaks against' }
      : { count: 1, what: 'format not chosen' },
    timelines: { count: timelines.severe, what: 'placed clips pay a severe toll' },
    dispatch: { count: 0, what: '' },
  }
})
const names: Record<Place, string> = {
  arrivals: 'Arrivals',
  yard: 'Yard',
  timelines: 'Timelines',
  dispatch: 'Dispatch',
}
const origin = computed(() => {
  const decision = doc.value.project.decisions.at(-1)
  return decision
    ? `project format, ${setByWords[decision.setBy]}, ${clockOf(decision.at)}`
    : 'the Yard prices every choice'
})
</script>

<template>
  <header :data-saved="project.saved">
    <RouterLink to="/" class="brand" aria-label="Yard Tally, all projects"
      ><TallyMarks :count="5" :height="20" /> Yard Tally</RouterLink
    >
    <div class="project">
      <b class="ellipsis">{{ doc.project.name }}</b>
      <span class="quiet"
        >{{ project.clips.length }} arrived · {{ runningTime(seconds)
        }}<span v-if="!project.saved && !project.trouble" class="saving"> · saving</span></span
      >
    </div>
    <nav aria-label="Places">
      <RouterLink
        v-for="place in places"
        :key="place"
        :to="{ name: place }"
        :class="{ here: route.name === place }"
      >
        <span class="name">
          {{ names[place] }}
          <span
            v-if="concerns[place].count"
            class="concerns"
            :title="`${concerns[place].count} ${concerns[place].what}`"
            >{{ concerns[place].count }}</span
          >
        </span>
        <span class="stop" aria-hidden="true" />
      </RouterLink>
    </nav>
    <div class="tools">
      <button
        class="word"
        :disabled="!project.undoLabel"
        :title="project.undoLabel ? `Undo: ${project.undoLabel}` : 'Nothing to undo'"
        @click="project.undo"
      >
        undo
      </button>
      <button
        class="word"
        :disabled="!project.redoLabel"
        :title="project.redoLabel ? `Redo: ${project.redoLabel}` : 'Nothing to redo'"
        @click="project.redo"
      >
        redo
      </button>
      <button class="word" :aria-pressed="history" @click="history = !history">history</button>
      <button class="word" :aria-pressed="terms.listed" @click="terms.listed = !terms.listed">terms</button>
      <button class="word" @click="keysListed = true">keys</button>
      <RouterLink class="word" :to="{ name: 'habits' }">habits</RouterLink>
      <button class="word" @click="turn">{{ edition === 'night' ? 'light' : 'night' }}</button>
    </div>
    <div class="format">
      <template v-if="project.format">
        <b class="figures" :title="tradeName(project.format) ?? undefined">{{
          formatName(project.format)
        }}</b>
      </template>
      <b v-else>format not chosen</b>
      <span class="quiet">{{ origin }}</span>
    </div>
  </header>
</template>

<style scoped>
header {
  display: grid;
  grid-template-columns: auto minmax(90px, 170px) 1fr auto minmax(170px, auto);
  align-items: center;
  gap: 14px;
  padding: 0 20px;
  border-bottom: 1px solid var(--ink);
  background: var(--paper);
}
.brand {
  display: flex;
  align-items: center;
  gap: 9px;
  font-size: 18px;
  font-weight: 600;
  color: var(--ink);
  text-decoration: none;
  white-space: nowrap;
}
.project,
.format {
  display: flex;
  flex-direction: column;
  line-height: 1.35;
  min-width: 0;
}
.project .quiet,
.format .quiet {
  font-size: 12px;
  white-space: nowrap;
}
.format {
  align-items: flex-end;
}
.format .figures {
  font-size: 15px;
}
nav {
  display: flex;
  justify-content: center;
}
nav a {
  width: 104px;
  display: flex;
  flex-direction: column;
  align-items: center;
  gap: 4px;
  color: var(--quiet);
  text-decoration: none;
  font-family: var(--condensed);
  font-size: 15px;
  position: relative;
  padding: 4px 0;
}
nav a.here {
  color: var(--ink);
  font-weight: 500;
}
nav a:not(:last-child)::after {
  content: '';
  position: absolute;
  left: calc(50% + 8px);
  right: calc(-50% + 8px);
  bottom: 9px;
  border-top: 1px solid var(--line);
}
.stop {
  width: 11px;
  height: 11px;
  border-radius: 50%;
  border: 1.5px solid var(--quiet);
  background: var(--paper);
}
.here .stop {
  background: var(--accent);
  border-color: var(--accent);
  box-shadow:
    0 0 0 2px var(--paper),
    0 0 0 3px var(--accent);
}
.concerns {
  font-family: var(--mono);
  font-size: 12px;
  color: var(--heavy);
  margin-left: 2px;
}
/* In a narrow window the stops stand closer, and what is said twice is shortened. */
@media (max-width: 1180px) {
  header {
    grid-template-columns: auto minmax(70px, 140px) 1fr auto minmax(90px, 150px);
    gap: 8px;
    padding: 0 12px;
  }
  nav a {
    width: 82px;
  }
  .brand {
    font-size: 16px;
    gap: 6px;
  }
  .tools .word {
    padding: 0 2px;
  }
  .format .figures {
    font-size: 13px;
  }
  .project .quiet,
  .format .quiet {
    max-width: 100%;
    overflow: hidden;
    text-overflow: ellipsis;
  }
}
/* The words of the tools stay on one line. */
.tools {
  white-space: nowrap;
}
.tools .word {
  padding: 0 4px;
}
/* Saving takes a moment; only what takes longer is worth a word. */
.saving {
  animation: appear 0s 0.5s backwards;
}
@keyframes appear {
  from {
    visibility: hidden;
  }
}
</style>
