<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { ConfigProvider } from 'ant-design-vue'
import { computed, watchEffect } from 'vue'
import { useProject } from '../stores/project'
import { useEdition } from './theme/edition'
import { componentTheme, cssVariables } from './theme/tokens'

const project = useProject()
const { edition } = useEdition()
const theme = computed(() => componentTheme(edition.value))

watchEffect(() => {
  const root = document.documentElement
  root.dataset.edition = edition.value
  root.style.colorScheme = edition.value === 'night' ? 'dark' : 'light'
  for (const [name, value] of Object.entries(cssVariables(edition.value))) root.style.setProperty(name, value)
})

// Leaving while something is being written would lose it: the browser asks.
useEventListener(window, 'beforeunload', (event: BeforeUnloadEvent) => {
  if (project.unsaved > 0) event.preventDefault()
})

const isTyping = (target: EventTarget | null) =>
  target instanceof HTMLElement &&
  (target.isContentEditable || ['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName))

useEventListener(document, 'keydown', (event: KeyboardEvent) => {
  const undoing = (event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'z'
  if (!undoing || isTyping(event.target)) return
  event.preventDefault()
  if (event.shiftKey) project.redo()
  else project.undo()
})
</script>

<template>
  <ConfigProvider :theme="theme" :auto-insert-space-in-button="false">
    <RouterView />
  </ConfigProvider>
</template>
