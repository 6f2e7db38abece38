/** The text of an edit decision list (CMX 3600), line by line, before anything is known of clips. */

/** A label as it is written, and whether numbers are dropped in it. */
export interface Label {
  readonly text: string
  readonly drops: boolean
}

/** What follows a line of an event and says how fast it runs. */
export interface MotionEffect {
  readonly line: number
  readonly reel: string
  /** Frames a second, negative where it runs backwards. */
  readonly perSecond: number
  readonly at: string | null
}

/** One line of an event: what comes in of a reel, on which channels, and its four labels. */
export interface EventLine {
  readonly line: number
  /** As it is written: lines of one transition share it. */
  readonly number: string
  readonly reel: string
  readonly picture: boolean
  /** Channels of sound, 1 … 4, as further lines may add to them. */
  readonly sounds: Set<number>
  readonly edit: string
  readonly sourceIn: Label
  readonly sourceOut: Label
  readonly recordIn: Label
  readonly recordOut: Label
  effect: MotionEffect | null
  name: string | null
  /** Where its file lies, where that is said too. */
  file: string | null
}

/** A list as it was read: its lines of events, in order, and what could not be understood. */
export interface EdlText {
  readonly title: string | null
  readonly events: readonly EventLine[]
  /** Effects whose reel and time belong to none of the lines before them. */
  readonly lostEffects: readonly MotionEffect[]
  readonly unknown: number
}

const time = String.raw`(\d\d[:;.]\d\d[:;.]\d\d[:;.]\d{2,3})`
const eventPattern = new RegExp(
  String.raw`^\s*(\d{1,6})\s+(\S+)\s+(\S+)\s+(C|D|W\d+|K[BO]?)\s*(?:\d+)?\s+${time}\s+${time}\s+${time}\s+${time}`,
  'i',
)
const effectPattern = /^M2\s+(\S+)\s+([+-]?\d+(?:\.\d+)?)(?:\s+(\d\d[:;.]\d\d[:;.]\d\d[:;.]\d{2,3}))?/i
const namePattern = /^\*\s*(FROM|TO)?\s*CLIP NAME:\s*(.+?)\s*$/i

/** Reads channels as lists write them: `V`, `A`, `A2`, `AA`, `B`, `AA/V`, `NONE`. */
function channelsIn(text: string): Pick<EventLine, 'picture' | 'sounds'> {
  const sounds = new Set<number>()
  let picture = false
  for (const part of text.toUpperCase().split('/'))
    for (const [token] of part.matchAll(/NONE|AA|A\d|A|B|V/g))
      if (token === 'V') picture = true
      else if (token === 'B') {
        picture = true
        sounds.add(1)
      } else if (token === 'AA') [1, 2].forEach((n) => sounds.add(n))
      else if (token.startsWith('A')) sounds.add(Number(token.slice(1) || 1))
  return { picture, sounds }
}

/**
 * Takes a list apart. What the frame code mode says holds for what follows it; a label with a semicolon drops numbers whatever it says.
 * Names and effects belong to the lines of the event before them: `FROM` names what goes out, `TO` what comes in, an effect its reel.
 */
export function readEdlText(text: string): EdlText {
  const events: EventLine[] = []
  const lostEffects: MotionEffect[] = []
  let [title, drops, unknown] = [null as string | null, false, 0]
  const label = (written: string): Label => ({ text: written, drops: drops || /;\d+$/.test(written) })
  /** The lines of the last event: one, or two of a transition. */
  const current = () => events.slice(-2).filter(({ number }) => number === events.at(-1)?.number)
  text.split(/\r\n|\r|\n/).forEach((written, i) => {
    const line = i + 1
    const event = eventPattern.exec(written)
    if (event) {
      const [, number = '', reel = '', channels = '', edit = '', a = '', b = '', c = '', d = ''] = event
      const [sourceIn, sourceOut, recordIn, recordOut] = [label(a), label(b), label(c), label(d)]
      const times = { sourceIn, sourceOut, recordIn, recordOut }
      const more = { effect: null, name: null, file: null }
      events.push({ line, number, reel, ...channelsIn(channels), edit, ...times, ...more })
      return
    }
    const [, titled] = /^TITLE:\s*(.+?)\s*$/i.exec(written) ?? []
    const mode = /^FCM:\s*(NON[- ]?)?DROP/i.exec(written)
    const [, which, named] = namePattern.exec(written) ?? []
    const [, file] = /^\*\s*SOURCE FILE:\s*(.+?)\s*$/i.exec(written) ?? []
    const effect = effectPattern.exec(written)
    const channels = /^\s*AUD((?:\s+\d)+)\s*$/i.exec(written)
    const last = events.at(-1)
    if (titled !== undefined) title ??= titled
    else if (mode) drops = mode[1] === undefined
    else if (named !== undefined) nameIn(current(), which?.toUpperCase() ?? null, named)
    else if (file !== undefined) {
      if (last) last.file ??= file
    } else if (effect) {
      const [, reel = '', perSecond = '0', at] = effect
      const motionEffect: MotionEffect = { line, reel, perSecond: Number(perSecond), at: at ?? null }
      const meant = lineOf(events, current(), motionEffect)
      if (meant) meant.effect = motionEffect
      else lostEffects.push(motionEffect)
    } else if (channels && last) {
      for (const [digit] of (channels[1] ?? '').matchAll(/\d/g)) last.sounds.add(Number(digit))
    } else if (written.trim() && !/^\s*\*/.test(written)) unknown++
  })
  return { title, events, lostEffects, unknown }
}

/**
 * Names a line of an event. Of a transition `FROM` names what goes out, the first line, and `TO` what comes in, the second; where a
 * transition is one line, that is what comes in. Of a cut, whichever way it is called.
 */
function nameIn(lines: readonly EventLine[], which: string | null, name: string): void {
  const [first, second] = lines
  if (!first) return
  if (second) {
    const meant = which === 'FROM' && first.name === null ? first : second
    meant.name ??= name
  } else if (which === 'TO') first.name = name
  else if (/^C$/i.test(first.edit)) first.name ??= name
}

/** The line that an effect means: of its reel, in the event before it, and where several are, the one that begins at its time. */
function lineOf(
  events: readonly EventLine[],
  lines: readonly EventLine[],
  { reel, at }: MotionEffect,
): EventLine | null {
  const isOf = (line: EventLine) => line.reel.toUpperCase() === reel.toUpperCase()
  const atTime = ({ sourceIn }: EventLine) => at !== null && digits(sourceIn.text) === digits(at)
  const here = lines.filter(isOf)
  if (here.length > 0)
    return here.findLast((line) => atTime(line) && line.effect === null) ?? here.at(-1) ?? null
  return events.findLast((line) => isOf(line) && atTime(line)) ?? null
}

const digits = (label: string): string => label.replace(/\D/g, ':')
