<script setup lang="ts">
import { computed } from 'vue'
import type { Term } from '../../../core/terms/term'
import { useTerms } from './terms'
import TermDrawing from './TermDrawing.vue'

/** What a term is, drawn, what it costs when it goes wrong, and what it comes to for the clip in hand. */
const props = defineProps<{ term: Term }>()
const terms = useTerms()
const ofClip = computed(() => (terms.inHand ? (props.term.ofClip?.(terms.inHand) ?? null) : null))
</script>

<template>
  <div class="entry">
    <p>{{ term.says }}</p>
    <TermDrawing :drawing="term.drawing" />
    <p class="small">{{ term.drawing.says }}</p>
    <p><span class="heading">if it goes wrong</span> {{ term.costs }}</p>
    <p v-if="ofClip" class="clip">
      <span class="heading ellipsis">{{ terms.inHand?.clip.name }}</span> {{ ofClip }}
    </p>
  </div>
</template>

<style scoped>
.entry {
  display: flex;
  flex-direction: column;
  gap: 7px;
}
.small {
  color: var(--quiet);
}
.clip {
  border-left: 3px solid var(--accent);
  padding-left: 8px;
}
.heading {
  display: block;
}
</style>
