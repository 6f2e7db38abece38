<script setup lang="ts">
import { Chart, Legend, LineController, LineElement, LinearScale, PointElement } from 'chart.js'
import { computed } from 'vue'
import { Line } from 'vue-chartjs'
import type { Evidence } from '../../../../core/evidence/evidence'
import type { Spectrum } from '../../../../core/evidence/view'
import { figure } from '../../../../core/words/figures'
import { useEdition } from '../../../theme/edition'
import { cssVariables } from '../../../theme/tokens'

Chart.register(LineController, LineElement, PointElement, LinearScale, Legend)

/** How strong each fineness is in a frame, and the line beyond which an enlargement left nothing. */
const props = defineProps<{
  spectrum: Spectrum
  size: { readonly width: number; readonly height: number }
  detail: Evidence['detail'] | null
}>()
const { edition } = useEdition()
const colours = computed(() => cssVariables(edition.value))
const points = computed(() => props.spectrum.across.length)
const enlargedFrom = computed(() => (props.detail?.verdict === 'enlarged' ? props.detail.width : null))
/** Strengths over the fineness that they stand for, in pixels across the picture. */
const along = (strengths: readonly number[]) =>
  strengths.map((y, k) => ({ x: ((k + 0.5) / points.value) * props.size.width, y }))
/** A line straight down at the width that was enlarged from. */
const border = computed(() => {
  const width = enlargedFrom.value
  if (!width) return []
  const all = [...props.spectrum.across, ...props.spectrum.down]
  const [low, high] = [Math.min(...all), Math.max(...all)]
  return [
    {
      label: `enlarged from ${width}`,
      data: [high, low].map((y) => ({ x: width, y })),
      borderColor: colours.value['--severe'],
      borderDash: [4, 3],
      borderWidth: 2,
      pointRadius: 0,
    },
  ]
})
const data = computed(() => ({
  datasets: [
    {
      label: 'across',
      data: along(props.spectrum.across),
      borderColor: colours.value['--accent'],
      borderWidth: 2,
      pointRadius: 0,
    },
    {
      label: 'down',
      data: along(props.spectrum.down),
      borderColor: colours.value['--quiet'],
      borderWidth: 1.5,
      pointRadius: 0,
    },
    ...border.value,
  ],
}))
const options = computed(() => {
  const font = { family: "'IBM Plex Mono'", size: 11 }
  const text = { family: "'IBM Plex Sans'", size: 12 }
  const color = colours.value['--quiet']
  return {
    animation: false as const,
    maintainAspectRatio: false,
    scales: {
      x: {
        type: 'linear' as const,
        max: props.size.width,
        ticks: { color, font, maxTicksLimit: 8, format: { useGrouping: false } },
        grid: { color: colours.value['--line'] },
        title: { display: true, text: 'fineness, as pixels across the picture', color, font: text },
      },
      y: {
        ticks: { color, font },
        grid: { color: colours.value['--line'] },
        title: { display: true, text: 'strength, dB', color, font: text },
      },
    },
    plugins: {
      legend: { labels: { color: colours.value['--ink'], font: text, boxWidth: 14, boxHeight: 2 } },
    },
  }
})
/** The same in words, for who does not see it. */
const said = computed(() => {
  const at = (strengths: readonly number[]) => (share: number) => {
    const strength = strengths[Math.min(strengths.length - 1, Math.floor(share * strengths.length))]
    return `${figure(strength ?? 0, 0)} dB at ${figure(share * props.size.width, 0)}`
  }
  const [across, down] = [props.spectrum.across, props.spectrum.down].map((strengths) =>
    [0.25, 0.5, 0.75, 0.95].map(at(strengths)).join(', '),
  )
  const ends = enlargedFrom.value ? ` Enlarged from ${enlargedFrom.value}: finer than that is nothing.` : ''
  return `Strength across: ${across} pixels. Down: ${down} pixels.${ends}`
})
</script>

<template>
  <div class="chart"><Line :data="data" :options="options" role="img" :aria-label="said" /></div>
</template>

<style scoped>
.chart {
  height: 46vh;
  min-width: 0;
  background: var(--sheet);
  padding: 10px;
}
</style>
