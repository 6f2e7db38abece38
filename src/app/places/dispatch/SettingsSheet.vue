<script setup lang="ts">
import { sheetText } from '../../../core/dispatch/sheet'
import { useDispatching } from '../../../stores/dispatching'
import { fileNameOf } from '../../../core/words/file-name'
import { download } from '../../download'
import TermText from '../../components/terms/TermText.vue'

/** What is set, in words and figures, as it is handed to whoever makes or takes the file. */
const dispatching = useDispatching()
const text = () => sheetText(dispatching.current?.name ?? '', dispatching.sheet)
const copy = () => navigator.clipboard.writeText(text()).catch(() => {})
const save = () =>
  download(
    `${fileNameOf(dispatching.current?.name ?? '')}.json`,
    JSON.stringify({ deliverable: dispatching.current, sheet: dispatching.sheet }, null, 2),
    'application/json',
  )
</script>

<template>
  <section aria-label="Settings sheet">
    <h2 class="with-ways">
      Settings sheet
      <span class="ways"
        ><button class="word" @click="copy">copy</button>
        <button class="word" @click="save">save as JSON</button></span
      >
    </h2>
    <dl>
      <div v-for="line in dispatching.sheet" :key="line.name">
        <dt><TermText :text="line.name" /></dt>
        <dd>
          <span class="figures">{{ line.value }}</span> <span class="quiet">{{ line.note }}</span>
        </dd>
      </div>
    </dl>
  </section>
</template>

<style scoped>
dl div {
  display: grid;
  grid-template-columns: 78px minmax(0, 1fr);
  padding: 3px 0;
  border-bottom: 1px solid var(--line);
}
dt {
  color: var(--quiet);
}
</style>
