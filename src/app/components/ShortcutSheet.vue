<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { Button, Input, Modal } from 'ant-design-vue'
import { computed, ref, shallowRef } from 'vue'
import { useRoute } from 'vue-router'
import { usePreferences } from '../../stores/preferences'
import { type Action, actions, actionsIn, keyScopes } from '../keys/actions'
import { keyFor, keyName, keyOf, objection } from '../keys/bindings'
import { keysListed } from '../keys/use-keys'
import { places } from '../place'

/** What the keyboard does here, searched and changed; of all places when that is asked for. */
const route = useRoute()
const habits = usePreferences()
const everyPlace = ref(false)
const search = ref('')

/** The one that waits for its new key, and why the last one cannot be it. */
const waiting = shallowRef<Action | null>(null)
const trouble = ref('')

const found = computed(() => {
  const place = places.find((name) => name === route.name) ?? null
  const wanted = search.value.trim().toLowerCase()
  const all = everyPlace.value ? actions : actionsIn(place)
  return all.filter((action) =>
    `${action.does} ${name(action)} ${keyScopes[action.where].name}`.toLowerCase().includes(wanted),
  )
})
const groups = computed(() =>
  [...new Set(found.value.map(({ where }) => where))].map((where) => ({
    where,
    actions: found.value.filter((action) => action.where === where),
  })),
)
const ownCount = computed(() => Object.keys(habits.habits.keys).length)
const name = (action: Action) => (action.fixed ? action.key : keyName(keyFor(action, habits.habits.keys)))
const isOwn = ({ id }: Action) => habits.habits.keys[id] !== undefined

function wait(action: Action) {
  waiting.value = action
  trouble.value = ''
}
function take(action: Action, key: string | null) {
  habits.setKey(action.id, key === action.key ? null : key, action.does)
  waiting.value = null
  trouble.value = ''
}
/** The next key that is pressed is the new one; Escape leaves it as it was. */
function listen(event: KeyboardEvent, action: Action) {
  if (waiting.value !== action || event.key === 'Tab') return
  event.preventDefault()
  event.stopPropagation()
  if (event.key === 'Escape') {
    waiting.value = null
    trouble.value = ''
    return
  }
  if (['Shift', 'Control', 'Alt', 'Meta'].includes(event.key)) return
  const why = objection(action, keyOf(event), habits.habits.keys)
  if (why) trouble.value = why
  else take(action, keyOf(event))
}
useEventListener(document, 'keydown', ({ key }: KeyboardEvent) => {
  // The dialog takes keys only once it has faded in.
  if (key === 'Escape' && !waiting.value) keysListed.value = false
})
</script>

<template>
  <Modal v-model:open="keysListed" :footer="null" :width="620" title="What the keyboard does">
    <div class="bar">
      <Input
        v-model:value="search"
        size="small"
        placeholder="search"
        aria-label="Search the keys"
        allow-clear
      />
      <label><input v-model="everyPlace" type="checkbox" /> in every place</label>
      <Button v-if="ownCount" size="small" @click="habits.usualKeys()">All as usual</Button>
    </div>
    <p v-if="trouble" role="alert" class="severe">{{ trouble }}</p>
    <div class="keys">
      <p v-if="groups.length === 0" class="quiet">No key does that.</p>
      <section v-for="group in groups" :key="group.where" :aria-label="keyScopes[group.where].name">
        <h3>{{ keyScopes[group.where].name }}</h3>
        <ul>
          <li v-for="action in group.actions" :key="action.id" :class="{ own: isOwn(action) }">
            <kbd class="figures">{{ waiting === action ? 'press a key' : name(action) }}</kbd>
            <span>{{ action.does }}</span>
            <span v-if="!action.fixed" class="ways">
              <button
                class="word"
                :aria-label="`change: ${action.does}`"
                :aria-pressed="waiting === action"
                @click="wait(action)"
                @keydown="listen($event, action)"
                @blur="waiting === action && (waiting = null)"
              >
                change
              </button>
              <button
                v-if="isOwn(action)"
                class="word"
                :aria-label="`usual: ${action.does}`"
                @click="take(action, null)"
              >
                usual
              </button>
              <button v-else class="word" :aria-label="`off: ${action.does}`" @click="take(action, '')">
                off
              </button>
            </span>
          </li>
        </ul>
      </section>
    </div>
  </Modal>
</template>

<style scoped>
.bar {
  display: flex;
  gap: 14px;
  align-items: center;
  padding-bottom: 8px;
}
.bar label {
  white-space: nowrap;
}
.keys {
  max-height: 62vh;
  overflow: auto;
}
h3 {
  padding-top: 10px;
}
ul {
  list-style: none;
}
li {
  display: grid;
  grid-template-columns: 116px 1fr auto;
  align-items: center;
  min-height: 27px;
  border-bottom: 1px solid var(--line);
}
.own kbd {
  font-weight: 600;
}
.ways {
  white-space: nowrap;
  font-size: 12px;
}
</style>
