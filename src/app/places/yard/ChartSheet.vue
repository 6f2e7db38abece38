<script setup lang="ts">
import { aspects } from '../../../core/toll/words'
import { BarController, BarElement, CategoryScale, Chart, Legend, LinearScale, Tooltip } from 'chart.js'
import { computed } from 'vue'
import { Bar } from 'vue-chartjs'
import { figure, runningTime } from '../../../core/words/figures'
import { lossParts } from '../../../core/choice/parts'
import { formatName, formatKey } from '../../../core/format/format'
import { useYard } from '../../../stores/yard'
import { useEdition } from '../../theme/edition'
import { chartFills, cssVariables } from '../../theme/tokens'
import { byAspect, timeByRate } from './tallies'

Chart.register(BarController, BarElement, CategoryScale, LinearScale, Legend, Tooltip)

/** Two charts: how much footage there is of each rate and size, and what the losses are made of. */
const yard = useYard()
const { edition } = useEdition()
const colours = computed(() => cssVariables(edition.value))

const time = computed(() => timeByRate(yard.ballot.blocs))
const fills = (count: number) => chartFills(edition.value, count)
const timeData = computed(() => ({
  labels: [...time.value.rates],
  datasets: time.value.sizes.map((size, i) => ({
    label: size,
    data: [...(time.value.seconds[i] ?? [])],
    backgroundColor: fills(time.value.sizes.length)[i],
    borderColor: colours.value['--ink'],
    borderWidth: 0.5,
  })),
}))

/** The best five, and the one that is tried where it is not among them. */
const taken = computed(() => {
  const formats = yard.ranking.slice(0, 5).map((c) => c.format)
  const tried = yard.candidate
  if (tried && !formats.some((f) => formatKey(f) === formatKey(tried))) formats.push(tried)
  return formats.map((format) => {
    const parts = lossParts(format, yard.ballot.blocs, yard.pricing)
    return { format, parts, sums: byAspect(parts), loss: parts.reduce((sum, part) => sum + part.value, 0) }
  })
})
const partData = computed(() => ({
  labels: taken.value.map(({ format }) => formatName(format)),
  datasets: aspects.map((aspect, i) => ({
    label: aspect,
    data: taken.value.map(({ sums }) => sums[aspect]),
    backgroundColor: fills(aspects.length)[i],
    borderColor: colours.value['--ink'],
    borderWidth: 0.5,
  })),
}))

/** The dress of both: hairlines, our type, bars stacked side on side. */
function dress(unit: string) {
  const text = { color: colours.value['--ink'], font: { family: "'IBM Plex Sans'", size: 12 } }
  const figures = { ...text, font: { family: "'IBM Plex Mono'", size: 11 } }
  const quiet = colours.value['--quiet']
  return {
    indexAxis: 'y' as const,
    animation: false as const,
    maintainAspectRatio: false,
    scales: {
      x: {
        stacked: true,
        grid: { color: colours.value['--line'] },
        ticks: { color: quiet, font: figures.font },
        title: { display: true, text: unit, color: quiet, font: text.font },
      },
      y: {
        stacked: true,
        grid: { display: false },
        border: { color: colours.value['--ink'] },
        ticks: { color: text.color, font: figures.font },
      },
    },
    plugins: {
      legend: { position: 'bottom' as const, labels: { ...text, boxWidth: 12, boxHeight: 12, padding: 8 } },
      tooltip: { cornerRadius: 2, bodyFont: text.font, titleFont: figures.font },
    },
  }
}
const timeOptions = computed(() => dress('seconds'))
const partOptions = computed(() => dress('loss: 0 nothing, 1 all'))
const candidate = computed(() =>
  taken.value.find((s) => yard.candidate && formatKey(s.format) === formatKey(yard.candidate)),
)
</script>

<template>
  <section aria-labelledby="time">
    <h2 id="time">Running time by rate and size</h2>
    <div class="chart" :style="{ height: `${90 + 26 * time.rates.length}px` }">
      <Bar :data="timeData" :options="timeOptions" aria-hidden="true" />
    </div>
    <table class="visually-hidden">
      <caption>
        Running time by rate and size
      </caption>
      <tr>
        <td />
        <th v-for="rate in time.rates" :key="rate" scope="col">{{ rate }}</th>
      </tr>
      <tr v-for="(size, i) in time.sizes" :key="size">
        <th scope="row">{{ size }}</th>
        <td v-for="(rate, j) in time.rates" :key="rate">{{ runningTime(time.seconds[i]?.[j] ?? 0) }}</td>
      </tr>
    </table>
  </section>
  <section aria-labelledby="parts">
    <h2 id="parts">What the losses are made of</h2>
    <div class="chart" :style="{ height: `${100 + 26 * taken.length}px` }">
      <Bar :data="partData" :options="partOptions" aria-hidden="true" />
    </div>
    <table v-if="candidate" class="parts">
      <caption class="quiet">
        {{
          formatName(candidate.format)
        }}, kind by kind
      </caption>
      <tbody>
        <tr v-for="part in candidate.parts" :key="part.kind">
          <th scope="row">{{ part.kind.replace('-', ' ') }}</th>
          <td class="figures">{{ figure(part.value, 3) }}</td>
        </tr>
        <tr class="sum">
          <th scope="row">loss</th>
          <td class="figures">{{ figure(candidate.loss, 3) }}</td>
        </tr>
      </tbody>
    </table>
  </section>
</template>

<style scoped>
section + section {
  margin-top: 16px;
  border-top: 1px solid var(--line);
  padding-top: 10px;
}
.chart {
  position: relative;
  margin-top: 6px;
}
.parts {
  border-collapse: collapse;
  margin-top: 10px;
  width: 100%;
}
caption {
  text-align: left;
}
th {
  font-weight: 400;
  text-align: left;
}
td {
  text-align: right;
}
.parts th,
.parts td {
  padding: 2px 0;
  border-bottom: 1px solid var(--line);
}
.sum th,
.sum td {
  font-weight: 600;
  border-color: var(--ink);
}
</style>
