<script setup lang="ts">
import { isQuarterTurn } from '../../core/picture/turn'
import { computed } from 'vue'
import { type Clip } from '../../core/model/clip'
import { displaySize } from '../../core/picture/size'
import { useMedia } from '../../stores/media'

/** A clip's real picture in its true shape, on the neutral ground. */
const props = defineProps<{ clip: Clip }>()
const media = useMedia()
const url = computed(() => media.posterOf(props.clip))
const shape = computed(() => {
  const video = props.clip.reading?.video
  if (!video) return 16 / 9
  const { width, height } = displaySize(video)
  return isQuarterTurn(video.rotation) ? height / width : width / height
})
</script>

<template>
  <div class="ground">
    <img v-if="url" :src="url" :alt="`A frame of ${clip.name}`" :style="{ aspectRatio: shape }" />
    <span v-else class="none">no picture</span>
  </div>
</template>

<style scoped>
.ground {
  background: var(--ground);
  height: 190px;
  display: flex;
  justify-content: center;
  align-items: center;
}
img {
  max-width: 100%;
  max-height: 100%;
  height: 100%;
  width: auto;
  object-fit: fill;
}
.none {
  color: #d8d4cc;
}
</style>
