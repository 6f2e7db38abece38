<script setup lang="ts">
import { Button } from 'ant-design-vue'
import { computed, ref } from 'vue'
import { type Clip } from '../../../core/model/clip'
import { framesLeftOut } from '../../../core/reading/numbered/facts'
import { parseRate } from '../../../core/rate/parse'
import { rateName } from '../../../core/rate/rate'
import { useArrivals } from '../../../stores/arrivals/arrivals'
import { useNumbered } from '../../../stores/arrivals/numbered'
import { useSplit } from '../../../stores/arrivals/split'
import { counted, figure } from '../../../core/words/figures'

/**
 * Numbered pictures that came together: a few are offered as one clip; of many that are one, the rate is asked that their headers do not
 * state; and those that go on with a clip lengthen it when asked.
 */
const split = useSplit()
const arrivals = useArrivals()
const numbered = useNumbered()
const usual = computed(() => rateName(numbered.proposedRate))
const typed = ref<string | null>(null)
const rate = computed(() => parseRate(typed.value ?? usual.value)?.rate ?? null)
const seconds = (frames: number) => (rate.value ? figure((frames * rate.value.den) / rate.value.num) : '?')
const leftOut = (clip: Clip) => framesLeftOut(clip.reading?.video?.numbered?.leftOut ?? [])
</script>

<template>
  <div v-for="clips in split.stillOffers.slice(0, 3)" :key="clips[0]?.id" class="offer" role="status">
    <span
      ><b>{{ counted(clips.length, 'numbered still') }}</b
      >, {{ clips[0]?.name }} to {{ clips.at(-1)?.name }}: {{ seconds(clips.length) }} s as one clip at</span
    >
    <input
      class="rate"
      aria-label="Rate of the stills"
      :value="typed ?? usual"
      @input="typed = ($event.target as HTMLInputElement).value"
    />
    <Button size="small" :disabled="!rate" @click="rate && split.takeAsOne(clips, rate)"
      >Make one clip</Button
    >
    <Button size="small" @click="split.leaveAsStills">Leave as stills</Button>
  </div>
  <div v-for="clip in numbered.withoutRate.slice(0, 3)" :key="clip.id" class="offer" role="status">
    <span
      ><b>{{ clip.name }}</b
      >: {{ counted(clip.parts.length, 'picture') }} state no rate<template v-if="leftOut(clip) > 0"
        >, {{ leftOut(clip) }} left out</template
      >; {{ seconds(clip.reading?.video?.frameCount ?? 0) }} s at</span
    >
    <input
      class="rate"
      aria-label="Rate of the pictures"
      :value="typed ?? usual"
      @input="typed = ($event.target as HTMLInputElement).value"
    />
    <Button size="small" :disabled="!rate" @click="rate && numbered.setRate(clip, rate)">Set the rate</Button>
    <Button size="small" @click="numbered.keepAsStills(clip)">Keep as stills</Button>
  </div>
  <div v-for="{ clip, pictures } in arrivals.more.slice(0, 3)" :key="clip.id" class="offer" role="status">
    <span
      ><b>{{ counted(pictures.length, 'new picture') }}</b> of {{ clip.name }}</span
    >
    <Button size="small" :disabled="arrivals.progress.running" @click="arrivals.lengthen(clip.id)"
      >Lengthen the clip</Button
    >
  </div>
</template>

<style scoped>
.offer {
  display: flex;
  gap: 10px;
  align-items: center;
  padding-right: 16px;
}
.offer span {
  flex: 1;
}
.rate {
  width: 64px;
  height: 24px;
  font-family: var(--mono);
  border: 1px solid var(--line);
  background: var(--sheet);
  color: var(--ink);
  padding: 0 6px;
}
</style>
