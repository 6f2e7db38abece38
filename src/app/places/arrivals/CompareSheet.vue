<script setup lang="ts">
import { Button, Checkbox, Modal } from 'ant-design-vue'
import { computed, ref } from 'vue'
import { type Clip } from '../../../core/model/clip'
import { useMedia } from '../../../stores/media'
import { compareClips, comparisonText } from '../../../core/inspect/compare'
import TermText from '../../components/terms/TermText.vue'

const props = defineProps<{ clips: readonly Clip[] }>()
const emit = defineEmits<{ close: [] }>()
const media = useMedia()
const all = ref(false)
const copied = ref(false)

const facts = computed(() => compareClips(props.clips))
const shown = computed(() => facts.value.filter((fact) => all.value || fact.differs))

async function copy() {
  await navigator.clipboard.writeText(comparisonText(props.clips, shown.value))
  copied.value = true
}
</script>

<template>
  <Modal
    open
    :footer="null"
    :width="Math.min(1180, 200 + clips.length * 230)"
    :title="`${clips.length} clips side by side`"
    @cancel="emit('close')"
  >
    <div class="scroll" tabindex="0" role="region" aria-label="Comparison">
      <table>
        <thead>
          <tr>
            <td />
            <th v-for="clip in clips" :key="clip.id" scope="col">
              <img v-if="media.posterOf(clip)" :src="media.posterOf(clip)" :alt="`A frame of ${clip.name}`" />
              {{ clip.name }}
            </th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="fact in shown" :key="fact.name" :class="{ differs: fact.differs && all }">
            <th scope="row" class="quiet"><TermText :text="fact.name" /></th>
            <td v-for="(value, i) in fact.values" :key="i">{{ value }}</td>
          </tr>
        </tbody>
      </table>
      <p v-if="shown.length === 0" class="quiet">Nothing differs.</p>
    </div>
    <div class="actions">
      <Checkbox v-model:checked="all">all facts, not only what differs</Checkbox>
      <Button @click="copy">{{ copied ? 'Copied' : 'Copy as text' }}</Button>
    </div>
  </Modal>
</template>

<style scoped>
.scroll {
  overflow: auto;
  max-height: 62vh;
}
table {
  border-collapse: collapse;
}
th,
td {
  text-align: left;
  vertical-align: top;
  padding: 5px 14px 5px 0;
  border-bottom: 1px solid var(--line);
  min-width: 90px;
  max-width: 230px;
}
th[scope='row'] {
  font-weight: 400;
}
img {
  display: block;
  width: 180px;
  height: 90px;
  object-fit: contain;
  background: var(--ground);
  margin-bottom: 4px;
}
.differs td {
  color: var(--severe);
}
.actions {
  display: flex;
  justify-content: space-between;
  padding-top: 12px;
}
</style>
