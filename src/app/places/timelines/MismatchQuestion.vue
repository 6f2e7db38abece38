<script setup lang="ts">
import { pays, percent } from '../../../core/words/figures'
import { Button, Checkbox, Modal } from 'ant-design-vue'
import { computed, ref, watch } from 'vue'
import { formatName } from '../../../core/format/format'
import { sentence } from '../../../core/toll/sentence'
import { useTimelines } from '../../../stores/timelines'
import ClipInFormat from './ClipInFormat.vue'
import GradeMark from '../../components/GradeMark.vue'
import TermText from '../../components/terms/TermText.vue'
import TermMark from '../../components/terms/TermMark.vue'
import { rateLabel, uprightSizeName } from '../../../core/inspect/labels'

/** Asked when a placed clip does not match: both answers side by side, each with its price. */
const timelines = useTimelines()
const remember = ref(false)
const asked = computed(() => timelines.question)
watch(asked, () => (remember.value = false))
const placed = computed(() => timelines.check?.findings.length ?? 0)
</script>

<template>
  <Modal
    :open="asked !== null"
    :footer="null"
    :width="640"
    :mask-closable="false"
    :title="asked ? `${asked.clip.name} differs in ${asked.differsIn.join(' and ')}` : ''"
    @cancel="timelines.answer('leave')"
  >
    <template v-if="asked">
      <p class="quiet">
        The clip is <span class="figures">{{ uprightSizeName(asked.clip) }} {{ rateLabel(asked.clip) }}</span
        >, “{{ timelines.current?.name }}” runs in
        <span class="figures">{{ formatName(asked.timelineFormat) }}</span>.
      </p>
      <div class="answers">
        <section>
          <h3>
            Keep <span class="figures">{{ formatName(asked.timelineFormat) }}</span>
          </h3>
          <ClipInFormat :clip="asked.clip" :format="asked.timelineFormat" />
          <p>
            The clip is <TermMark term="treatment">treated</TermMark>:
            <GradeMark :grade="asked.kept.toll.grade" />
          </p>
          <ul>
            <li v-for="charge in asked.kept.toll.charges" :key="charge.kind">
              <TermText :text="sentence(charge)" />
            </li>
            <li v-if="asked.kept.toll.charges.length === 0">nothing happens to it</li>
          </ul>
          <p class="share">
            untouched after it: <b class="figures">{{ percent(asked.kept.untouchedShare) }}</b>
          </p>
          <Button type="primary" @click="timelines.answer('keep', remember)">Keep it, treat the clip</Button>
        </section>
        <section>
          <h3>
            Take <span class="figures">{{ formatName(asked.clipFormat) }}</span>
          </h3>
          <ClipInFormat :clip="asked.clip" :format="asked.clipFormat" />
          <p>
            The clip pays <GradeMark :grade="asked.taken.toll.grade" />, the timeline no longer follows the
            project.
          </p>
          <ul>
            <li v-for="charge in asked.taken.toll.charges" :key="charge.kind">
              <TermText :text="sentence(charge)" />
            </li>
            <li v-if="placed">
              {{ asked.taken.worsened }} of {{ placed }} placed clips {{ pays(asked.taken.worsened) }} more
              than now
            </li>
            <li v-else>nothing is placed yet: no other clip pays</li>
          </ul>
          <p class="share">
            untouched after it: <b class="figures">{{ percent(asked.taken.untouchedShare) }}</b>
          </p>
          <Button @click="timelines.answer('take')">Take the clip’s format</Button>
        </section>
      </div>
      <div class="foot">
        <Checkbox v-model:checked="remember">Keep the timeline’s format from now on without asking</Checkbox>
        <Button type="text" @click="timelines.answer('leave')">Do not place it</Button>
      </div>
    </template>
  </Modal>
</template>

<style scoped>
.answers {
  display: grid;
  grid-template-columns: 1fr 1fr;
  border-top: 1px solid var(--ink);
  border-bottom: 1px solid var(--line);
  margin: 12px 0;
}
section {
  padding: 12px 16px 14px 0;
  display: flex;
  flex-direction: column;
  gap: 8px;
  align-items: flex-start;
}
section + section {
  padding-left: 16px;
  border-left: 1px solid var(--line);
}
ul {
  padding-left: 16px;
  flex: 1;
}
.foot {
  display: flex;
  justify-content: space-between;
  align-items: center;
}
</style>
