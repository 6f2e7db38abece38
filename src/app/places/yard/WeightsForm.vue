<script setup lang="ts">
import { Button } from 'ant-design-vue'
import { computed } from 'vue'
import type { Draft } from '../../../core/edit/draft'
import { type Policy, defaultPolicy } from '../../../core/toll/policy'
import { useProject } from '../../../stores/document/project'
import { useYard } from '../../../stores/yard'
import MainsChoice from '../../components/MainsChoice.vue'
import WeightInput from './WeightInput.vue'
import TermMark from '../../components/terms/TermMark.vue'
import {
  type FlatWeight,
  rankingNames,
  rankingWords,
  motionSkipWords,
  shareWords,
  weightGroups,
} from '../../../core/toll/weights'
import { changeProject, changeWeights } from '../../../core/edit/settings'

/** Every weight and share of the choice: shown, changeable, and the ranking follows at once. */
const project = useProject()
const yard = useYard()
const policy = computed(() => project.opened.project.policy)
const leans = ['balanced', 'sharp', 'detail', 'motion'] as const
const leanKeys = Object.keys(rankingWords) as (keyof typeof rankingWords)[]
const shareKeys = Object.keys(shareWords) as (keyof typeof shareWords)[]

/** How many figures are not as usual. */
const changed = computed(() => countDifferences(policy.value, defaultPolicy))
function countDifferences(is: object, usual: object): number {
  return Object.entries(usual).reduce((sum, [key, value]) => {
    const own = (is as Record<string, unknown>)[key]
    return sum + (typeof value === 'object' ? countDifferences(own as object, value) : Number(own !== value))
  }, 0)
}

const set = (words: string, number: number, change: (policy: Draft<Policy>) => void) =>
  project.edit(`weigh ${words} ${number}`, (doc) => changeWeights(doc, change), `weight ${words}`)
const setFlat = (key: FlatWeight, words: string, number: number) =>
  set(words, number, (draft) => void (draft[key] = number))
const reset = () =>
  project.edit('weigh as usual', (doc) => changeProject(doc, { policy: structuredClone(defaultPolicy) }))
</script>

<template>
  <p class="mains">
    <span>made for mains of</span>
    <MainsChoice :value="project.opened.project.mains" name="project-mains" @set="yard.setMains" />
  </p>
  <p class="quiet">
    What each charge weighs, from 0 to 1. The ranking follows at once{{
      changed ? `; ${changed} changed` : ''
    }}.
  </p>
  <table>
    <caption>
      Ranked for
    </caption>
    <thead>
      <tr>
        <td class="heading"><TermMark term="ranking">ranked for</TermMark></td>
        <th v-for="lean in leans" :key="lean" scope="col">{{ rankingNames[lean] }}</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="key in leanKeys" :key="key">
        <th scope="row">{{ rankingWords[key] }}</th>
        <td v-for="lean in leans" :key="lean">
          <WeightInput
            :value="policy.leans[lean][key]"
            :label="`${rankingWords[key]}, ${rankingNames[lean]}`"
            @set="
              (n) =>
                set(`${rankingWords[key]}, ${rankingNames[lean]}`, n, (p) => void (p.leans[lean][key] = n))
            "
          />
        </td>
      </tr>
      <tr>
        <th scope="row">{{ motionSkipWords }}</th>
        <td :colspan="leans.length - 1"></td>
        <td>
          <WeightInput
            :value="policy.leans.motion.skip"
            :label="`${motionSkipWords}, motion`"
            @set="(n) => set(`${motionSkipWords}, motion`, n, (p) => void (p.leans.motion.skip = n))"
          />
        </td>
      </tr>
    </tbody>
  </table>
  <template v-for="group in weightGroups" :key="group.title">
    <h3>{{ group.title }}</h3>
    <div class="weights">
      <label v-for="(words, key) in group.words" :key="key"
        >{{ words }}
        <WeightInput
          :value="policy[key]"
          :most="key === 'distortion' ? 10 : 1"
          @set="(n) => setFlat(key, words ?? key, n)"
      /></label>
    </div>
  </template>
  <h3>Share of the weight that is needed</h3>
  <div class="weights">
    <label v-for="key in shareKeys" :key="key"
      >{{ shareWords[key] }}
      <WeightInput
        :value="policy.shares[key]"
        @set="(n) => set(shareWords[key], n, (p) => void (p.shares[key] = n))"
    /></label>
  </div>
  <Button size="small" :disabled="changed === 0" @click="reset">As usual</Button>
</template>

<style scoped>
.mains {
  display: flex;
  gap: 14px;
  align-items: center;
  font-size: 12px;
}
.mains :deep(label) {
  min-height: 24px;
  display: flex;
  gap: 4px;
  align-items: center;
}
h3,
caption {
  font-size: 12px;
  font-weight: 600;
  text-align: left;
  margin-top: 8px;
  border-bottom: 1px solid var(--line);
}
table {
  border-collapse: collapse;
  width: 100%;
  margin-top: 4px;
}
th {
  font-weight: 400;
  font-size: 12px;
  text-align: left;
}
thead th {
  font-family: var(--condensed);
  color: var(--quiet);
}
td {
  padding: 1px 0;
}
.weights {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 1px 16px;
  padding: 3px 0;
}
.weights label {
  display: flex;
  justify-content: space-between;
  align-items: center;
  font-size: 12px;
  gap: 6px;
}
</style>
