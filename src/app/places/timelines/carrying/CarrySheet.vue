<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import type { CarryWay } from '../../../../core/edit/carrying'
import { leadsIn } from '../../../../core/model/timeline'
import { formatName, makeFormat, shapeName } from '../../../../core/format/format'
import { turnedSize } from '../../../../core/picture/turn'
import { type Rate, rateName, standardRates } from '../../../../core/rate/rate'
import { canDropFrame, frameToTimecode } from '../../../../core/rate/timecode'
import { equal } from '../../../../core/rational/rational'
import { counted } from '../../../../core/words/figures'
import { useCarrying } from '../../../../stores/carrying'
import FormatPicker from '../../../components/FormatPicker.vue'
import FramingSheet from './FramingSheet.vue'
import TwoStrips from './TwoStrips.vue'
import WayColumn from './WayColumn.vue'

/** A cut carried to another format: both strips, the ways with their prices beside each other, and what becomes of the pictures. */
const carrying = useCarrying()
const router = useRouter()
const way = ref<CarryWay>('recut')

const usual = ['23.976', '24', '25', '29.97', '50', '59.94']
const rates = standardRates.filter((rate) => usual.includes(rateName(rate)))
const withRate = (rate: Rate) => {
  const { format } = carrying
  if (format) carrying.aim({ ...format, rate }, 'tried')
}
function turn() {
  const { format } = carrying
  if (!format) return
  const { width, height, pixelAspect } = turnedSize(format)
  carrying.aim(makeFormat({ width, height, pixelAspect }, format.rate, 'progressive', format.colour), 'tried')
}
const price = computed(
  () => carrying.prices.find((price) => price.way === way.value) ?? carrying.prices[0] ?? null,
)
const recut = computed(() => carrying.prices.find((price) => price.way === 'recut') ?? null)
const placed = computed(() => (carrying.timeline ? leadsIn(carrying.timeline).length : 0))
async function take(method: CarryWay, asCopy: boolean) {
  const id = await carrying.take(method, asCopy)
  if (id) await router.push({ name: 'timelines', params: { id } })
}
</script>

<template>
  <section
    v-if="carrying.timeline && carrying.was && carrying.format"
    class="carry"
    aria-label="Carry over"
    @keydown.escape="carrying.leave"
  >
    <header>
      <h2>{{ carrying.timeline.name }}: from {{ formatName(carrying.was) }}</h2>
      <span class="quiet"
        >{{ counted(placed, 'placement') }},
        {{ price ? frameToTimecode(price.length[0].frames, carrying.was.rate) : '' }}, not yet changed</span
      >
      <button class="word end" @click="carrying.leave">leave it as it is</button>
    </header>
    <div class="aim" role="group" aria-label="To which format">
      <span class="quiet">to</span>
      <b class="figures">{{ formatName(carrying.format) }}</b>
      <span class="quiet">{{ shapeName(carrying.format) }}</span>
      <span class="rates" role="group" aria-label="Rate">
        <button
          v-for="rate in rates"
          :key="rateName(rate)"
          class="word figures"
          :aria-pressed="equal(rate, carrying.format.rate)"
          @click="withRate(rate)"
        >
          {{ rateName(rate) }}
        </button>
      </span>
      <button class="word" title="Landscape to portrait, or back" @click="turn">turn it</button>
      <FormatPicker
        :base="carrying.format"
        verb="Aim"
        name="Another format to carry to"
        @pick="carrying.aim"
      />
      <label v-if="canDropFrame(carrying.format.rate)"
        ><input v-model="carrying.dropFrame" type="checkbox" /> drop-frame</label
      >
    </div>
    <p v-if="!carrying.changes" class="quiet">
      Choose a rate, a size or a shape: what each way would do is priced here before anything changes.
    </p>
    <template v-else>
      <TwoStrips v-if="price && carrying.changesRate" :before="carrying.timeline" :price="price" />
      <FramingSheet v-if="recut && carrying.changesSize" :price="recut" />
      <div class="ways">
        <WayColumn
          v-for="changedPrice in carrying.prices"
          :key="changedPrice.way"
          :price="changedPrice"
          :held="changedPrice.way === price?.way"
          @hold="way = changedPrice.way"
          @take="(asCopy) => take(changedPrice.way, asCopy)"
        />
      </div>
    </template>
  </section>
</template>

<style scoped>
.carry {
  padding: 10px 18px 12px;
  display: flex;
  flex-direction: column;
  gap: 9px;
  min-height: 0;
  overflow: auto;
}
header,
.aim {
  display: flex;
  gap: 10px;
  align-items: baseline;
  flex-wrap: wrap;
}
.aim {
  align-items: center;
  padding-bottom: 8px;
  border-bottom: 1px solid var(--ink);
}
.aim b {
  font-size: 15px;
}
.end {
  margin-left: auto;
}
.rates {
  display: flex;
}
label {
  display: flex;
  gap: 6px;
  align-items: center;
}
.ways {
  display: grid;
  grid-auto-flow: column;
  grid-auto-columns: minmax(0, 1fr);
  gap: 12px;
}
</style>
