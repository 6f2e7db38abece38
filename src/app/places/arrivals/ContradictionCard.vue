<script setup lang="ts">
import { Button } from 'ant-design-vue'
import { computed } from 'vue'
import { type Contradiction, outcomeOf } from '../../../core/inspect/contradictions'
import { sureWords } from '../../../core/inspect/measured'
import type { Clip } from '../../../core/model/clip'
import { correct } from '../../../core/edit/correction'
import { weightsOf } from '../../../core/model/project'
import { type Format, makeFormat, sameFormat } from '../../../core/format/format'
import { uprightSize } from '../../../core/picture/turn'
import { pictureOf } from '../../../core/picture/picture'
import type { CorrectionChange } from '../../../core/reading/correct'
import { useProject } from '../../../stores/document/project'
import TermText from '../../components/terms/TermText.vue'

/** A claim that the picture contradicts, what it would change to follow the picture, and the one action that does it. */
const props = defineProps<{ clip: Clip; contradiction: Contradiction }>()
const project = useProject()

/** The project's format, and one at the true rate, where the clip would cost nothing for its motion. */
const formats = computed<Format[]>(() => {
  const video = props.clip.reading?.video
  const trueRate = props.clip.evidence?.repeats.trueRate
  const own =
    props.contradiction.about === 'repeats' && video && trueRate
      ? [makeFormat(uprightSize(pictureOf(video)), trueRate)]
      : []
  return [...(project.format ? [project.format] : []), ...own].filter(
    (format, i, all) => all.findIndex((other) => sameFormat(other, format)) === i,
  )
})
const outcome = computed(() =>
  outcomeOf(props.clip, props.contradiction.change, formats.value, weightsOf(project.opened.project)),
)
function put(change: CorrectionChange, label: string) {
  const { id, name } = props.clip
  project.edit(`${label}: ${name}`, (doc) => correct(doc, [id], change))
}
</script>

<template>
  <section class="card" :aria-label="contradiction.title">
    <b>{{ contradiction.title }}</b>
    <p>
      <TermText :text="`${contradiction.seen} `" />
      <span class="quiet">({{ sureWords(contradiction.confidence) }})</span>
    </p>
    <p v-for="sentence in outcome" :key="sentence" class="small">{{ sentence }}</p>
    <div class="row">
      <Button size="small" type="primary" @click="put(contradiction.change, contradiction.action)">{{
        contradiction.action
      }}</Button>
      <Button
        v-if="contradiction.holding"
        size="small"
        @click="put(contradiction.holding, 'leave as claimed')"
        >Leave as claimed</Button
      >
    </div>
  </section>
</template>

<style scoped>
.card {
  border: 1px solid var(--severe);
  border-left-width: 4px;
  padding: 8px 10px;
  display: flex;
  flex-direction: column;
  gap: 4px;
}
.small {
  font-size: 12px;
}
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin-top: 2px;
}
</style>
