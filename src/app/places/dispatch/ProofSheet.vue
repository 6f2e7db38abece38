<script setup lang="ts">
import { computed } from 'vue'
import { holdsWords, verdictWords } from '../../../core/model/proof'
import { useDispatching } from '../../../stores/dispatching'
import { proofOf, useRendering } from '../../../stores/rendering'
import { clockOf } from '../../dates'
import TermText from '../../components/terms/TermText.vue'
import TermMark from '../../components/terms/TermMark.vue'

/** What was asked beside what was found in the file, read back and decoded. */
const dispatching = useDispatching()
const rendering = useRendering()
/** What was made of it in this session: of such a file all frames can be compared. */
const render = computed(() =>
  rendering.queue.findLast((queued) => queued.deliverable.id === dispatching.stored?.id && proofOf(queued)),
)
const proof = computed(() => (render.value && proofOf(render.value)) ?? dispatching.stored?.proof ?? null)
const time = computed(() => (proof.value ? clockOf(proof.value.at) : ''))
</script>

<template>
  <section v-if="proof" aria-label="Proof">
    <h2 class="with-ways">
      <span
        ><TermMark term="proof">Proof</TermMark> of {{ proof.file }}:
        {{ verdictWords(proof) }}
        <span class="quiet"
          >read back {{ time }}, {{ proof.framesCompared }} of {{ proof.frames }} frames compared</span
        ></span
      >
      <span class="ways">
        <button
          v-if="render && proof.framesCompared < proof.frames"
          class="word"
          :disabled="render.state.kind === 'proves'"
          @click="rendering.proveAll(render.id)"
        >
          compare all
        </button>
        <RouterLink :to="{ name: 'report' }">on paper</RouterLink>
      </span>
    </h2>
    <table class="lines">
      <thead class="heading">
        <tr>
          <th></th>
          <th>asked</th>
          <th>found in the file</th>
          <th></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="line in proof.lines" :key="line.what" :class="{ otherwise: line.holds === false }">
          <td class="quiet"><TermText :text="line.what" /></td>
          <td class="figures">{{ line.asked }}</td>
          <td class="figures">{{ line.found }}</td>
          <td>{{ holdsWords(line.holds) }}</td>
        </tr>
      </tbody>
    </table>
  </section>
</template>

<style scoped>
h2 .quiet {
  font-weight: 400;
}
.otherwise td:last-child {
  color: var(--severe);
  font-weight: 600;
}
</style>
