<script setup lang="ts">
import { onKeyStroke } from '@vueuse/core'
import { Input } from 'ant-design-vue'
import { computed, onMounted, ref } from 'vue'
import { allTerms, termFamilies, termOf, termsFound } from '../../../core/terms/terms'
import type { Term } from '../../../core/terms/term'
import { counted } from '../../../core/words/figures'
import { useTerms } from './terms'
import TermEntry from './TermEntry.vue'

/** All terms: those that stand on the screen first, then family by family; searched as one types. */
const terms = useTerms()
const search = ref('')
/** Those that stand on the screen as the sheet opens. */
const here = [
  ...new Set(
    [...document.querySelectorAll<HTMLElement>('[data-term]')].map((mark) => mark.dataset.term ?? ''),
  ),
].flatMap((id) => termOf(id) ?? [])
const sheet = ref<HTMLElement | null>(null)

const groups = computed<readonly { readonly family: string; readonly terms: readonly Term[] }[]>(() => {
  if (search.value.trim()) return [{ family: 'found', terms: termsFound(search.value) }]
  return [...(here.length ? [{ family: 'on this screen', terms: here }] : []), ...termFamilies]
})

onMounted(() => {
  sheet.value?.querySelector('input')?.focus()
  sheet.value?.querySelector('[aria-expanded="true"]')?.scrollIntoView({ block: 'nearest' })
})
const close = () => (terms.listed = false)
onKeyStroke('Escape', () => {
  if (!terms.asked && sheet.value?.contains(document.activeElement)) close()
})
</script>

<template>
  <aside ref="sheet" class="terms" aria-label="Terms">
    <header>
      <h2>Terms</h2>
      <span class="quiet">{{ counted(allTerms.length, 'term') }}</span>
      <button class="word end" @click="close">close</button>
    </header>
    <Input
      v-model:value="search"
      size="small"
      placeholder="search"
      aria-label="Search the terms"
      allow-clear
    />
    <p class="visually-hidden" role="status">
      {{ search.trim() ? `${counted(groups[0]?.terms.length ?? 0, 'term')} found` : '' }}
    </p>
    <div class="groups" tabindex="-1">
      <section v-for="group in groups" :key="group.family" :aria-label="group.family">
        <h3 class="heading">{{ group.family }}</h3>
        <p v-if="group.terms.length === 0" class="quiet">No term bears “{{ search }}”.</p>
        <ul>
          <li v-for="term in group.terms" :key="term.id">
            <button
              class="name"
              :aria-expanded="terms.chosen === term.id"
              @click="terms.chosen = terms.chosen === term.id ? null : term.id"
            >
              {{ term.name }}
            </button>
            <TermEntry v-if="terms.chosen === term.id" :term="term" />
          </li>
        </ul>
      </section>
    </div>
  </aside>
</template>

<style scoped>
.terms {
  position: fixed;
  z-index: 1050;
  top: 60px;
  right: 0;
  bottom: 0;
  width: 330px;
  max-width: 100vw;
  background: var(--paper);
  border-left: 1px solid var(--ink);
  padding: 12px 14px;
  display: flex;
  flex-direction: column;
  gap: 8px;
}
header {
  display: flex;
  gap: 8px;
  align-items: baseline;
}
.end {
  margin-left: auto;
}
.groups {
  overflow: auto;
  min-height: 0;
  padding-right: 4px;
}
h3 {
  padding: 10px 0 2px;
}
ul {
  list-style: none;
}
li {
  border-bottom: 1px solid var(--line);
}
.name {
  all: unset;
  box-sizing: border-box;
  width: 100%;
  padding: 4px 2px;
  min-height: 26px;
  cursor: pointer;
}
.name[aria-expanded='true'] {
  font-weight: 600;
}
.name:hover {
  text-decoration: underline;
}
.name:focus-visible {
  outline: 2px solid var(--accent);
}
.entry {
  padding: 4px 0 12px;
}
</style>
