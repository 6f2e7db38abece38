import { defineStore } from 'pinia'
import { ref, shallowRef, watch } from 'vue'
import { differencesBetween } from '../../core/check/differences'
import { restore } from '../../core/edit/restoring'
import { type PointEntry, dropPoint, keepPoint, listPoints, loadPoint } from '../../storage/points'
import { storageError } from '../../storage/error'
import { newId, timeNow, useProject } from './project'

const unreadable = (name: string) =>
  `“${name}” cannot be read any more; it was left as it is, and nothing was changed.`

/** Restore points of the open project: named, listed, compared with what is, and gone back to. */
export const useRestorePoints = defineStore('restore-points', () => {
  const project = useProject()
  const points = shallowRef<readonly PointEntry[]>([])
  /** Why the last act with restore points could not be done; null where it was. */
  const trouble = ref<string | null>(null)

  async function list(): Promise<void> {
    const id = project.doc?.project.id
    points.value = id ? await listPoints(id).catch(() => []) : []
  }
  watch(() => [project.doc?.project.id, project.readOnly] as const, list, { immediate: true })

  async function attempt(act: () => Promise<unknown>): Promise<void> {
    trouble.value = null
    try {
      await act()
    } catch (error) {
      trouble.value = storageError(error)
    }
    await list()
  }

  /** Names what is now, so that it can be gone back to, whatever becomes of the history. */
  const keep = (name: string): Promise<void> =>
    attempt(async () => {
      const { doc, position } = project
      if (doc && project.mayChange(`restore point ${name}`))
        await keepPoint({
          projectId: doc.project.id,
          id: newId(),
          name: name.trim() || 'Unnamed',
          at: timeNow(),
          position,
          doc,
        })
    })
  /** Goes back to a point, as a step that can be undone. */
  const goBack = ({ id, name }: PointEntry): Promise<void> =>
    attempt(async () => {
      const point = await loadPoint(project.opened.project.id, id)
      if (point === 'unreadable') throw new Error(unreadable(name))
      if (point) project.edit(`go back to “${name}”`, (doc) => restore(doc, point))
    })
  const drop = ({ id, name }: PointEntry): Promise<void> =>
    attempt(async () => {
      if (project.mayChange(`drop “${name}”`)) await dropPoint(project.opened.project.id, id)
    })

  /** What is another now than at a point, in words. */
  async function sincePoint({ id, name }: PointEntry): Promise<string[]> {
    const point = await loadPoint(project.opened.project.id, id)
    if (point === 'unreadable') return [unreadable(name)]
    return point ? differencesBetween(point, project.opened) : []
  }
  /** What is another now than when a step was the last in force. */
  function sinceStep(n: number): string[] {
    const then = project.docAt(n)
    return then ? differencesBetween(then, project.opened) : []
  }

  return { points, trouble, list, keep, goBack, drop, sincePoint, sinceStep }
})
