<script setup lang="ts">
import { Button, Input } from 'ant-design-vue'
import { computed, ref, shallowRef, watch } from 'vue'
import { mayFlicker, ratesInOrder, usualRate } from '../../../core/model/preferences'
import { type Format, makeFormat, pixelSizeName, tradeName } from '../../../core/format/format'
import { parseSize } from '../../../core/format/parse'
import { type Shape, parseShape, shapes, sizesInShape } from '../../../core/format/shape'
import { type FrameSize, sizeKey } from '../../../core/picture/size'
import { turnedSize } from '../../../core/picture/turn'
import { parseRate } from '../../../core/rate/parse'
import { rateName, rateWithScan } from '../../../core/rate/rate'
import { equal, rational, toNumber } from '../../../core/rational/rational'
import { usePreferences } from '../../../stores/preferences'
import TermMark from '../../components/terms/TermMark.vue'

/** A format in three steps: the picture's shape, the sizes that exist in it, a rate with its scan. */
const format = defineModel<Format | null>({ required: true })
const habits = usePreferences()

const shapeText = ref('16:9')
const size = shallowRef<FrameSize | null>(null)
const sizeTyped = ref('')
const rateText = ref('25')
const scan = ref<Format['scan']>('progressive')

void habits.ready.then(() => {
  shapeText.value = habits.habits.shape
  rateText.value = rateName(usualRate(habits.habits))
})

const shape = computed(() => parseShape(shapeText.value))
/** Shapes beside each other, all of one area. */
function drawn({ aspect }: Shape) {
  const width = 20 * Math.sqrt(toNumber(aspect))
  const height = 400 / width
  return { x: -width / 2, y: -height / 2, width, height }
}
const sizes = computed(() => (shape.value ? sizesInShape(shape.value) : []))
const isSize = (a: FrameSize) => size.value !== null && sizeKey(a) === sizeKey(size.value)
watch(
  sizes,
  (list) => {
    if (list.length === 0 || list.some(isSize)) return
    const isHd = (s: FrameSize) => Math.min(s.width, s.height) === 1080 && tradeName(s) !== null
    size.value = list.find(isHd) ?? list[0] ?? null
  },
  { immediate: true },
)
function typeSize() {
  const typed = parseSize(sizeTyped.value)
  if (typed) size.value = typed
}
const sizeTrouble = computed(() =>
  sizeTyped.value.trim() && !parseSize(sizeTyped.value) ? 'Write it as 1920x1080 or 1440x1080/4:3.' : '',
)
/** Landscape to portrait and back, the size along with the shape. */
function turn() {
  const is = shape.value
  if (!is) return
  const lying = rational(is.aspect.den, is.aspect.num)
  if (size.value) size.value = turnedSize(size.value)
  shapeText.value = shapes.find((s) => equal(s.aspect, lying))?.name ?? `${lying.num}:${lying.den}`
}

const typedRate = computed(() => parseRate(rateText.value))
watch(typedRate, (typed) => {
  if (typed?.scan) scan.value = typed.scan
})
const rates = computed(() => ratesInOrder(habits.habits))
const flickers = computed(() => typedRate.value && mayFlicker(typedRate.value.rate, habits.habits.mains))

watch(
  [size, typedRate, scan],
  () => {
    format.value =
      size.value && typedRate.value ? makeFormat(size.value, typedRate.value.rate, scan.value) : null
  },
  { immediate: true },
)
</script>

<template>
  <div>
    <fieldset class="step">
      <legend><TermMark term="display-shape">Shape</TermMark></legend>
      <label v-for="s in shapes" :key="s.name"
        ><input v-model="shapeText" type="radio" :value="s.name" name="shape" />
        <svg class="drawn" viewBox="-17 -17 34 34" aria-hidden="true"><rect v-bind="drawn(s)" /></svg>
        {{ s.name }}</label
      >
      <Input v-model:value="shapeText" class="short" aria-label="Another shape" />
      <Button @click="turn">Turn on its side</Button>
      <p v-if="!shape" class="quiet" role="status">Write it as 16:9, 2.39:1 or 1.85.</p>
    </fieldset>
    <fieldset class="step">
      <legend><TermMark term="frame-sizes">Size</TermMark></legend>
      <div class="sizes">
        <label v-for="s in sizes" :key="sizeKey(s)"
          ><input type="radio" name="size" :checked="isSize(s)" @change="size = s" />
          <span class="figures">{{ pixelSizeName(s) }}</span>
          <span class="quiet">{{ tradeName(s) ?? '' }}</span></label
        >
      </div>
      <Input
        v-model:value="sizeTyped"
        class="short"
        placeholder="1920x1080"
        aria-label="Another size"
        @change="typeSize"
      />
      <p v-if="sizeTrouble" class="quiet" role="status">{{ sizeTrouble }}</p>
    </fieldset>
    <fieldset class="step">
      <legend>
        <TermMark term="frame-rate">Rate</TermMark> and <TermMark term="interlaced">scan</TermMark>
      </legend>
      <label v-for="rate in rates" :key="rateName(rate)"
        ><input v-model="rateText" type="radio" :value="rateName(rate)" name="rate" />
        <span class="figures">{{ rateName(rate) }}</span></label
      >
      <Input v-model:value="rateText" class="short" aria-label="Another rate" />
      <label><input v-model="scan" type="radio" value="progressive" name="scan" /> progressive</label>
      <label
        ><input v-model="scan" type="radio" value="interlaced" name="scan" /> interlaced{{
          typedRate ? `, ${rateWithScan(typedRate.rate, 'interlaced')}` : ''
        }}</label
      >
      <p v-if="!typedRate" class="quiet" role="status">Write it as 25, 23.976, 30000/1001 or 50i.</p>
      <p v-else-if="typedRate.message" class="quiet" role="status">{{ typedRate.message }}</p>
      <p v-if="flickers" class="quiet">
        Under {{ habits.habits.mains }} Hz lamps {{ typedRate ? rateName(typedRate.rate) : '' }} frames a
        second may flicker.
      </p>
    </fieldset>
  </div>
</template>

<style scoped>
.sizes {
  display: grid;
  grid-template-columns: repeat(3, max-content);
  gap: 4px 16px;
  width: 100%;
}
/* A name and its figures stay on one line. */
.sizes label {
  white-space: nowrap;
  display: flex;
  gap: 6px;
  align-items: center;
  min-height: 24px;
}
.drawn {
  width: 34px;
  height: 34px;
}
.drawn rect {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.5;
}
label:has(:checked) .drawn rect {
  stroke: var(--accent);
  stroke-width: 3;
}
.sizes .quiet {
  font-size: 12px;
}
.sizes .figures {
  font-size: 12.5px;
}
.short {
  width: 104px;
  font-family: var(--mono);
}
</style>
