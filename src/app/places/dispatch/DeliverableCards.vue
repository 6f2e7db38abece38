<script setup lang="ts">
import { Button } from 'ant-design-vue'
import { computed, ref } from 'vue'
import { standsWords } from '../../../core/dispatch/outputs'
import { wrapped } from '../../../core/dispatch/usual'
import type { Deliverable } from '../../../core/model/deliverable'
import { formatName } from '../../../core/format/format'
import { useDispatching } from '../../../stores/dispatching'
import { useProject } from '../../../stores/document/project'
import { useRendering } from '../../../stores/rendering'
import { useTimelines } from '../../../stores/timelines'
import EntryList from '../../components/EntryList.vue'
import FormatPicker from '../../components/FormatPicker.vue'
import GradeMark from '../../components/GradeMark.vue'

/** What is handed over: a card each, with how it stands to its timeline and how far it is. */
const dispatching = useDispatching()
const rendering = useRendering()
const project = useProject()
const timelines = useTimelines()
const picking = ref(false)
const base = computed(() => timelines.format ?? project.format)

function standsOf(deliverable: Deliverable) {
  const check = dispatching.checkOf(deliverable)
  if (!check) return { grade: null, says: deliverable.timelineId ? 'no format yet' : 'no timeline yet' }
  if (check.breaches[0]) return { grade: null, says: check.breaches[0].says }
  return { grade: check.same ? ('free' as const) : check.grade, says: standsWords(check) }
}
const stateOf = ({ id }: Deliverable) => {
  const render = rendering.queue.find((queued) => queued.deliverable.id === id)
  if (!render) return ''
  return {
    waits: 'waits',
    renders: 'rendering',
    proves: 'read back',
    whole: 'made',
    failed: 'failed',
    ended: 'ended',
  }[render.state.kind]
}
const words = (deliverable: Deliverable) => {
  const { video, wrapper } = wrapped(deliverable)
  return [[video?.codec, video?.profile].filter(Boolean).join(' '), wrapper].filter(Boolean).join(', ')
}
</script>

<template>
  <h1>Deliverables</h1>
  <EntryList
    :entries="dispatching.all"
    :current-id="dispatching.stored?.id"
    @choose="(id) => (dispatching.selectedId = id)"
  >
    <template #default="{ entry }">
      <b>{{ entry.name }}</b>
      <span class="figures">{{ formatName(entry.format) }}</span>
      <span>{{ words(entry) }}</span>
      <span class="stands">
        <GradeMark v-if="standsOf(entry).grade" :grade="standsOf(entry).grade ?? 'free'" shape-only />
        <span>{{ standsOf(entry).says }}</span>
        <span class="quiet state">{{ stateOf(entry) }}</span>
      </span>
    </template>
  </EntryList>
  <p v-if="dispatching.all.length === 0" class="quiet">Nothing is to be delivered yet.</p>
  <p v-if="project.timelines.length === 0" class="quiet">
    No timeline yet. <RouterLink :to="{ name: 'timelines' }">To Timelines</RouterLink>
  </p>
  <div class="more">
    <Button size="small" :aria-expanded="picking" @click="picking = !picking">New…</Button>
    <Button v-if="dispatching.stored" size="small" @click="dispatching.copy()">Once more</Button>
  </div>
  <div v-if="picking" class="picking">
    <Button v-if="base" size="small" @click="(dispatching.add(base), (picking = false))"
      >As the timeline, {{ formatName(base) }}</Button
    >
    <FormatPicker
      :base="base"
      verb="Deliver"
      name="Format to deliver"
      @pick="(format) => (dispatching.add(format), (picking = false))"
    />
  </div>
</template>

<style scoped>
.stands {
  display: flex;
  gap: 5px;
  align-items: baseline;
}
.state {
  margin-left: auto;
}
.more {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.picking {
  display: flex;
  flex-direction: column;
  gap: 8px;
  padding-right: 10px;
  overflow: auto;
}
</style>
