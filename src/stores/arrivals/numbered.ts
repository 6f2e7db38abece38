import { defineStore } from 'pinia'
import { computed, shallowRef } from 'vue'
import { regionRates } from '../../core/choice/rates'
import { type Clip, placeOf } from '../../core/model/clip'
import type { Draft } from '../../core/edit/draft'
import { usualRate } from '../../core/model/preferences'
import {
  type NumberedClip,
  type NumberedFile,
  atRate,
  lengthened,
  numberedClip,
} from '../../core/edit/numbered'
import { takeIn } from '../../core/edit/operations'
import { takeApart, timesPlaced } from '../../core/edit/parts'
import type { Doc } from '../../core/model/project'
import { replaceClip } from '../../core/edit/replacing'
import { type Rate, rateName } from '../../core/rate/rate'
import { picturesToRead } from '../../core/reading/numbered/facts'
import type { ReadAnswer } from '../../workers/reading.worker'
import { usePreferences } from '../preferences'
import { useMedia } from '../media'
import { newId, timeNow, useProject } from '../document/project'
import { type Arriving, readFiles } from './reading'

/** A numbered picture on its way in. */
interface Numbered {
  readonly file: Arriving
  readonly number: number
}

/** Numbered pictures coming in: one clip, of which some headers are read; lengthened when asked; and at a rate that is asked for. */
export const useNumbered = defineStore('numbered', () => {
  const project = useProject()
  const media = useMedia()
  const habits = usePreferences()

  /** Of numbered pictures some are looked at: they tell what all of them are. */
  async function lookInto(
    pictures: readonly Numbered[],
    signal: AbortSignal,
  ): Promise<ReadonlyMap<string, ReadAnswer>> {
    const looked = new Map<string, ReadAnswer>()
    const sizes = pictures.map(({ file }) => file.sizeBytes)
    const files = picturesToRead(sizes).flatMap((i) => pictures[i]?.file ?? [])
    await readFiles(files, signal, (readAnswers) =>
      readAnswers.forEach((answer) => looked.set(answer.key, answer)),
    )
    return looked
  }
  const numberedFiles = (
    pictures: readonly Numbered[],
    looked: ReadonlyMap<string, ReadAnswer>,
  ): NumberedFile[] =>
    pictures.map(({ file: { id, name, folder, sizeBytes, source }, number }) => ({
      file: { id, name, folder, sizeBytes, source, hash: looked.get(id)?.hash ?? null, arrivedAt: timeNow() },
      number,
      result: looked.get(id)?.result ?? null,
    }))

  /**
   * Lists numbered pictures as one clip, or with one that they go on with or whose gaps they fill.
   * @returns false where they are none, or were not looked at to the end
   */
  async function take(
    projectId: string,
    pictures: readonly Numbered[],
    clip: Clip | null,
    joins: string,
    signal: AbortSignal,
  ): Promise<boolean> {
    const looked = await lookInto(pictures, signal)
    if (signal.aborted || project.doc?.project.id !== projectId) return false
    const files = numberedFiles(pictures, looked)
    const joined = clip ? lengthened(clip, files) : numberedClip(files, newId(), proposedRate.value)
    if (!joined) return false
    for (const { file } of pictures)
      if (file.incoming) media.keepFile(projectId, file.id, file.incoming, joined.clip.id)
    project.edit('take in clips', (doc) => list(doc, joined, clip), joins)
    if (!clip && !joined.isRateStated) askRate(projectId, joined.clip.id)
    return true
  }

  function list(doc: Draft<Doc>, { clip, aside }: NumberedClip, before: Clip | null): void {
    if (before) replaceClip(doc, before.id, clip)
    else takeIn(doc, [clip])
    for (const { file, why } of aside) {
      const id = placeOf(file)
      doc.leftAside[id] = { id, kind: `numbered picture, ${why}`, source: file.source }
    }
  }

  /** The rate of numbered pictures that state none: the project's, else the region's, else the usual one. */
  const proposedRate = computed((): Rate => {
    const { mains } = project.opened.project
    return project.format?.rate ?? (mains ? regionRates(mains)[0] : usualRate(habits.habits))
  })
  /** Clips of numbered pictures whose headers state no rate, and that nobody was asked about. */
  const unasked = shallowRef<readonly { projectId: string; id: string }[]>([])
  const withoutRate = computed(() => {
    const { doc } = project
    return unasked.value.flatMap(({ projectId, id }) => {
      const clip = doc?.project.id === projectId ? doc.clips[id] : undefined
      return clip && doc && timesPlaced(doc, id) === 0 ? [clip] : []
    })
  })
  const askRate = (projectId: string, id: string) => (unasked.value = [...unasked.value, { projectId, id }])
  const answered = (id: string) => (unasked.value = unasked.value.filter((series) => series.id !== id))

  /** The editor's word on the rate of numbered pictures that state none. */
  function setRate(clip: Clip, rate: Rate): void {
    answered(clip.id)
    const by = atRate(clip, rate)
    if (by !== clip)
      project.edit(`${clip.name} at ${rateName(rate)} frames a second`, (doc) =>
        replaceClip(doc, clip.id, by),
      )
  }
  /** Makes numbered pictures single stills again. */
  function keepAsStills(clip: Clip): void {
    answered(clip.id)
    project.edit(`keep ${clip.parts.length} pictures as stills`, (doc) => takeApart(doc, clip.id))
  }

  return { take, proposedRate, withoutRate, setRate, keepAsStills }
})
