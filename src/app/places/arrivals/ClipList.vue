<script setup lang="ts">
import { useVirtualizer } from '@tanstack/vue-virtual'
import { computed, ref, watch } from 'vue'
import { type Mark, differencesFrom, oddities } from '../../../core/inspect/marks'
import { runningTime } from '../../../core/words/figures'
import { type Clip } from '../../../core/model/clip'
import { isCorrected } from '../../../core/reading/correct'
import { useBackground } from '../../../stores/background'
import { useRelinking } from '../../../stores/relinking'
import { useMedia } from '../../../stores/media'
import { useProject } from '../../../stores/document/project'
import VerdictMark from '../../components/VerdictMark.vue'
import type { ListKeys } from '../../components/list-keys'
import { type Group, type Sorting, columnOf } from '../../../core/inspect/columns'

const props = defineProps<{
  groups: readonly Group[]
  clips: readonly Clip[]
  keys: ListKeys
  shownColumns: readonly string[]
}>()
const sorting = defineModel<Sorting | null>('sorting', { required: true })
defineEmits<{ remove: [] }>()
const project = useProject()
const media = useMedia()
const relinking = useRelinking()
const background = useBackground()

const rowHeight = 26
const scroller = ref<HTMLElement | null>(null)
const shown = computed(() => props.shownColumns.map(columnOf))
const template = computed(() => `${shown.value.map((column) => column.width).join(' ')} minmax(130px, 1.3fr)`)

/** Heads of groups and clips, in one list; without grouping only clips. */
type Line = { readonly head: Group } | { readonly clip: Clip; readonly index: number }
const lines = computed<Line[]>(() => {
  let index = 0
  const withHeads = props.groups.length > 1 || props.groups[0]?.title !== ''
  return props.groups.flatMap((group): Line[] => [
    ...(withHeads ? [{ head: group }] : []),
    ...group.clips.map((clip) => ({ clip, index: index++ })),
  ])
})
const virtual = useVirtualizer(
  computed(() => ({
    count: lines.value.length,
    getScrollElement: () => scroller.value,
    estimateSize: () => rowHeight,
    overscan: 12,
  })),
)
function reveal(index: number) {
  virtual.value.scrollToIndex(lines.value.findIndex((line) => 'clip' in line && line.index === index))
}
defineExpose({ reveal })

/** Three clicks on a head: up, down, as arrived. */
function sortBy(id: string) {
  sorting.value =
    sorting.value?.by !== id ? { by: id, down: false } : sorting.value.down ? null : { by: id, down: true }
}
const direction = (id: string) => (sorting.value?.by !== id ? '' : sorting.value.down ? ' ↓' : ' ↑')

const noMarks = { differing: '', odd: '' }

/** What the list says of a clip: differences from the project's format first, then what is odd in itself. */
function marksOf(clip: Clip): { differing: string; odd: string } {
  if (!clip.reading) return { differing: '', odd: '' }
  const differing = project.format ? differencesFrom(clip.reading, project.format) : []
  const differingAbouts = new Set(differing.map((mark) => mark.about))
  // That there is no sound is said in the docket; here it would stand in every other row.
  const odd = oddities(clip.reading).filter(
    (mark) => !(differingAbouts.has(mark.about) && mark.about !== 'rate') && mark.about !== 'sound',
  )
  // What is odd three times over is one word in a list; the docket has the sentences.
  const words = (marks: readonly Mark[]) => [...new Set(marks.map((mark) => mark.short))]
  const also = [
    ...words(odd),
    ...(isCorrected(clip.corrections) ? ['corrected'] : []),
    ...(media.missing.has(clip.id)
      ? [relinking.isChanged(clip.id) ? 'changed on disk' : 'file not at hand']
      : []),
    ...(clip.reading.kind === 'still' ? ['does not vote'] : []),
    ...(clip.reading.kind === 'audio' ? [columnOf('sound').text(clip)] : []),
  ]
  return { differing: words(differing).join(' · '), odd: also.join(' · ') }
}
/** What stands in the columns of a clip: shapes with their words, or text. */
const cellsOf = (clip: Clip) =>
  shown.value.map((column) => ({ column, shapes: column.marks?.(clip) ?? [], text: column.text(clip) }))
const visible = computed(() =>
  virtual.value.getVirtualItems().flatMap((row) => {
    const line = lines.value[row.index]
    if (!line) return []
    const clip = 'clip' in line ? line.clip : null
    const said = { marks: clip ? marksOf(clip) : noMarks, cells: clip ? cellsOf(clip) : [] }
    return [{ start: row.start, line, ...said }]
  }),
)
// What is seen is drawn and measured first.
watch(
  () => visible.value.flatMap(({ line }) => ('clip' in line ? [line.clip.id] : [])),
  (ids) => background.look(ids),
  { immediate: true },
)
</script>

<template>
  <div class="frame">
    <div class="head heading" :style="{ gridTemplateColumns: template }">
      <button
        v-for="column in shown"
        :key="column.id"
        class="title"
        :class="{ right: column.figures }"
        :title="`Sort by ${column.title}`"
        @click="sortBy(column.id)"
      >
        {{ column.title }}{{ direction(column.id) }}
      </button>
      <span>{{ project.format ? 'what differs' : 'what is odd' }}</span>
    </div>
    <div
      ref="scroller"
      class="rows"
      role="listbox"
      aria-label="Clips"
      aria-multiselectable="true"
      tabindex="0"
      :aria-activedescendant="clips[keys.at.value] ? `clip-${clips[keys.at.value]?.id}` : undefined"
      @keydown="keys.onKey"
      @keydown.delete="$emit('remove')"
    >
      <div role="presentation" :style="{ height: `${virtual.getTotalSize()}px`, position: 'relative' }">
        <template
          v-for="{ start, line, marks, cells } in visible"
          :key="'clip' in line ? line.clip.id : `head ${line.head.title}`"
        >
          <div
            v-if="'head' in line"
            class="group"
            role="presentation"
            :style="{ transform: `translateY(${start}px)` }"
          >
            <b>{{ line.head.title }}</b>
            <span class="quiet figures"
              >{{ line.head.clips.length }} · {{ runningTime(line.head.seconds) }}</span
            >
          </div>
          <div
            v-else
            :id="`clip-${line.clip.id}`"
            class="row"
            role="option"
            :aria-selected="keys.selected.value.has(line.clip.id)"
            :aria-posinset="line.index + 1"
            :aria-setsize="clips.length"
            :class="{ selected: keys.selected.value.has(line.clip.id), at: line.index === keys.at.value }"
            :style="{ transform: `translateY(${start}px)`, gridTemplateColumns: template }"
            @click="keys.onClick(line.index, $event)"
          >
            <template v-if="line.clip.fault">
              <span class="ellipsis" :title="line.clip.name">{{ line.clip.name }}</span>
              <span class="fault ellipsis" :title="line.clip.fault.message">{{
                line.clip.fault.message
              }}</span>
            </template>
            <template v-else>
              <span
                v-for="{ column, shapes, text } in cells"
                :key="column.id"
                class="ellipsis"
                :class="{ figures: column.figures, right: column.figures, quiet: column.quiet }"
                ><template v-if="shapes.length"
                  ><span v-for="shape in shapes" :key="shape.kind" class="mark"
                    ><VerdictMark :kind="shape.kind" /> {{ shape.short }}</span
                  ></template
                ><template v-else>{{ text }}</template></span
              >
              <span class="ellipsis">
                <span class="differs">{{ marks.differing }}</span>
                <span class="quiet">{{ marks.differing && marks.odd ? ' · ' : '' }}{{ marks.odd }}</span>
              </span>
            </template>
          </div>
        </template>
      </div>
    </div>
  </div>
</template>

<style scoped>
.frame {
  overflow-x: auto;
  display: flex;
  flex-direction: column;
  min-height: 0;
  flex: 1;
  border-top: 1px solid var(--ink);
}
.head,
.row {
  display: grid;
  column-gap: 12px;
  align-items: center;
  padding: 0 8px;
}
.head,
.rows {
  min-width: 720px;
}
.head {
  height: 26px;
  border-bottom: 1px solid var(--line);
}
.title {
  all: unset;
  cursor: pointer;
  line-height: 24px;
  white-space: nowrap;
}
.title:focus-visible {
  outline: 2px solid var(--accent);
}
.title:hover {
  color: var(--ink);
}
.rows {
  overflow: auto;
  flex: 1;
  min-height: 0;
  contain: strict;
}
.row,
.group {
  position: absolute;
  inset: 0 0 auto;
  height: 26px;
  border-bottom: 1px solid var(--line);
  cursor: default;
  white-space: nowrap;
}
.group b {
  margin-right: 10px;
}
.group {
  padding: 4px 8px;
  border-bottom-color: var(--ink);
}
.row.selected {
  background: var(--sheet);
  box-shadow: inset 3px 0 var(--accent);
}
.rows:focus-visible .row.at {
  outline: 2px solid var(--accent);
  outline-offset: -2px;
}
.right {
  text-align: right;
}
.mark + .mark {
  margin-left: 8px;
}
.differs {
  color: var(--severe);
}
.fault {
  grid-column: 2 / -1;
  color: var(--severe);
}
</style>
