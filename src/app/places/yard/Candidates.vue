<script setup lang="ts">
import { computed } from 'vue'
import { type Format, formatName, formatKey, tradeName } from '../../../core/format/format'
import { Ranking } from '../../../core/toll/policy'
import { rankingNames } from '../../../core/toll/weights'
import { figure, percent } from '../../../core/words/figures'
import { useProject } from '../../../stores/document/project'
import { useYard } from '../../../stores/yard'
import ShareBar from '../../components/ShareBar.vue'
import TermMark from '../../components/terms/TermMark.vue'

/** The formats worth choosing, best first. */
const yard = useYard()
const project = useProject()
const shown = computed(() => yard.ranking.slice(0, 6))
const isLooked = (format: Format) =>
  yard.candidate !== null && formatKey(format) === formatKey(yard.candidate)
</script>

<template>
  <div class="leans" role="group" aria-label="Ranked for">
    <span class="quiet"><TermMark term="ranking">ranked for</TermMark></span>
    <button
      v-for="lean in Ranking.options"
      :key="lean"
      class="word"
      :aria-pressed="yard.lean === lean"
      @click="yard.setLean(lean)"
    >
      {{ rankingNames[lean] }}
    </button>
  </div>
  <label v-if="yard.enlarged.length" class="detail small">
    <input
      type="checkbox"
      :checked="project.opened.project.trueDetail"
      @change="yard.setTrueDetail(!project.opened.project.trueDetail)"
    />
    {{
      yard.enlarged.length === 1
        ? `${yard.enlarged[0]?.name} was enlarged before`
        : `${yard.enlarged.length} clips were enlarged before`
    }}: what is truly in {{ yard.enlarged.length === 1 ? 'it' : 'them' }}
    {{ project.opened.project.trueDetail ? 'counts' : 'does not count' }} as what is lost
  </label>
  <ol>
    <li
      v-for="(candidate, i) in shown"
      :key="formatKey(candidate.format)"
      v-memo="[candidate, isLooked(candidate.format)]"
      :class="{ looked: isLooked(candidate.format) }"
    >
      <button
        class="candidate"
        :aria-current="isLooked(candidate.format)"
        @click="yard.look(candidate.format)"
      >
        <span class="line">
          <span class="quiet figures place">{{ i + 1 }}</span>
          <b class="figures" :title="tradeName(candidate.format) ?? undefined">{{
            formatName(candidate.format)
          }}</b>
          <span class="quiet end"
            >untouched <b class="figures">{{ percent(candidate.untouchedShare) }}</b> · loss
            <b class="figures">{{ figure(candidate.loss, 2) }}</b></span
          >
        </span>
        <ShareBar :shares="candidate.shareByGrade" />
        <span class="reason">{{ candidate.reason }}</span>
      </button>
    </li>
  </ol>
</template>

<style scoped>
.detail {
  display: flex;
  gap: 6px;
  align-items: baseline;
  font-size: 12px;
  accent-color: var(--accent);
}
.leans {
  display: flex;
  align-items: baseline;
  font-size: 12px;
}
ol {
  list-style: none;
  padding: 0;
  border-top: 1px solid var(--line);
}
li {
  border-bottom: 1px solid var(--line);
}
.candidate {
  all: unset;
  display: flex;
  flex-direction: column;
  gap: 5px;
  width: 100%;
  box-sizing: border-box;
  padding: 8px 0 8px 12px;
  cursor: pointer;
}
.candidate:focus-visible {
  outline: 2px solid var(--accent);
}
.looked {
  box-shadow: inset 3px 0 var(--accent);
  background: var(--paper);
}
.line {
  display: flex;
  gap: 8px;
  align-items: baseline;
}
.line > b {
  font-size: 15px;
}
.place {
  width: 18px;
}
.end {
  margin-left: auto;
}
.end b {
  color: var(--ink);
}
</style>
