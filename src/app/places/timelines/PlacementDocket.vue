<script setup lang="ts">
import { computed } from 'vue'
import { findingOf } from '../../../core/check/check'
import type { Placement } from '../../../core/edit/project'
import type { Format } from '../../../core/format/format'
import { formatName } from '../../../core/format/format'
import { fitPicture, hasHairline } from '../../../core/framing/framing'
import { frameToTimecode } from '../../../core/rate/timecode'
import { figure, percent, pixels, sentence } from '../../../core/toll/sentence'
import { useProject } from '../../../stores/project'
import GradeMark from '../../components/GradeMark.vue'
import { rateLabel, uprightSizeName } from '../../figures'

const props = defineProps<{ placement: Placement | null; format: Format | null; playhead: number }>()
const project = useProject()
const clip = computed(() => (props.placement ? (project.doc?.clips[props.placement.clipId] ?? null) : null))
const finding = computed(() =>
  props.placement && props.format && project.doc
    ? findingOf(project.doc, props.placement, props.format)
    : null,
)
const fit = computed(() => {
  const video = clip.value?.reading?.video
  return video && props.format && props.placement
    ? fitPicture(video, props.format, props.placement.treatment)
    : null
})
</script>

<template>
  <aside class="sheet" aria-label="Docket">
    <p v-if="!placement || !clip || !format" class="quiet">
      Select a placed clip: what happens to it stands here.
    </p>
    <template v-else>
      <h2 class="ellipsis" :title="clip.name">{{ clip.name }}</h2>
      <p class="quiet">
        <span class="figures">{{ uprightSizeName(clip) }} · {{ rateLabel(clip) }}</span
        ><br />
        placed at <span class="figures">{{ frameToTimecode(placement.start, format.rate) }}</span> for
        <span class="figures">{{ placement.length }}</span> frames
      </p>
      <template v-if="finding && fit">
        <h3>In {{ formatName(format) }}: <GradeMark :grade="finding.toll.grade" /></h3>
        <ul>
          <li v-if="finding.toll.charges.length === 0">
            Untouched: every pixel and every frame as recorded.
          </li>
          <li v-for="charge in finding.toll.charges" :key="charge.kind">
            <GradeMark :grade="charge.grade" /><br />{{ sentence(charge)
            }}<span class="quiet figures"> · loss {{ charge.loss.toFixed(3) }}</span>
          </li>
        </ul>
        <dl>
          <dt class="quiet">framing</dt>
          <dd>{{ placement.treatment.framing }}</dd>
          <dt class="quiet">scale</dt>
          <dd class="figures">{{ figure(fit.scaleX, 4) }} × {{ figure(fit.scaleY, 4) }}</dd>
          <dt class="quiet">bars</dt>
          <dd class="figures">{{ pixels(fit.bars.left) }} · {{ pixels(fit.bars.top) }} px</dd>
          <dt class="quiet">headroom</dt>
          <dd class="figures">{{ percent(fit.headroom) }}</dd>
          <dt class="quiet">motion</dt>
          <dd>frames held as they land</dd>
        </dl>
        <p v-if="hasHairline(fit)" class="quiet">The bars are a hairline: filling would hide them.</p>
      </template>
    </template>
  </aside>
</template>

<style scoped>
aside {
  display: flex;
  flex-direction: column;
  gap: 10px;
}
aside > * {
  flex: none;
}
ul {
  list-style: none;
  padding: 0;
}
li {
  padding: 5px 0;
  border-bottom: 1px solid var(--line);
}
dl {
  display: grid;
  grid-template-columns: 80px 1fr;
  row-gap: 3px;
}
</style>
