<script setup lang="ts">
import { capital } from '../../core/words/figures'
import { useEventListener } from '@vueuse/core'
import { Modal } from 'ant-design-vue'
import { computed, ref } from 'vue'
import { useRoute } from 'vue-router'
import { places } from '../router'
import { shortcuts } from '../shortcuts'
import { isTyping } from '../typing'

/** What the keyboard does here: `?` opens it. */
const route = useRoute()
const open = ref(false)
/** The place's own keys first, where it has any. */
const shown = computed(() =>
  [...places.filter((name) => name === route.name), 'everywhere' as const].filter(
    (name) => shortcuts[name].length > 0,
  ),
)

useEventListener(document, 'keydown', (event: KeyboardEvent) => {
  // The dialog takes keys only once it has faded in.
  if (event.key === 'Escape') open.value = false
  if (event.key !== '?' || event.ctrlKey || event.metaKey || isTyping(event.target)) return
  open.value = !open.value
  event.preventDefault()
})
</script>

<template>
  <Modal v-model:open="open" :footer="null" :width="520" title="What the keyboard does">
    <template v-for="name in shown" :key="name">
      <h3>{{ name === 'everywhere' ? 'everywhere' : `in ${capital(name)}` }}</h3>
      <dl>
        <template v-for="{ keys, does } in shortcuts[name]" :key="does">
          <dt class="figures">{{ keys }}</dt>
          <dd>{{ does }}</dd>
        </template>
      </dl>
    </template>
  </Modal>
</template>

<style scoped>
h3 {
  padding-top: 10px;
}
dl {
  display: grid;
  grid-template-columns: 130px 1fr;
}
dt,
dd {
  padding: 3px 0;
  border-bottom: 1px solid var(--line);
}
</style>
