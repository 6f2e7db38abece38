import type { Router } from 'vue-router'
import { formatKey, makeFormat } from '../../core/format/format'
import { rational } from '../../core/rational/rational'
import { useDispatching } from '../../stores/dispatching'
import { useSelection } from '../../stores/selection'
import { useMeasuring } from '../../stores/measuring'
import { usePlaying } from '../../stores/playing'
import { useProject } from '../../stores/document/project'
import { useTimelines } from '../../stores/timelines'
import { useYard } from '../../stores/yard'
import type { Place } from '../place'

/** A step of the walk: where it is, what it points at, what it says, and what it does by itself. */
export interface TourStep {
  readonly place: Place
  readonly title: string
  readonly says: string
  /** What is pointed at. */
  readonly at: string
  /** Leaves the place in a state to play with; everything that it changes can be undone. */
  readonly prepare?: (signal: AbortSignal) => Promise<void> | void
}

/** Waits until something is there. */
async function until<T>(
  look: () => T | null | undefined | false,
  signal: AbortSignal,
  most = 15_000,
): Promise<T | null> {
  for (let waited = 0; waited < most; waited += 100) {
    const found = look()
    if (found) return found
    await new Promise((resolve) => setTimeout(resolve, 100))
    if (signal.aborted) return null
  }
  return null
}
const inPage = (selector: string) => document.querySelector<HTMLElement>(selector)
const clipNamed = (name: string) => useProject().clips.find((clip) => clip.name.startsWith(name))
const rowOf = (name: string) =>
  [...document.querySelectorAll<HTMLElement>('[aria-label="Clips"] [role="option"]')].find((row) =>
    row.textContent.includes(name),
  )

/** In the cut of the walk: bells that match, and clips that do not. */
const placed = ['hall_wide_A004', 'bell_swing_B011', 'archive_reel2', 'clerk_phone', 'tower_P100']
const heldBack = makeFormat({ width: 1920, height: 1080 }, rational(25))

/** Eight steps along the line, on the demo's own clips. */
export const steps: readonly TourStep[] = [
  {
    place: 'arrivals',
    title: 'What came in',
    says: 'Files from many cameras, each read by ranges: sizes, rates, fields and pixel shapes, all mixed. What is odd stands at the end of its line.',
    at: '[aria-label="Clips that arrived"]',
    prepare: async (signal) => void (await until(() => useProject().clips.length > 20, signal, 30_000)),
  },
  {
    place: 'arrivals',
    title: 'What the picture says',
    says: 'This clip claims to be progressive. Its picture was just measured: where it contradicts the claim, one press puts it right.',
    at: '[aria-label="Docket"]',
    async prepare(signal) {
      const clip = clipNamed('archive_dub_07')
      if (clip && !clip.evidence) useMeasuring().measureNow([clip.id])
      const row = await until(() => rowOf('archive_dub_07'), signal)
      row?.click()
      await until(() => clipNamed('archive_dub_07')?.evidence, signal, 20_000)
    },
  },
  {
    place: 'yard',
    title: 'Where the footage stands',
    says: 'Rates across, sizes down; each block is as large as its running time. The frame is a candidate: move it by the arrow keys, and every clip is priced anew.',
    at: '[aria-roledescription="yard of frame sizes and rates"]',
    prepare: async (signal) => void (await until(() => useYard().ranked, signal)),
  },
  {
    place: 'yard',
    title: 'What each choice costs',
    says: 'Formats in order, the best first, each with its reason. Beneath: what every single clip would pay in the one that is tried.',
    at: '[aria-label="Candidates"]',
    prepare() {
      const other = useYard().ranking[1]
      if (other) useYard().look(other.format)
    },
  },
  {
    place: 'timelines',
    title: 'A cut, and what happens to it',
    says: 'The best format is set, and five clips are placed. Those that do not match are treated; the shape on each block tells how much it pays.',
    at: '[role="group"][aria-label^="The cut to scale"]',
    async prepare(signal) {
      const [project, yard, timelines] = [useProject(), useYard(), useTimelines()]
      if (!project.format) {
        yard.look(null)
        yard.chooseCandidate()
      }
      if (!timelines.current) timelines.create(null, null, 'Along the line')
      if (useSelection().all.length === 0) {
        const asked = project.opened.project.onMismatch
        timelines.setAsking(false)
        timelines.place(placed.flatMap((name) => clipNamed(name) ?? []))
        timelines.setAsking(asked === 'ask')
      }
      await until(() => inPage('[role="group"][aria-label^="The cut to scale"]'), signal)
    },
  },
  {
    place: 'timelines',
    title: 'Every way, with its price',
    says: 'An interlaced reel in a progressive cut. Each way of treating it stands with what it does and what it costs; point at one, and the viewer shows it.',
    at: '[aria-label="Docket"]',
    prepare() {
      const clip = clipNamed('archive_reel2')
      const [selection, timelines] = [useSelection(), useTimelines()]
      const found = selection.all.find(({ source }) => source.kind === 'clip' && source.clipId === clip?.id)
      if (!found || !timelines.current) return
      selection.select([found.id])
      selection.goTo(found.start + 10)
    },
  },
  {
    place: 'timelines',
    title: 'Watched as it will be',
    says: 'It plays at its true rate. The line of motion shows each frame with the source frame in it: repeats, drops and mixes are seen as they pass.',
    at: '[aria-label^="The line of motion"]',
    prepare() {
      const playing = usePlaying()
      useSelection().goTo(0)
      if (!playing.isOn) inPage('[data-play]')?.click()
    },
  },
  {
    place: 'dispatch',
    title: 'What goes out',
    says: 'HD goes out of it: the cut and the deliverable to scale, with what happens between them. Make the file, and it is read back and proven.',
    at: '[aria-label="From the cut to the deliverable"]',
    async prepare() {
      const dispatching = useDispatching()
      await usePlaying().halt()
      if (!dispatching.all.some(({ format }) => formatKey(format) === formatKey(heldBack)))
        dispatching.add(heldBack)
    },
  },
]

/** Goes to a step: to its place first, then what it does. */
export async function goTo(step: TourStep, router: Router, signal: AbortSignal): Promise<void> {
  const { params, name } = router.currentRoute.value
  if (name !== step.place) await router.push({ name: step.place, params: { id: params.id } })
  await step.prepare?.(signal)
}
