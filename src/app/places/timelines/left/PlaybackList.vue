<script setup lang="ts">
import { Button } from 'ant-design-vue'
import { computed } from 'vue'
import { type Timeline, placementsIn } from '../../../../core/model/timeline'
import { counted, fileSize } from '../../../../core/words/figures'
import { useProject } from '../../../../stores/document/project'
import { useProxies } from '../../../../stores/proxies'
import TermMark from '../../../components/terms/TermMark.vue'

/** Which clips of a timeline are heavy to play, and their proxies: made in the background, played instead, thrown away. */
const props = defineProps<{ timeline: Timeline }>()
const project = useProject()
const proxies = useProxies()
const clips = computed(() => {
  const ids = placementsIn(props.timeline).flatMap(({ source }) =>
    source.kind === 'clip' ? [source.clipId] : [],
  )
  return [...new Set(ids)].flatMap((id) => {
    const clip = project.opened.clips[id]
    const weight = clip && proxies.weight(clip)
    return clip && weight
      ? [{ clip, weight, has: proxies.has(clip), against: proxies.speaksAgainst(clip) }]
      : []
  })
})
const heavy = computed(() => clips.value.filter(({ weight }) => weight.heavy))
const wanting = computed(() => heavy.value.filter(({ has, against }) => !has && !against))
</script>

<template>
  <h2 class="heading">
    <TermMark term="proxy">playback</TermMark> · {{ heavy.length }} heavy of {{ clips.length }}
  </h2>
  <p class="small quiet">
    A proxy has a quarter of the pixels. It is played; files are made from the originals.
  </p>
  <div class="acts">
    <Button
      v-if="wanting.length && !proxies.isMaking"
      size="small"
      @click="proxies.make(wanting.map(({ clip }) => clip))"
      >Make {{ counted(wanting.length, 'proxy', 'proxies') }}</Button
    >
    <Button size="small" @click="proxies.measure(clips.map(({ clip }) => clip))">Measure decoding</Button>
  </div>
  <p v-if="proxies.inWork" role="status" class="small figures">
    {{ proxies.inWork.clip.name }}: frame {{ proxies.inWork.frames }} of {{ proxies.inWork.total }}
    <button class="word" @click="proxies.end()">cancel</button>
  </p>
  <p v-if="proxies.bytes" class="small acts">
    <label><input v-model="proxies.plays" type="checkbox" /> play them</label>
    <span class="figures">{{ fileSize(proxies.bytes) }} kept</span>
    <button class="word" @click="proxies.throwAway()">throw away</button>
  </p>
  <ul class="ruled" aria-label="Playback of the clips">
    <li v-if="clips.length === 0" class="quiet">Nothing moves.</li>
    <li v-for="{ clip, weight, has, against } in clips" :key="clip.id">
      <b>{{ clip.name }}</b>
      <span class="small">{{ weight.heavy ? 'heavy' : 'light' }}: {{ weight.says }}</span>
      <span v-if="has" class="small figures">proxy, {{ fileSize(proxies.sizeOf(clip)) }}</span>
      <span v-else-if="against" class="small quiet">no proxy: {{ against }}</span>
      <button
        v-else-if="!proxies.isMaking"
        class="word"
        :aria-label="`Make a proxy of ${clip.name}`"
        @click="proxies.make([clip])"
      >
        make a proxy
      </button>
      <span v-if="proxies.errors.get(clip.id)" role="alert" class="small">{{
        proxies.errors.get(clip.id)
      }}</span>
    </li>
  </ul>
</template>

<style scoped>
ul {
  flex: 1;
}
li {
  display: flex;
  flex-direction: column;
  align-items: flex-start;
}
li .word {
  padding: 0;
}
.acts {
  display: flex;
  gap: 6px;
  flex-wrap: wrap;
}
</style>
