<script setup lang="ts">
import { Button } from 'ant-design-vue'
import { computed, onMounted } from 'vue'
import type { Charge } from '../../../core/toll/charge'
import { type Grade, worse } from '../../../core/toll/grade'
import { tollSentence } from '../../../core/toll/sentence'
import { counted, pays } from '../../../core/words/figures'
import { useDispatching } from '../../../stores/dispatching'
import { useProject } from '../../../stores/document/project'
import { useRendering } from '../../../stores/rendering'
import FileButton from '../../components/FileButton.vue'
import GradeMark from '../../components/GradeMark.vue'
import NativeSelect from '../../components/NativeSelect.vue'
import PlaceLayout from '../../components/PlaceLayout.vue'
import CutCheck from './CutCheck.vue'
import DeliverableCards from './DeliverableCards.vue'
import FramesToScale from './FramesToScale.vue'
import HandOver from './HandOver.vue'
import ProofSheet from './ProofSheet.vue'
import RenderQueue from './RenderQueue.vue'
import SettingsForm from './SettingsForm.vue'
import SettingsSheet from './SettingsSheet.vue'

/** What goes out, and is it what was asked? */
const dispatching = useDispatching()
const project = useProject()
const rendering = useRendering()
const check = computed(() => dispatching.check)
const fills = computed(() => dispatching.current?.treatment.framing?.mode?.kind === 'fill')
const conversion = computed(() => {
  const charges = check.value?.conversion ?? []
  return charges.map((charge) => ({
    grade: charge.grade,
    says: tollSentence({ grade: charge.grade, loss: charge.loss, untouched: false, charges: [charge] }),
  }))
})
const worstOf = (charges: readonly Charge[]) =>
  charges.reduce<Grade>((grade, charge) => worse(grade, charge.grade), 'free')
const mostListed = 4
/** The timeline of one that cannot be held against it yet; none where it has none. */
const chosenTimeline = computed(() => dispatching.stored?.timelineId ?? '')
function deliver(timelineId: string) {
  const { stored } = dispatching
  if (stored && timelineId) dispatching.change('deliver a timeline', { ...stored, timelineId, range: null })
}
const canRender = computed(() => check.value !== null && check.value.breaches.length === 0)
onMounted(() => void rendering.find())
</script>

<template>
  <PlaceLayout :docket-width="250" list-name="Deliverables">
    <template #list><DeliverableCards /></template>
    <div class="main">
      <template v-if="dispatching.current && check">
        <div class="top">
          <FramesToScale :check="check" :fills="fills" />
          <section aria-label="From the cut to the deliverable">
            <h1>From the cut to {{ dispatching.current.name }}</h1>
            <p v-if="check.same">
              <GradeMark grade="free" shape-only /> The same: each frame goes out as it is cut.
            </p>
            <p v-else-if="conversion.length === 0"><GradeMark grade="free" shape-only /> Each frame once.</p>
            <p v-for="(charge, i) in conversion" :key="i">
              <GradeMark :grade="charge.grade" shape-only /> {{ charge.says }}
            </p>
            <p v-if="check.paysLess.length">
              {{ counted(check.paysLess.length, 'placement') }} pay less than in the cut.
            </p>
            <template v-if="check.paysMore.length">
              <p>{{ counted(check.paysMore.length, 'placement') }} {{ pays(check.paysMore.length) }} more:</p>
              <ul>
                <li v-for="price in check.paysMore.slice(0, mostListed)" :key="price.before.placement.id">
                  <GradeMark :grade="worstOf(price.adds)" shape-only /> {{ price.name }}:
                  {{ tollSentence({ ...price.after.toll, charges: price.adds }) }}
                </li>
              </ul>
              <p v-if="check.paysMore.length > mostListed" class="quiet">
                and {{ check.paysMore.length - mostListed }} more
              </p>
            </template>
            <p v-for="breach in check.breaches" :key="breach.says" role="alert">
              {{ breach.says }}
              <button
                v-if="breach.instead"
                class="word"
                @click="dispatching.change(`take ${breach.instead.name}`, breach.instead.deliverable)"
              >
                Take {{ breach.instead.name }}
              </button>
            </p>
            <div class="acts">
              <Button type="primary" :disabled="!canRender" @click="rendering.add(dispatching.current)"
                >Make the file</Button
              >
              <FileButton
                small
                accept="video/*,.mxf,.mkv"
                name="File to hold against it"
                @file="(file) => dispatching.current && rendering.hold(dispatching.current, file)"
                >Prove a file made elsewhere…</FileButton
              >
              <button class="word" @click="dispatching.remove(dispatching.current.id)">
                do not deliver it
              </button>
            </div>
          </section>
        </div>
        <ProofSheet />
        <div class="two">
          <SettingsForm />
          <div class="side"><SettingsSheet /><RenderQueue /></div>
        </div>
      </template>
      <template v-else>
        <section v-if="dispatching.current" class="acts" aria-label="Without a timeline">
          <h1>{{ dispatching.current.name }}: {{ chosenTimeline ? 'no format yet' : 'no timeline yet' }}</h1>
          <NativeSelect
            v-if="project.timelines.length"
            :value="chosenTimeline"
            aria-label="Timeline that goes out"
            :options="[
              { value: '', label: 'choose a timeline' },
              ...project.timelines.map(({ id, name }) => ({ value: id, label: name })),
            ]"
            @update:value="deliver"
          />
          <button class="word" @click="dispatching.remove(dispatching.current.id)">do not deliver it</button>
        </section>
        <CutCheck />
      </template>
    </div>
    <template #docket><HandOver /></template>
  </PlaceLayout>
</template>

<style scoped>
.main {
  padding: 14px 20px;
  display: flex;
  flex-direction: column;
  gap: 14px;
  min-height: 0;
  overflow: auto;
}
.top,
.two {
  display: grid;
  grid-template-columns: minmax(200px, 416px) minmax(200px, 1fr);
  gap: 20px;
}
.two {
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
}
.side {
  display: flex;
  flex-direction: column;
  gap: 12px;
}
ul {
  list-style: none;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px 12px;
  padding-top: 8px;
}
</style>
