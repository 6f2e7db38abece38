<script setup lang="ts">
import { useVirtualizer } from '@tanstack/vue-virtual'
import { computed, ref } from 'vue'
import { type Mark, differencesFrom, oddities } from '../../../core/check/marks'
import type { Clip } from '../../../core/edit/project'
import { useProject } from '../../../stores/project'
import type { ListKeys } from '../../components/list-keys'
import { clockTime, codecLabel, rateLabel, uprightSizeName } from '../../figures'

const props = defineProps<{ clips: Clip[]; keys: ListKeys }>()
defineEmits<{ remove: [] }>()
const project = useProject()

const rowHeight = 26
const scroller = ref<HTMLElement | null>(null)
const virtual = useVirtualizer(
  computed(() => ({
    count: props.clips.length,
    getScrollElement: () => scroller.value,
    estimateSize: () => rowHeight,
    overscan: 12,
  })),
)
const reveal = (index: number) => virtual.value.scrollToIndex(index)
defineExpose({ reveal })

/** What the list says of a clip: differences from the project's format first, then what is odd in itself. */
function marksOf(clip: Clip): { differing: Mark[]; odd: Mark[] } {
  if (!clip.reading) return { differing: [], odd: [] }
  const differing = project.format ? differencesFrom(clip.reading, project.format) : []
  const told = new Set(differing.map((mark) => mark.short))
  // That there is no sound is said in the docket; here it would stand in every other row.
  return {
    differing,
    odd: oddities(clip.reading).filter((mark) => !told.has(mark.short) && mark.about !== 'sound'),
  }
}
const soundOf = (clip: Clip) => {
  const sound = clip.reading?.kind === 'audio' ? clip.reading.audio[0] : null
  return sound ? `${(sound.sampleRate ?? 0) / 1000} kHz, ${sound.channels} ch` : ''
}
</script>

<template>
  <div class="frame">
    <div class="head heading" aria-hidden="true">
      <span>clip</span><span class="right">size</span><span class="right">rate</span
      ><span class="right">time</span><span>codec</span><span>wrapper</span
      ><span class="right">starts at</span><span>{{ project.format ? 'what differs' : 'what is odd' }}</span>
    </div>
    <div
      ref="scroller"
      class="rows"
      role="listbox"
      aria-label="Clips"
      aria-multiselectable="true"
      tabindex="0"
      :aria-activedescendant="clips[keys.at.value] ? `clip-${clips[keys.at.value].id}` : undefined"
      @keydown="keys.onKey"
      @keydown.delete="$emit('remove')"
    >
      <div role="presentation" :style="{ height: `${virtual.getTotalSize()}px`, position: 'relative' }">
        <div
          v-for="row in virtual.getVirtualItems()"
          :id="`clip-${clips[row.index].id}`"
          :key="clips[row.index].id"
          class="row"
          role="option"
          :aria-selected="keys.selected.value.has(clips[row.index].id)"
          :aria-posinset="row.index + 1"
          :aria-setsize="clips.length"
          :class="{ selected: keys.selected.value.has(clips[row.index].id), at: row.index === keys.at.value }"
          :style="{ transform: `translateY(${row.start}px)` }"
          @click="keys.onClick(row.index, $event)"
        >
          <span class="ellipsis name" :title="clips[row.index].name">{{ clips[row.index].name }}</span>
          <span
            v-if="clips[row.index].fault"
            class="fault ellipsis"
            :title="clips[row.index].fault!.message"
            >{{ clips[row.index].fault!.message }}</span
          >
          <template v-else>
            <span class="figures right">{{ uprightSizeName(clips[row.index]) }}</span>
            <span class="figures right">{{ rateLabel(clips[row.index]) }}</span>
            <span class="figures right">{{ clockTime(clips[row.index].reading?.durationSec) }}</span>
            <span class="ellipsis">{{ codecLabel(clips[row.index]) }}</span>
            <span class="quiet ellipsis">{{ clips[row.index].reading?.container }}</span>
            <span class="figures quiet right">{{ clips[row.index].reading?.timecode?.start ?? '–' }}</span>
            <span class="ellipsis">
              <span class="differs">{{
                marksOf(clips[row.index])
                  .differing.map((m) => m.short)
                  .join(' · ')
              }}</span>
              <span v-if="marksOf(clips[row.index]).odd.length" class="quiet"
                >{{ marksOf(clips[row.index]).differing.length ? ' · ' : ''
                }}{{
                  marksOf(clips[row.index])
                    .odd.map((m) => m.short)
                    .join(' · ')
                }}</span
              >
              <span v-if="clips[row.index].reading?.kind === 'still'" class="quiet">does not vote</span>
              <span class="quiet">{{ soundOf(clips[row.index]) }}</span>
            </span>
          </template>
        </div>
      </div>
    </div>
  </div>
</template>

<style scoped>
.frame {
  display: flex;
  flex-direction: column;
  min-height: 0;
  flex: 1;
  border-top: 1px solid var(--ink);
}
.head,
.row {
  display: grid;
  grid-template-columns: minmax(152px, 1.4fr) 80px 70px 44px minmax(90px, 1fr) 72px 90px minmax(130px, 1.5fr);
  column-gap: 12px;
  align-items: center;
  padding: 0 8px;
}
.head {
  height: 24px;
  border-bottom: 1px solid var(--line);
}
.rows {
  overflow: auto;
  flex: 1;
  min-height: 0;
}
.row {
  position: absolute;
  inset: 0 0 auto;
  height: 26px;
  border-bottom: 1px solid var(--line);
  cursor: default;
  white-space: nowrap;
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
.name {
  font-weight: 400;
}
.differs {
  color: var(--severe);
}
.fault {
  grid-column: 2 / -1;
  color: var(--severe);
}
</style>
