<script setup lang="ts">
import { type Grade } from '../../../../core/toll/grade'
import { clockTime, figure } from '../../../../core/words/figures'
import { useVirtualizer } from '@tanstack/vue-virtual'
import { computed, ref } from 'vue'
import type { Payment } from '../../../../core/choice/pay'
import { formatName } from '../../../../core/format/format'
import type { ChargeKind } from '../../../../core/toll/charge'
import { shortWords, tollSentence } from '../../../../core/toll/sentence'
import { useProject } from '../../../../stores/document/project'
import { useYard } from '../../../../stores/yard'
import GradeMark from '../../../components/GradeMark.vue'
import { useListKeys } from '../../../components/list-keys'
import NativeSelect from '../../../components/NativeSelect.vue'
import { rateLabel, uprightSizeName } from '../../../../core/inspect/labels'
import TollHead from './TollHead.vue'
import TermMark from '../../../components/terms/TermMark.vue'
import { rowsOf } from './toll-rows'
import { useKeys } from '../../../keys/use-keys'

/** Every clip priced at the candidate, the dearest first; on wish with a second format beside it. */
const opened = defineModel<string | null>('opened', { required: true })
const project = useProject()
const yard = useYard()
const only = ref<Grade | null>(null)
const kind = ref<ChargeKind | ''>('')
const differing = ref(false)

const rows = computed(() => rowsOf(project.opened.clips, yard.payments, yard.paymentsBeside))
const shown = computed(() =>
  rows.value.filter(
    (row) =>
      (!only.value || row.toll.grade === only.value) &&
      (!kind.value || row.toll.charges.some((charge) => charge.kind === kind.value)) &&
      (!differing.value || !row.beside || tollSentence(row.beside.toll) !== tollSentence(row.toll)),
  ),
)

/** What is paid in a few words, for the narrow columns of two formats. */
const shortly = (paid: Pick<Payment, 'toll'>) => paid.toll.charges.map(shortWords).join(' · ') || 'untouched'

const priorities = [
  { value: 'normal', label: 'normal' },
  { value: 'key', label: 'key ×3' },
  { value: 'left-out', label: 'left out' },
] as const
const priorityWords = Object.fromEntries(priorities.map(({ value, label }) => [value, label]))

const scroller = ref<HTMLElement | null>(null)
const rowHeight = 40
/** Apart from the rows, so that other prices for as many clips measure nothing anew. */
const rowCount = computed(() => shown.value.length)
const virtual = useVirtualizer(
  computed(() => ({
    count: rowCount.value,
    getScrollElement: () => scroller.value,
    estimateSize: () => rowHeight,
    overscan: 3,
  })),
)
const visible = computed(() =>
  virtual.value.getVirtualItems().flatMap(({ index }) => {
    // For a moment after a filter, fewer rows are there than were drawn.
    const row = shown.value[index]
    return row ? [{ index, row }] : []
  }),
)
/** Rows that are not drawn leave their room above and below. */
const room = computed(() => {
  const items = virtual.value.getVirtualItems()
  const above = items[0]?.start ?? 0
  return { above, below: virtual.value.getTotalSize() - (items.at(-1)?.end ?? 0) }
})

/** The keyboard stands on the table, not on a row: rows come and go as they scroll. */
const keys = useListKeys(() => shown.value.map(({ clip }) => clip), {
  move: (index) => {
    virtual.value.scrollToIndex(index)
    // An open docket follows.
    if (opened.value) opened.value = shown.value[index]?.clip.id ?? null
  },
  open: () => (opened.value = shown.value[keys.at.value]?.clip.id ?? null),
  leave: () => (opened.value = null),
})
const at = computed(() => shown.value[keys.at.value]?.clip.id)
/** The row under the pointer: its control shows, as on the row in hand. */
const pointed = ref<string | null>(null)
const lessToMore = ['left-out', 'normal', 'key'] as const
/** How much the clip in hand counts, one step less or more. */
function count(step: 1 | -1) {
  const clip = shown.value[keys.at.value]?.clip
  const next = clip && lessToMore[lessToMore.indexOf(clip.priority) + step]
  if (next && clip.reading?.kind === 'video') yard.setPriority(clip.id, next)
}
const meantBy = useKeys('tolls')
function onKey(event: KeyboardEvent) {
  // The selects in the rows keep their own keys.
  if ((event.target as HTMLElement).closest('select')) return
  const key = meantBy(event)
  if (key === '>') count(1)
  else if (key === '<') count(-1)
  else return keys.onKey(event)
  event.preventDefault()
}
</script>

<template>
  <section v-if="yard.candidate" class="tolls" aria-labelledby="tolls">
    <TollHead v-model:only="only" v-model:kind="kind" v-model:differing="differing" :rows="rows" />
    <div ref="scroller" class="scroll" role="region" aria-label="Tolls of the clips">
      <table
        :class="{ two: yard.beside }"
        role="grid"
        tabindex="0"
        aria-label="What each clip pays"
        :aria-rowcount="shown.length"
        :aria-activedescendant="at ? `pays-${at}` : undefined"
        @keydown="onKey"
      >
        <thead class="heading">
          <tr v-if="yard.beside">
            <th>clip</th>
            <th class="right">size</th>
            <th class="right">rate</th>
            <th class="figures">{{ formatName(yard.candidate) }}</th>
            <th class="figures">{{ formatName(yard.beside) }}</th>
          </tr>
          <tr v-else>
            <th>clip</th>
            <th class="right">size</th>
            <th class="right">rate</th>
            <th class="right">time</th>
            <th>counts</th>
            <th><TermMark term="toll">toll</TermMark></th>
            <th><TermMark term="charge">charges</TermMark></th>
          </tr>
        </thead>
        <tbody>
          <tr v-if="room.above" aria-hidden="true" :style="{ height: `${room.above}px` }" />
          <tr
            v-for="{ index, row } in visible"
            :id="`pays-${row.clip.id}`"
            :key="index"
            :aria-rowindex="index + 1"
            :class="{ opened: opened === row.clip.id, at: index === keys.at.value }"
            @mouseenter="pointed = row.clip.id"
            @mouseleave="pointed = null"
          >
            <td>
              <button
                class="clip ellipsis"
                tabindex="-1"
                :title="`${row.clip.name}: what happens to it`"
                @click="((opened = row.clip.id), (keys.at.value = index))"
              >
                {{ row.clip.name }}
              </button>
            </td>
            <td class="figures right">{{ uprightSizeName(row.clip) }}</td>
            <td class="figures right">{{ rateLabel(row.clip) }}</td>
            <template v-if="yard.beside">
              <td
                v-for="paid in row.beside ? [row, row.beside] : [row]"
                :key="paid === row ? 'first' : 'second'"
                :class="{
                  less:
                    paid.toll.loss < (paid === row ? (row.beside ?? row).toll.loss : row.toll.loss) - 1e-9,
                }"
              >
                <GradeMark :grade="paid.toll.grade" />
                <span class="figures loss">{{ figure(paid.toll.loss, 2) }}</span>
                <span class="text" :title="tollSentence(paid.toll)">{{ shortly(paid) }}</span>
              </td>
            </template>
            <template v-else>
              <td class="figures right">{{ clockTime(row.clip.reading?.durationSec) }}</td>
              <td>
                <span v-if="row.clip.reading?.kind === 'still'" class="quiet">no vote</span>
                <span v-else-if="index !== keys.at.value && row.clip.id !== pointed" class="quiet">{{
                  priorityWords[row.clip.priority]
                }}</span>
                <NativeSelect
                  v-else
                  class="small"
                  :value="row.clip.priority"
                  :aria-label="`How much ${row.clip.name} counts`"
                  :options="priorities"
                  @update:value="yard.setPriority(row.clip.id, $event)"
                />
              </td>
              <td><GradeMark :grade="row.toll.grade" /></td>
              <td>
                <span class="text" :title="tollSentence(row.toll)">{{ tollSentence(row.toll) }}</span>
              </td>
            </template>
          </tr>
          <tr v-if="room.below > 0" aria-hidden="true" :style="{ height: `${room.below}px` }" />
        </tbody>
      </table>
    </div>
  </section>
</template>

<style scoped>
.tolls {
  display: flex;
  flex-direction: column;
  border-top: 1px solid var(--ink);
  padding-top: 6px;
  min-height: 0;
}
.two .text {
  display: inline;
  font-size: 12px;
}
.two td {
  line-height: 1.2;
}
.scroll {
  overflow: auto;
  min-height: 0;
  /* What changes inside lays out nothing outside. */
  contain: strict;
  flex: 1;
  /* Rows scroll under the head, not the head under rows. */
  scroll-padding-top: 24px;
}
table {
  border-collapse: collapse;
  width: 100%;
  table-layout: fixed;
}
th:nth-child(1) {
  width: 158px;
}
th:nth-child(2) {
  width: 82px;
}
th:nth-child(3) {
  width: 76px;
}
table:not(.two) th:nth-child(4) {
  width: 48px;
}
table:not(.two) th:nth-child(5) {
  width: 82px;
}
table:not(.two) th:nth-child(6) {
  width: 70px;
}
th {
  font-weight: 500;
  text-align: left;
  position: sticky;
  top: 0;
  background: var(--paper);
  z-index: 1;
}
th,
td {
  padding: 0 10px 0 0;
  border-bottom: 1px solid var(--line);
  vertical-align: middle;
}
tbody tr:not([aria-hidden]) {
  height: 40px;
}
td {
  line-height: 1.25;
}
.opened {
  box-shadow: inset 3px 0 var(--accent);
}
.clip {
  all: unset;
  display: block;
  width: 100%;
  box-sizing: border-box;
  padding-left: 6px;
  cursor: pointer;
  line-height: 38px;
}
.clip:hover {
  text-decoration: underline;
}
.clip:focus-visible,
table:focus-visible .at {
  outline: 2px solid var(--accent);
  outline-offset: -2px;
}
table:focus {
  outline: none;
}
.text {
  display: -webkit-box;
  -webkit-line-clamp: 2;
  -webkit-box-orient: vertical;
  overflow: hidden;
  line-height: 1.3;
}
.loss {
  margin: 0 8px;
}
.less .loss {
  font-weight: 600;
  text-decoration: underline;
}
.right {
  text-align: right;
}
.small {
  height: 24px;
  font-size: 12px;
  border-color: var(--line);
}
</style>
