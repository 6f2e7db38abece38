<script setup lang="ts">
import { sizeKey } from '../../core/picture/size'
import { Button, Input } from 'ant-design-vue'
import { computed, ref } from 'vue'
import { usualRate } from '../../core/model/preferences'
import { type SetBy } from '../../core/model/timeline'
import { type Format, formatName, makeFormat } from '../../core/format/format'
import { parseFormat } from '../../core/format/parse'
import { isStandardFormat, objections, standardSizes } from '../../core/format/standard'
import { rateWithScan } from '../../core/rate/rate'
import { usePreferences } from '../../stores/preferences'

/** A format out of three sources: typed, a standard size at the rate of `base`, or one of the editor's own. */
const props = defineProps<{ base: Format | null; verb: string; name: string }>()
const emit = defineEmits<{ pick: [format: Format, setBy: SetBy] }>()
const habits = usePreferences()

const text = ref('')
const trouble = ref<string | null>(null)
const groups = [...new Set(standardSizes.map((s) => s.group))].map((group) => ({
  group,
  sizes: standardSizes.filter((s) => s.group === group),
}))
const example = computed(() =>
  props.base ? `1920x1080@${rateWithScan(props.base.rate, props.base.scan)}` : '1920x1080@25p',
)

function pickTyped() {
  const parsed = parseFormat(text.value)
  const said = parsed
    ? objections(parsed.format)
    : ['Write it as 1920x1080@25p, 3840x2160@23.976p or 1440x1080/4:3@50i.']
  trouble.value = said.length ? said.join(' ') : (parsed?.message ?? null)
  if (parsed && said.length === 0)
    emit('pick', { ...parsed.format, colour: props.base?.colour ?? parsed.format.colour }, 'typed')
  if (said.length === 0) text.value = ''
}
function pickKept(event: Event) {
  const select = event.target as HTMLSelectElement
  const [from, key] = select.value.split(' ')
  select.value = ''
  trouble.value = null
  if (from === 'own') {
    const own = habits.ownFormats.find((f) => f.id === key)
    if (own) emit('pick', own.format, 'own')
    return
  }
  const size = standardSizes.find((s) => sizeKey(s) === key)
  const { base } = props
  if (!size) return
  const scan = size.interlaced ? base?.scan : 'progressive'
  const format = makeFormat(size, base?.rate ?? usualRate(habits.habits), scan, base?.colour)
  // A size of the list at a rate that no standard has with it is no standard format.
  emit('pick', format, isStandardFormat(format) ? 'standard' : 'tried')
}
</script>

<template>
  <form @submit.prevent="pickTyped">
    <Input v-model:value="text" :placeholder="example" :aria-label="name" />
    <Button html-type="submit">{{ verb }}</Button>
    <select aria-label="A standard size or an own format" @change="pickKept">
      <option value="">standard, own…</option>
      <optgroup v-if="habits.ownFormats.length" label="own formats">
        <option v-for="own in habits.ownFormats" :key="own.id" :value="`own ${own.id}`">
          {{ own.name }}: {{ formatName(own.format) }}
        </option>
      </optgroup>
      <optgroup v-for="{ group, sizes } in groups" :key="group" :label="group">
        <option v-for="size in sizes" :key="sizeKey(size)" :value="`standard ${sizeKey(size)}`">
          {{ size.width }}×{{ size.height }} {{ size.name }}
        </option>
      </optgroup>
    </select>
    <slot />
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
  width: 150px;
  font-family: var(--mono);
}
select {
  width: 130px;
}
p {
  width: 100%;
  font-size: 12px;
}
</style>
