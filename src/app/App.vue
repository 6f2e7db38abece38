<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { ConfigProvider } from 'ant-design-vue'
import { computed, defineAsyncComponent, watchEffect } from 'vue'
import { useRoute } from 'vue-router'
import { usePreferences } from '../stores/preferences'
import { useProject } from '../stores/document/project'
import { useTerms } from './components/terms/terms'
import { useFocusKept } from './keys/use-focus-kept'
import { keysListed, useKeys } from './keys/use-keys'
import { isTyping } from './keys/typing'
import { useEdition } from './theme/edition'
import { type Edition, componentTheme, cssVariables } from './theme/tokens'

/** What is looked up comes when it is: the first view does without. */
const TermsSheet = defineAsyncComponent(() => import('./components/terms/TermsSheet.vue'))
const TermCard = defineAsyncComponent(() => import('./components/terms/TermCard.vue'))
const ShortcutSheet = defineAsyncComponent(() => import('./components/ShortcutSheet.vue'))

const route = useRoute()
const project = useProject()
const habits = usePreferences()
const terms = useTerms()
const { edition } = useEdition()
useFocusKept()
const theme = computed(() => componentTheme(edition.value))

function dress(as: Edition) {
  const root = document.documentElement
  root.dataset.edition = as
  root.style.colorScheme = as === 'night' ? 'dark' : 'light'
  for (const [name, value] of Object.entries(cssVariables(as))) root.style.setProperty(name, value)
}
watchEffect(() => dress(edition.value))
// Paper is light, whatever the screen is.
useEventListener(window, 'beforeprint', () => dress('light'))
useEventListener(window, 'afterprint', () => dress(edition.value))

// Leaving while something is being written would lose it: the browser asks.
useEventListener(window, 'beforeunload', (event: BeforeUnloadEvent) => {
  if (!project.saved) event.preventDefault()
})

const meantBy = useKeys('everywhere')
useEventListener(document, 'keydown', (event: KeyboardEvent) => {
  if (isTyping(event.target)) return
  const isPlain = !event.ctrlKey && !event.metaKey && !event.altKey
  const key = isPlain ? meantBy(event) : null
  if (key === ';' || key === '?') {
    if (key === ';') terms.listed = !terms.listed
    else keysListed.value = !keysListed.value
    return event.preventDefault()
  }
  const undoing = (event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'z'
  if (!undoing) return
  event.preventDefault()
  // Habits have a history of their own, undone where they are set.
  const history = route.name === 'habits' ? habits : project
  if (event.shiftKey) history.redo()
  else history.undo()
})
</script>

<template>
  <ConfigProvider :theme="theme" :auto-insert-space-in-button="false">
    <RouterView />
    <TermsSheet v-if="terms.listed" />
    <TermCard v-if="terms.asked" />
    <ShortcutSheet v-if="keysListed" />
  </ConfigProvider>
</template>
