import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import type { Deliverable } from '../core/model/deliverable'
import {
  addDeliverable,
  changeDeliverable,
  copyDeliverable,
  removeDeliverable,
} from '../core/edit/delivering'
import { type Format, formatName } from '../core/format/format'
import { deliveryCheck } from '../core/dispatch/delivery-check'
import { wrapped } from '../core/dispatch/usual'
import { settingsSheet } from '../core/dispatch/sheet'
import { newId, useProject } from './document/project'
import { useTimelines } from './timelines'

/** The deliverables of the open project: what is set of each, and how it stands to its timeline. */
export const useDispatching = defineStore('dispatching', () => {
  const project = useProject()
  const timelines = useTimelines()
  const selectedId = ref<string | null>(null)
  const all = computed(() => project.doc?.project.deliverables ?? [])
  const stored = computed(() => all.value.find(({ id }) => id === selectedId.value) ?? all.value[0] ?? null)
  /** The one in hand, with what nobody has set set as usual. */
  const current = computed(() => stored.value && wrapped(stored.value))

  /** Each held against its timeline; they are values, and are settled once. */
  const known = new WeakMap<object, { doc: object; check: ReturnType<typeof deliveryCheck> }>()
  function checkOf(deliverable: Deliverable): ReturnType<typeof deliveryCheck> {
    const { doc } = project
    if (!doc) return null
    const before = known.get(deliverable)
    if (before?.doc === doc) return before.check
    const check = deliveryCheck(doc, wrapped(deliverable))
    known.set(deliverable, { doc, check })
    return check
  }
  const check = computed(() => stored.value && checkOf(stored.value))
  const sheet = computed(() => (current.value ? settingsSheet(current.value, check.value?.out ?? null) : []))

  /** A deliverable more, of the timeline in hand. @returns its id */
  function add(format: Format): string {
    const id = newId()
    const timelineId = timelines.current?.id ?? null
    project.edit(`deliver ${formatName(format)}`, (doc) => addDeliverable(doc, id, format, timelineId))
    selectedId.value = id
    return id
  }
  /** Puts another in the place of one; what was as usual is set with it, and what was proven was another. */
  const change = (label: string, next: Deliverable) =>
    project.edit(label, (doc) => changeDeliverable(doc, next))
  function copy(): void {
    const deliverable = stored.value
    if (!deliverable) return
    const id = newId()
    project.edit(`deliver ${deliverable.name} once more`, (doc) => copyDeliverable(doc, deliverable.id, id))
    selectedId.value = id
  }
  /** Takes one out, with its settings and its proof. */
  function remove(id: string): void {
    const chosen = all.value.find((deliverable) => deliverable.id === id)
    if (chosen) project.edit(`do not deliver ${chosen.name}`, (doc) => removeDeliverable(doc, id))
  }

  return { selectedId, all, stored, current, check, checkOf, sheet, add, change, copy, remove }
})
