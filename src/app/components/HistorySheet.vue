<script setup lang="ts">
import { Button, Input } from 'ant-design-vue'
import { recently } from '../dates'
import { computed, ref, shallowRef, watch } from 'vue'
import type { PointEntry } from '../../storage/points'
import { useProject } from '../../stores/document/project'
import { useRestorePoints } from '../../stores/document/points'
import { counted } from '../../core/words/figures'

/** The history of the project: every step with its time, the points that were named among them, and what differs from now. */
const emit = defineEmits<{ close: [] }>()
const project = useProject()
const restorePoints = useRestorePoints()
const name = ref('')
const naming = ref(false)

type Row =
  | {
      readonly kind: 'step'
      readonly key: string
      readonly n: number
      readonly label: string
      readonly at: string
      readonly isDone: boolean
    }
  | { readonly kind: 'point'; readonly key: string; readonly at: string; readonly point: PointEntry }
  | { readonly kind: 'begin'; readonly key: string; readonly n: number }
/** The newest first; points where they were named. */
const rows = computed<Row[]>(() => {
  const steps = project.lines.map((line): Row => ({ kind: 'step', key: `s${line.n}`, ...line }))
  const first = (project.lines[0]?.n ?? 1) - 1
  const all: Row[] = [{ kind: 'begin', key: 'begin', n: first }, ...steps]
  for (const point of [...restorePoints.points].reverse()) {
    const at = all.findLastIndex(
      (row) => row.kind === 'begin' || (row.kind === 'step' && row.n <= point.position),
    )
    all.splice(Math.max(0, at) + 1, 0, { kind: 'point', key: `p${point.id}`, at: point.at, point })
  }
  return all.reverse()
})
/** More lines than these are shown when asked for. */
const most = 200
const all = ref(false)
const shown = computed(() => (all.value ? rows.value : rows.value.slice(0, most)))

const asked = shallowRef<Row | null>(null)
const differs = shallowRef<readonly string[]>([])
const ask = (row: Row) => (asked.value = asked.value?.key === row.key ? null : row)
watch([asked, () => project.doc], async () => {
  const row = asked.value
  if (!row) return
  const found =
    row.kind === 'point' ? await restorePoints.sincePoint(row.point) : restorePoints.sinceStep(row.n)
  if (asked.value === row) differs.value = found
})
async function keep() {
  await restorePoints.keep(name.value)
  name.value = ''
  naming.value = false
}
</script>

<template>
  <aside class="history" aria-label="History" @keydown.escape="emit('close')">
    <header>
      <h2>History</h2>
      <span class="quiet">{{ counted(project.lines.length, 'step') }}</span>
      <button class="word end" @click="emit('close')">close</button>
    </header>
    <form v-if="naming" class="name" @submit.prevent="keep">
      <Input
        v-model:value="name"
        size="small"
        placeholder="what it is"
        aria-label="Name of the restore point"
        autofocus
      />
      <Button size="small" type="primary" html-type="submit">Keep it</Button>
    </form>
    <Button v-else size="small" @click="naming = true">Name this point…</Button>
    <p v-if="restorePoints.trouble" role="alert" class="severe">{{ restorePoints.trouble }}</p>
    <ol>
      <li v-for="row in shown" :key="row.key" :class="{ point: row.kind === 'point' }">
        <div
          class="row"
          :class="{
            ahead: row.kind === 'step' && !row.isDone,
            now: row.kind !== 'point' && row.n === project.position,
          }"
        >
          <template v-if="row.kind === 'point'">
            <span class="what"
              ><b>“{{ row.point.name }}”</b> <span class="quiet">restore point</span></span
            >
            <span class="figures quiet">{{ recently(row.at) }}</span>
          </template>
          <button
            v-else
            class="what"
            :aria-current="row.n === project.position"
            :disabled="project.readOnly"
            @click="project.goTo(row.n)"
          >
            {{
              row.kind === 'begin' ? (row.n > 0 ? 'earlier steps are not kept' : 'the beginning') : row.label
            }}
          </button>
          <span v-if="row.kind === 'step'" class="figures quiet">{{ recently(row.at) }}</span>
        </div>
        <div class="ways">
          <button
            class="word"
            :aria-expanded="asked?.key === row.key"
            :aria-label="`What differs from ${row.kind === 'point' ? row.point.name : row.kind === 'step' ? row.label : 'the beginning'}`"
            @click="ask(row)"
          >
            what differs
          </button>
          <template v-if="row.kind === 'point'">
            <button class="word" :disabled="project.readOnly" @click="restorePoints.goBack(row.point)">
              go back
            </button>
            <button class="word" :disabled="project.readOnly" @click="restorePoints.drop(row.point)">
              drop it
            </button>
          </template>
        </div>
        <ul v-if="asked?.key === row.key" class="differs">
          <li v-for="difference in differs" :key="difference">{{ difference }}</li>
          <li v-if="differs.length === 0" class="quiet">nothing: it is as now</li>
        </ul>
      </li>
    </ol>
    <button v-if="rows.length > most && !all" class="word" @click="all = true">
      {{ rows.length - most }} more
    </button>
  </aside>
</template>

<style scoped>
.history {
  position: absolute;
  z-index: 5;
  top: 0;
  right: 0;
  bottom: 0;
  width: 310px;
  background: var(--paper);
  border-left: 1px solid var(--ink);
  padding: 12px 14px;
  display: flex;
  flex-direction: column;
  gap: 8px;
  align-items: flex-start;
  min-height: 0;
}
header {
  display: flex;
  gap: 8px;
  align-items: baseline;
  width: 100%;
}
.end {
  margin-left: auto;
}
.name {
  display: flex;
  gap: 6px;
  width: 100%;
}
ol,
ul {
  list-style: none;
}
ol {
  overflow: auto;
  width: 100%;
  border-top: 1px solid var(--line);
  min-height: 0;
}
ol > li {
  border-bottom: 1px solid var(--line);
  padding: 5px 4px 5px 8px;
  position: relative;
}
.row {
  display: flex;
  gap: 8px;
  align-items: baseline;
}
.row .figures {
  margin-left: auto;
  font-size: 11.5px;
  white-space: nowrap;
}
button.what {
  all: unset;
  cursor: pointer;
  overflow-wrap: anywhere;
}
button.what:hover:not(:disabled) {
  text-decoration: underline;
}
button.what:focus-visible {
  outline: 2px solid var(--accent);
}
.ahead {
  color: var(--quiet);
}
.now .what {
  font-weight: 600;
}
li:has(> .now) {
  background: var(--sheet);
}
.point {
  box-shadow: inset 3px 0 var(--accent);
}
.ways {
  font-size: 12px;
  margin-left: -6px;
}
/* What can be asked of a step stands over its time while it is looked at, so that nothing moves under the pointer. */
li:not(.point) > .ways {
  position: absolute;
  top: 3px;
  right: 2px;
  background: var(--paper);
  opacity: 0;
}
li:not(.point):hover > .ways,
li:not(.point):focus-within > .ways,
li:not(.point) > .ways:has([aria-expanded='true']) {
  opacity: 1;
}
.differs {
  font-size: 12px;
  padding-left: 8px;
  border-left: 2px solid var(--line);
}
</style>
