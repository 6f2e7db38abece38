import { proxy } from 'comlink'
import { present } from '../../core/assert'
import { defineStore } from 'pinia'
import { computed, reactive, ref, shallowRef, watch } from 'vue'
import { continuing, sortedOut } from '../../core/edit/numbered'
import { takeIn } from '../../core/edit/operations'
import {
  type Card,
  type Clip,
  type ClipSource,
  type LeftAside,
  type ClipFile,
  arrivedClip,
  placeOf,
} from '../../core/model/clip'
import { cardUrl } from '../../media/source'
import { turns } from '../../media/turns'
import type { ReadAnswer } from '../../workers/reading.worker'
import { readingService } from '../../workers/services'
import { useBackground } from '../background'
import { useCard } from '../card'
import { type IncomingFile, useMedia } from '../media'
import { newId, timeNow, useProject } from '../document/project'
import { useNumbered } from './numbered'
import { type Arriving, readFiles } from './reading'
import { useSplit } from './split'
import type { ListedFile } from '../../core/card/listing'

/** Results are shown in gulps, so that a fast card does not redraw the list for each clip: at least so many milliseconds apart. */
const shortestGulp = 60
/** So many clips are listed in one gulp: more would hold the page up for longer than a choice may take. What is left aside is less work. */
const mostInGulp = 40
const workOfAside = 0.6

/** How many of the answers make a gulp. */
function gulpOf(answers: readonly ReadAnswer[]): number {
  let work = 0
  const full = answers.findIndex(({ aside }) => (work += aside ? workOfAside : 1) > mostInGulp)
  return full < 0 ? answers.length : Math.max(1, full)
}

/** Clips coming in: from the siding, from files and folders; with progress and a way to stop. */
export const useArrivals = defineStore('arrivals', () => {
  const project = useProject()
  const media = useMedia()
  const card = useCard()
  const split = useSplit()
  const numbered = useNumbered()
  const background = useBackground()
  const progress = reactive({ running: false, total: 0, read: 0, bytes: 0, startedAt: 0, cancelled: false })

  /** The project that takes in files of the siding as soon as they rest. */
  const follower = ref<string | null>(null)
  const following = computed({
    get: () => follower.value !== null && follower.value === project.doc?.project.id,
    set: (follow) => (follower.value = follow ? (project.doc?.project.id ?? null) : null),
  })
  /** Cards are read one after the other: what is taken in meanwhile waits its turn. */
  const inTurn = turns()
  /** Files of the siding that were asked for and are not listed yet, by project. */
  const onTheWay = shallowRef<ReadonlyMap<string, ReadonlySet<string>>>(new Map())
  function setOnTheWay(projectId: string, change: (ids: Set<string>) => void) {
    const ids = new Set(onTheWay.value.get(projectId))
    change(ids)
    onTheWay.value = new Map(onTheWay.value).set(projectId, ids)
  }
  /** Ends the reading that is under way. */
  let ended = new AbortController()
  /** All that were ever asked for in this session. */
  const offered = new Set<string>()
  const notTaken = computed(() => {
    if (card.files.length === 0) return []
    const { doc } = project
    const taken = new Set<string>()
    const take = ({ source }: { source: ClipSource }) =>
      void (source.kind === 'siding' && taken.add(source.id))
    for (const clip of project.clips) {
      take(clip)
      clip.parts.forEach(take)
    }
    if (doc) Object.values(doc.leftAside).forEach(take)
    const coming = doc ? onTheWay.value.get(doc.project.id) : undefined
    return card.files.filter((file) => !taken.has(file.id) && !coming?.has(file.id))
  })
  /** Files of the siding that rest and are not taken in yet. */
  const waiting = computed(() => notTaken.value.filter((file) => file.rests))
  /** Those of them that go on with clips of numbered pictures, or fill their gaps. */
  const more = computed(() => continuing(project.clips, waiting.value))
  const lengthen = (clipId: string): Promise<void> =>
    takeFromSiding(more.value.find(({ clip }) => clip.id === clipId)?.pictures.map(({ file }) => file) ?? [])
  /** Files that are still being copied onto the siding. */
  const growing = computed(() => notTaken.value.filter((file) => !file.rests))

  /** Follows the card of the open project; called again it goes on as it is. */
  function watchSiding(): void {
    const opened = project.doc?.project
    if (!opened) return
    // Whoever looks is about to take something in: the reader starts meanwhile.
    readingService()
    card.follow(opened.card, opened.id)
  }
  // What rests already when it is asked for comes in too, not only what comes to rest afterwards.
  watch([() => card.files, following], () => void takeWhatRests())

  /** Takes in what came to rest, if that is wanted; again, as long as more did meanwhile. */
  async function takeWhatRests(): Promise<void> {
    if (!following.value || progress.running) return
    // What was taken in once and taken out again by the editor does not come back by itself.
    // What goes on with a clip lengthens it when it is asked for: a render that runs would change it each second.
    const goesOn = new Set(more.value.flatMap(({ pictures }) => pictures.map(({ file }) => file)))
    const fresh = waiting.value.filter(
      (file) => !goesOn.has(file) && !offered.has(`${project.doc?.project.id} ${file.id}`),
    )
    if (fresh.length === 0) return
    await takeFromSiding(fresh, 'siding')
    await takeWhatRests()
  }

  async function takeFromSiding(files: readonly ListedFile[], joins?: string): Promise<void> {
    if (!project.doc) return
    const { id: projectId, card: from } = project.doc.project
    for (const { id } of files) offered.add(`${projectId} ${id}`)
    setOnTheWay(projectId, (ids) => files.forEach(({ id }) => ids.add(id)))
    const taken = takeAll(
      files.map((file) => onCard(from, file)),
      joins,
    )
    await taken.finally(() => setOnTheWay(projectId, (ids) => files.forEach(({ id }) => ids.delete(id))))
  }

  const onCard = (from: Card, { id, name, folder, sizeBytes, modifiedAt }: ListedFile): Arriving => ({
    id: newId(),
    name,
    folder,
    sizeBytes,
    source: { kind: 'siding', card: from, id, modifiedAt },
    locator: { kind: 'url', url: cardUrl(from, id, modifiedAt), sizeBytes },
  })

  const takeFiles = (incoming: readonly IncomingFile[]) => takeAll(incoming.map(ofEditor))
  const ofEditor = (incoming: IncomingFile): Arriving => ({
    id: newId(),
    name: incoming.file.name,
    folder: incoming.folder,
    sizeBytes: incoming.file.size,
    source: { kind: 'file' },
    locator: { kind: 'file', file: incoming.file },
    incoming,
  })

  /** Reads files and lists them as one step that can be undone; what was read before a cancel stays. */
  const takeAll = (arriving: readonly Arriving[], joins?: string): Promise<void> =>
    inTurn(() => takeNow(arriving, joins))

  async function takeNow(arriving: readonly Arriving[], joins = newId()): Promise<void> {
    const projectId = project.doc?.project.id
    if (!projectId || arriving.length === 0) return
    // Another tab writes this project: here nothing comes in, and it is said.
    if (project.readOnly) return project.edit('take in clips', () => {})
    Object.assign(progress, {
      running: true,
      total: arriving.length,
      read: 0,
      bytes: 0,
      startedAt: Date.now(),
      cancelled: false,
    })
    const reading = (ended = new AbortController())
    const { known, more, runs, lone } = sortedOut(project.clips, arriving)
    for (const { file, part, clip } of known)
      if (file.incoming) media.keepFile(projectId, part.id, file.incoming, clip.id)
    progress.read += known.length
    const byKey = new Map(arriving.map((arriving) => [arriving.id, arriving]))
    const arrivingOf = (key: string) => present(byKey.get(key), 'only what was asked for is answered')
    const order = new Map(arriving.map((arriving, i) => [arriving.id, i]))
    const answers: ReadAnswer[] = []
    let timer: ReturnType<typeof setTimeout> | null = null
    const fresh: string[] = []
    const swallow = () => {
      timer = null
      const begun = performance.now()
      // In the order asked for, as far as they came together.
      answers.sort((a, b) => (order.get(a.key) ?? 0) - (order.get(b.key) ?? 0))
      const readAnswers = answers.splice(0, gulpOf(answers))
      progress.read += readAnswers.length
      progress.bytes += readAnswers.reduce((sum, { key }) => sum + arrivingOf(key).sizeBytes, 0)
      const clips = readAnswers.filter(({ aside }) => !aside).map((a) => toClip(arrivingOf(a.key), a))
      const aside = readAnswers.filter((answer) => answer.aside).map((a) => toAside(arrivingOf(a.key), a))
      fresh.push(...list(projectId, clips, aside, arrivingOf, joins))
      // The page has as long for itself as the gulp took.
      if (answers.length > 0) timer = setTimeout(swallow, Math.max(shortestGulp, performance.now() - begun))
    }
    const tell = (readAnswers: readonly ReadAnswer[]) => {
      answers.push(...readAnswers)
      timer ??= setTimeout(swallow, shortestGulp)
    }
    try {
      const asClips = [...runs.map((pictures) => ({ pictures, clip: null })), ...more]
      for (const { pictures, clip } of asClips) {
        const isTaken = await numbered.take(projectId, pictures, clip, joins, reading.signal)
        if (isTaken) progress.read += pictures.length
        else
          await readFiles(
            pictures.map(({ file }) => file),
            reading.signal,
            tell,
          )
      }
      await readFiles(lone, reading.signal, tell)
    } finally {
      // What is read already is listed before the reading counts as done, gulp by gulp.
      while (answers.length > 0 && timer) await new Promise((done) => setTimeout(done, shortestGulp))
      progress.running = false
    }
    split.join(projectId, fresh, joins)
    void takeWhatRests()
    void background.work()
  }

  /** Lists what was read. @returns the ids of clips that were not there before */
  function list(
    projectId: string,
    clips: readonly Clip[],
    aside: readonly LeftAside[],
    arrivingOf: (id: string) => Arriving,
    joins: string,
  ): string[] {
    // The editor may have opened another project meanwhile.
    if (project.doc?.project.id !== projectId || clips.length + aside.length === 0) return []
    const fresh: Clip[] = []
    const known = clips.some(({ id }) => arrivingOf(id).incoming) ? knownFiles() : null
    for (const clip of clips) {
      const { incoming } = arrivingOf(clip.id)
      const same = incoming && known?.get(fileKey(clip))
      // A file that is here already is linked again rather than listed twice.
      if (incoming) media.keepFile(projectId, same?.fileId ?? clip.id, incoming, same?.clipId)
      if (!same) fresh.push(clip)
    }
    const asideAlready = project.doc.leftAside
    const newAside = aside.filter(({ id }) => !asideAlready[id])
    if (fresh.length || newAside.length)
      project.edit('take in clips', (doc) => takeIn(doc, fresh, newAside), joins)
    return fresh.map(({ id }) => id)
  }

  const fileKey = ({ name, sizeBytes, hash }: Pick<Clip, 'name' | 'sizeBytes' | 'hash'>) =>
    `${name} ${sizeBytes} ${hash}`
  /** Files of the editor's that are in the project, to the clip or the part that they are of. */
  const knownFiles = (): Map<string, { fileId: string; clipId: string }> =>
    new Map(
      project.clips
        .flatMap((clip) =>
          (clip.parts.length ? clip.parts : [clip]).map((file: Clip | ClipFile) => ({ clip, file })),
        )
        .filter(({ file }) => file.source.kind === 'file')
        .map(({ clip, file }) => [fileKey(file), { fileId: file.id, clipId: clip.id }]),
    )

  function toClip(arriving: Arriving, { hash, result }: ReadAnswer): Clip {
    const { id, name, folder, sizeBytes, source } = arriving
    return arrivedClip({ id, name, folder, sizeBytes, hash, source, arrivedAt: timeNow() }, result)
  }

  /** Reads a file as a clip, without listing it. */
  const readClip = (incoming: IncomingFile): Promise<Clip> => readOne(ofEditor(incoming))
  /** Reads a file of the project's card as a clip, without listing it. */
  const readOfCard = (file: ListedFile): Promise<Clip> => readOne(onCard(project.opened.project.card, file))

  async function readOne(arriving: Arriving): Promise<Clip> {
    const answers: ReadAnswer[] = []
    const request = { key: arriving.id, place: placeOf(arriving), locator: arriving.locator }
    const tell = proxy((readAnswers: readonly ReadAnswer[]) => void answers.push(...readAnswers))
    await readingService().readAll([request], tell)
    return toClip(arriving, present(answers[0], 'each file that is read is answered'))
  }

  const toAside = ({ name, folder, source }: Arriving, { aside }: ReadAnswer): LeftAside => ({
    id: placeOf({ name, folder }),
    kind: present(aside, 'what is left aside is told what it is'),
    source,
  })

  function cancel(): void {
    progress.cancelled = true
    ended.abort()
  }

  return {
    waiting,
    more,
    lengthen,
    growing,
    following,
    watchSiding,
    progress,
    takeFromSiding,
    takeFiles,
    readClip,
    readOfCard,
    cancel,
  }
})
