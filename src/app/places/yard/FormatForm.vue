<script setup lang="ts">
import { Button, Input } from 'ant-design-vue'
import { computed, ref } from 'vue'
import { type Format, makeFormat, sizeText } from '../../../core/format/format'
import { parseFormat } from '../../../core/format/parse'
import { objections, standardSizes, turned } from '../../../core/format/standard'
import { rateWithScan } from '../../../core/rate/rate'

/** Another format: typed, a standard size at the rate that is looked at, or the same one turned on its side. */
const props = defineProps<{ looked: Format | null }>()
const emit = defineEmits<{ try: [format: Format, setBy: 'typed' | 'standard']; deliver: [format: Format] }>()

const text = ref('')
const trouble = ref<string | null>(null)
const groups = computed(() =>
  [...new Set(standardSizes.map((s) => s.group))].map((group) => ({
    group,
    sizes: standardSizes.filter((s) => s.group === group),
  })),
)

function typed(): Format | null {
  const parsed = parseFormat(text.value)
  const said = parsed
    ? objections(parsed.format)
    : ['Write it as 1920x1080@25p, 3840x2160@23.976p or 1440x1080/4:3@50i.']
  trouble.value = said.length ? said.join(' ') : (parsed?.message ?? null)
  return parsed && said.length === 0
    ? { ...parsed.format, colour: props.looked?.colour ?? parsed.format.colour }
    : null
}
function tryTyped() {
  const format = typed()
  if (format) emit('try', format, 'typed')
}
function deliver() {
  const format = text.value.trim() ? typed() : props.looked
  if (format) emit('deliver', format)
}
function tryStandard(event: Event) {
  const select = event.target as HTMLSelectElement
  const size = standardSizes.find((s) => sizeText(s) === select.value)
  select.value = ''
  if (size && props.looked)
    emit(
      'try',
      makeFormat(
        size,
        props.looked.rate,
        size.interlaced ? props.looked.scan : 'progressive',
        props.looked.colour,
      ),
      'standard',
    )
}
function turn() {
  const { looked } = props
  if (looked) emit('try', { ...looked, ...turned(looked), scan: 'progressive', fieldOrder: null }, 'standard')
}
</script>

<template>
  <form @submit.prevent="tryTyped">
    <Input
      v-model:value="text"
      :placeholder="looked ? `1920x1080@${rateWithScan(looked.rate, looked.scan)}` : '1920x1080@25p'"
      aria-label="Another format"
    />
    <Button html-type="submit">Try</Button>
    <select aria-label="A standard size" @change="tryStandard">
      <option value="">standard…</option>
      <optgroup v-for="{ group, sizes } in groups" :key="group" :label="group">
        <option v-for="size in sizes" :key="sizeText(size)" :value="sizeText(size)">
          {{ size.width }}×{{ size.height }} {{ size.name }}
        </option>
      </optgroup>
    </select>
    <Button :disabled="!looked" @click="turn">Turn</Button>
    <Button :disabled="!looked" @click="deliver">Is delivered</Button>
    <p v-if="trouble" role="status" class="quiet">{{ trouble }}</p>
  </form>
</template>

<style scoped>
form {
  display: flex;
  gap: 6px;
  flex-wrap: wrap;
}
form :deep(input) {
  width: 118px;
  font-family: var(--mono);
}
select {
  font: inherit;
  height: 28px;
  width: 84px;
  color: var(--ink);
  background: var(--sheet);
  border: 1px solid var(--ink);
  border-radius: 2px;
}
p {
  width: 100%;
  font-size: 12px;
}
</style>
