<script setup lang="ts">
import { Button } from 'ant-design-vue'
import { computed, ref } from 'vue'
import type { Placement } from '../../../../core/model/timeline'
import type { Condition } from '../../../../core/treatment/rule'
import { conditionWords, overrideWords } from '../../../../core/treatment/words'
import { useCut } from '../../../../stores/cut'

/** A rule out of what the placements in hand set of their own: for every clip that is like them in what is ticked. */
const props = defineProps<{ placements: readonly Placement[] }>()
const emit = defineEmits<{ done: [] }>()
const cut = useCut()
const all = computed(() => cut.conditionOf(props.placements))
const names = { size: 'this size', rate: 'this rate', scan: 'this scan', hdr: 'this range' } as const
type Fact = keyof typeof names
const facts = computed(() => (Object.keys(names) as Fact[]).filter((fact) => all.value[fact] !== undefined))
const chosen = ref<ReadonlySet<Fact>>(new Set(['rate', 'scan']))
function toggle(fact: Fact) {
  const next = new Set(chosen.value)
  if (!next.delete(fact)) next.add(fact)
  chosen.value = next
}
const when = computed<Condition>(() =>
  Object.fromEntries(Object.entries(all.value).filter(([fact]) => chosen.value.has(fact as Fact))),
)
/** What all of them set alike. */
const set = computed(() => cut.ownOf(props.placements))
const isEmpty = computed(() => Object.keys(set.value).length === 0)
function makeDefault() {
  cut.asDefaults(props.placements, set.value)
  emit('done')
}
function make() {
  cut.makeRule(props.placements, when.value, set.value)
  emit('done')
}
</script>

<template>
  <div class="maker" role="group" aria-label="Make a rule">
    <p v-if="isEmpty" class="quiet">
      Treat them first, all alike: a rule takes over what they set of their own.
    </p>
    <template v-else>
      <p>
        <b>{{ conditionWords(when) }}</b>: {{ overrideWords(set) }}
      </p>
      <div class="facts">
        <label v-for="fact in facts" :key="fact"
          ><input type="checkbox" :checked="chosen.has(fact)" @change="toggle(fact)" />
          {{ names[fact] }}</label
        >
      </div>
      <Button size="small" type="primary" @click="make">Make the rule</Button>
      <Button size="small" @click="makeDefault">Make it the default of all</Button>
    </template>
    <Button size="small" @click="emit('done')">Leave it</Button>
  </div>
</template>

<style scoped>
.maker {
  border-left: 3px solid var(--accent);
  margin-top: 8px;
  padding: 4px 0 6px 8px;
}
.facts {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 12px;
  padding: 4px 0;
  font-size: 12px;
}
label {
  display: flex;
  gap: 5px;
  align-items: center;
  min-height: 24px;
}
.maker :deep(.ant-btn) {
  margin: 0 6px 4px 0;
}
</style>
