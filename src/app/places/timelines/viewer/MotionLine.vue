<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import { layersAt } from '../../../../core/plan/layers'
import type { Timeline } from '../../../../core/model/timeline'
import { motionLine } from '../../../../core/motion/line'
import { useSelection } from '../../../../stores/selection'
import { useProject } from '../../../../stores/document/project'
import { useCut } from '../../../../stores/cut'

/** The line of motion: each frame of the timeline around the playhead with what of its source it shows, and what is not shown. */
const props = defineProps<{ timeline: Timeline }>()
const project = useProject()
const selection = useSelection()
const cut = useCut()
const box = ref<HTMLElement | null>(null)
const { width } = useElementSize(box)
const cell = 34
const count = computed(() => Math.max(3, Math.floor((width.value - 74) / cell)))
const from = computed(() => Math.max(0, selection.playhead - Math.floor(count.value / 2)))
/** What leads: the placement in hand where it is seen, else what lies on top. */
const cells = computed(() => {
  const timeline = selection.shown ?? props.timeline
  const until = Math.min(selection.length, from.value + count.value)
  const shown = []
  // One more at the beginning, so that the first of all knows what came before it.
  for (let n = from.value - 1; n < until; n++) {
    const layers = n < 0 ? [] : layersAt(project.opened, timeline, n)
    const layer = layers.find(({ placementId }) => selection.selectedIds.has(placementId)) ?? layers.at(-1)
    shown.push({ n, id: layer?.placementId ?? null, shown: layer?.shown ?? ({ kind: 'nothing' } as const) })
  }
  return motionLine(shown).slice(1)
})
/** So many letters have room below a cell; where the frames left out need more, they are counted. */
const mostLetters = 5
function lostWords(lost: readonly number[]): string {
  const each = lost.join(' ')
  return each.length > mostLetters && lost.length > 1 ? `${lost.length} ×` : each
}
const says = computed(() => {
  const countOf = (kind: string) => cells.value.filter(({ mark }) => mark === kind).length
  const lost = cells.value.reduce((sum, { lost }) => sum + lost.length, 0)
  return `of ${cells.value.length} frames ${countOf('again')} shown again, ${countOf('mixed')} mixed, ${lost} of the source left out`
})
</script>

<template>
  <div
    ref="box"
    class="motion"
    :class="{ elsewhere: cut.viewed }"
    role="img"
    :aria-label="`The line of motion: ${says}`"
    :data-now="cells.find(({ n }) => n === selection.playhead)?.text"
  >
    <div class="names quiet">
      <span>timeline</span>
      <span class="middle">shows</span>
      <span>left out</span>
    </div>
    <div
      v-for="lineCell in cells"
      :key="lineCell.n"
      class="cell"
      :class="[lineCell.mark, { now: lineCell.n === selection.playhead, first: lineCell.begins }]"
      :style="{ width: `${cell}px` }"
      @click="selection.goTo(lineCell.n)"
    >
      <span class="n figures">{{ lineCell.n }}</span>
      <span class="frame figures"
        ><span>{{ lineCell.text }}</span
        ><span v-if="lineCell.below">{{ lineCell.below }}</span></span
      >
      <span class="lost figures">{{ lostWords(lineCell.lost) }}</span>
    </div>
  </div>
</template>

<style scoped>
.motion {
  display: flex;
  overflow: hidden;
  font-size: 10.5px;
  line-height: 1.25;
  height: 58px;
  flex: none;
}
/* It is of the cut: while a clip is looked at that is not placed, it keeps its room alone. */
.elsewhere {
  visibility: hidden;
}
.names {
  width: 74px;
  flex: none;
  display: flex;
  flex-direction: column;
  font-size: 11.5px;
}
.middle {
  height: 29px;
  padding-top: 6px;
  box-sizing: border-box;
}
.cell {
  flex: none;
  display: flex;
  flex-direction: column;
  text-align: center;
  cursor: pointer;
}
.n {
  color: var(--quiet);
}
.frame {
  height: 27px;
  margin: 0 1px;
  border: 1px solid var(--line);
  background: var(--sheet);
  display: flex;
  flex-direction: column;
  justify-content: center;
  overflow: hidden;
}
.first .frame {
  border-left: 3px solid var(--ink);
}
.again .frame {
  border-style: dashed;
  border-color: var(--heavy);
  color: var(--heavy);
}
.mixed .frame,
.made .frame {
  border-color: var(--ink);
  background: repeating-linear-gradient(135deg, var(--sheet) 0 4px, var(--line) 4px 5px);
}
.nothing .frame {
  border-color: transparent;
  background: none;
}
.now .n {
  color: var(--ink);
  font-weight: 600;
}
.now .frame {
  background: var(--accent);
  color: var(--onAccent);
  border-color: var(--accent);
}
.lost {
  color: var(--severe);
  white-space: nowrap;
}
</style>
