<script setup lang="ts">
import { computed } from 'vue'
import { marked } from '../../../core/terms/terms'
import TermMark from './TermMark.vue'

/** A text whose terms are marked where they are first mentioned. */
const props = defineProps<{ text: string }>()
const pieces = computed(() => marked(props.text))
</script>

<template>
  <template v-for="(piece, i) in pieces" :key="i"
    ><TermMark v-if="piece.term" :term="piece.term.id">{{ piece.text }}</TermMark
    ><template v-else>{{ piece.text }}</template></template
  >
</template>
