<script setup lang="ts">
import { computed } from 'vue'
import { heldFrames } from '../../../../core/motion/lanes'
import { cadence, holdLengths } from '../../../../core/rate/cadence'
import { type Rate, rateName } from '../../../../core/rate/rate'
import { mixedShare } from '../../../../core/motion/mixed'
import { everyFrame } from '../../../../core/motion/speed'
import { toNumber } from '../../../../core/rational/rational'
import { counted, figure, percent, speedWords, timesLonger } from '../../../../core/words/figures'

/** Source frames above, timeline frames below: what is shown again, what is left out, and what would help. */
const props = defineProps<{ source: Rate; timeline: Rate; fields?: boolean }>()
const cell = 26
const shown = 16

const figures = computed(() => cadence(props.source, props.timeline))
const frames = computed(() => heldFrames(props.source, props.timeline, shown))
/** Source frames are spread over the same width, each above the middle of what shows it. */
const sources = computed(() => {
  const count = (frames.value.at(-1) ?? 0) + 1
  const holds = holdLengths(props.source, props.timeline, count)
  const step = (shown * cell) / Math.max(1, count)
  // So many that they would touch: only the ends of a line are drawn then.
  return holds.map((hold, j) => ({ j, hold, x: step * (j + 0.5), width: Math.min(cell - 4, step - 2) }))
})
const links = computed(() =>
  frames.value.map((j, n) => ({
    n,
    j,
    from: sources.value[j]?.x ?? 0,
    to: cell * (n + 0.5),
    again: n > 0 && frames.value[n - 1] === j,
  })),
)

const says = computed(() => {
  const { kind, periodTimeline, periodSource, repeated, dropped, judderMs, slipSeconds } = figures.value
  const pattern = [
    `${counted(periodSource, 'frame')} on ${periodTimeline}`,
    repeated && `${repeated} shown again`,
    dropped && `${dropped} left out`,
    judderMs > 0 && `judder ${figure(judderMs)} ms`,
    slipSeconds && `a slip every ${figure(slipSeconds)} s`,
  ]
  return `${kind.replace('-', ' ')}: ${pattern.filter(Boolean).join(', ')}`
})
const helps = computed(() => {
  const { kind } = figures.value
  const { speed, pitch } = everyFrame(props.source, props.timeline)
  const once = `every frame once runs ${speedWords(toNumber(speed))}, ${timesLonger(toNumber(speed))} times as long, pitch ${pitch > 0 ? '+' : '−'}${figure(Math.abs(pitch), 2)} semitones`
  if (kind === 'slip') return `The cure: ${once}.`
  if (kind === 'uneven')
    return `Blended, ${percent(mixedShare(props.source, props.timeline))} of the frames are mixtures; ${once}.`
  if (kind === 'even-skip') return `As slow motion: ${once}.`
  return ''
})
</script>

<template>
  <figure>
    <figcaption>
      <b class="figures">{{ rateName(source) }}{{ fields ? ' fields' : '' }} in {{ rateName(timeline) }}</b
      >&nbsp;
      <span class="quiet">{{ fields ? 'deinterlaced to double rate, ' : '' }}{{ says }}</span>
    </figcaption>
    <svg
      :viewBox="`0 0 ${shown * cell} 58`"
      role="img"
      :aria-label="`${rateName(source)} in ${rateName(timeline)}, ${says}`"
    >
      <g v-for="s in sources" :key="`s${s.j}`" :class="{ again: s.hold > 1, out: s.hold === 0 }">
        <rect :x="s.x - s.width / 2" y="1" :width="Math.max(1, s.width)" height="16" />
        <text v-if="s.width > 15" :x="s.x" y="13" text-anchor="middle">{{ s.j }}</text>
        <path v-if="s.hold === 0 && s.width > 4" :d="`M${s.x - s.width / 2} 17 L${s.x + s.width / 2} 1`" />
      </g>
      <line
        v-for="link in links"
        :key="`l${link.n}`"
        :x1="link.from"
        y1="17"
        :x2="link.to"
        y2="40"
        :class="{ again: link.again }"
      />
      <g v-for="(j, n) in frames" :key="`t${n}`" class="timeline" :class="{ again: links[n]?.again }">
        <rect :x="n * cell + 1" y="40" :width="cell - 2" height="16" />
        <text :x="(n + 0.5) * cell" y="52" text-anchor="middle">{{ j }}</text>
      </g>
    </svg>
    <p v-if="helps" class="quiet">{{ helps }}</p>
  </figure>
</template>

<style scoped>
figure {
  padding: 8px 0;
  border-bottom: 1px solid var(--line);
}
svg {
  width: 100%;
  display: block;
  margin-top: 4px;
}
rect {
  fill: var(--sheet);
  stroke: var(--quiet);
  stroke-width: 0.8;
}
text {
  font-family: var(--mono);
  font-size: 9px;
  fill: var(--ink);
}
line,
path {
  stroke: var(--quiet);
  stroke-width: 0.8;
}
.timeline rect {
  stroke: var(--line);
}
g.again rect {
  stroke: var(--heavy);
  stroke-width: 1.4;
}
line.again {
  stroke: var(--heavy);
  stroke-width: 1.4;
}
.out rect {
  stroke: var(--severe);
  stroke-dasharray: 2 2;
}
.out path {
  stroke: var(--severe);
}
p,
figcaption {
  font-size: 12px;
}
</style>
