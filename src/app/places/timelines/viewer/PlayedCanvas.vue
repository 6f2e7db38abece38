<script setup lang="ts">
import { useSelection } from '../../../../stores/selection'
import { usePlaying } from '../../../../stores/playing'

/** A canvas over a pane, drawn by the worker that plays: each playing has one of its own. */
const selection = useSelection()
const playing = usePlaying()
</script>

<template>
  <canvas
    class="played"
    role="img"
    :aria-label="`Playing, frame ${playing.achieved?.frame ?? selection.playhead}`"
    :data-played-frame="playing.achieved?.frame"
  />
</template>

<style scoped>
.played {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
}
</style>
