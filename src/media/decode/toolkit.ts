import { type Remote, wrap } from 'comlink'
import { newRing, ringReader } from './ring'
import { onWanted, takeSeat } from './seats'
import { nextTurn, turns } from '../turns'
import type { ToolkitEnd, ToolkitJob, ToolkitService } from './toolkit.worker'

/** A stream that the toolkit writes while it is read. Whatever is taken is waited for by nobody else. */
export interface ToolkitStream {
  /** So many bytes; fewer only at the end. @throws Error where nothing comes for long, GivenUp */
  take(length: number, signal: AbortSignal): Promise<Uint8Array>
  /** The time that stands before each piece, in seconds; null at the end of the stream. */
  takeTime(signal: AbortSignal): Promise<number | null>
  /** Bytes up to the next line end and with it; without one at the end of the stream. */
  takeLine(signal: AbortSignal): Promise<Uint8Array>
  /** How it ended, once it has. */
  readonly ended: Promise<ToolkitEnd>
  /** Wants nothing more, and waits until the engine is free. */
  leave(): Promise<void>
  cancel(): void
}

/** A stream was ended for another that was asked for meanwhile; whoever still wants it begins again. */
export class GivenUp extends Error {}

/** What is to be done, and how much may be ahead of the reader. */
export type ToolkitOrder = Omit<ToolkitJob, 'ring'> & { readonly ringBytes: number }

interface Running {
  readonly stream: ToolkitStream
  /** Settles once nobody waits for bytes of it. */
  quiet: Promise<unknown>
  givenUp: boolean
  readonly usedAt: number
}

interface Engine {
  readonly worker: Worker
  readonly service: Remote<ToolkitService>
  /** Tells whoever waits for a job that the worker is gone. */
  readonly gone: Promise<ToolkitEnd>
  goes(end: ToolkitEnd): void
  running: Running | null
  rest: ReturnType<typeof setTimeout> | undefined
  giveSeatBack(): void
}

/** One in each worker that decodes: for what is looked at, and for what is measured. */
const mostEngines = 1
/** An engine that nobody asks for so long gives its memory back, in milliseconds. */
const restsAfter = 60_000
/** A job that brings nothing for so long is ended, in milliseconds. */
export const longestSilence = 20_000
/** A job that was told to end and does not for so long is thrown away with its worker, in milliseconds. */
const longestEnd = 3000
const longestLine = 1024

const engines: Engine[] = []
let clock = 0

async function started(): Promise<Engine> {
  const giveSeatBack = await takeSeat()
  const worker = new Worker(new URL('./toolkit.worker.ts', import.meta.url), {
    type: 'module',
    name: 'toolkit',
  })
  let goes: Engine['goes'] = () => {}
  const gone = new Promise<ToolkitEnd>((settle) => (goes = settle))
  const service = wrap<ToolkitService>(worker)
  const engine: Engine = { worker, service, gone, goes, running: null, rest: undefined, giveSeatBack }
  worker.addEventListener('error', () => thrownAway(engine, 'the decoder could not be started'))
  engines.push(engine)
  return engine
}

function thrownAway(engine: Engine, why: string): void {
  clearTimeout(engine.rest)
  engine.worker.terminate()
  const at = engines.indexOf(engine)
  if (at >= 0) engines.splice(at, 1)
  engine.giveSeatBack()
  engine.goes({ code: 1, said: [`Error: ${why}`] })
}

/** Whether another window waits for an engine: one is given up as soon as it is idle. */
let isWantedElsewhere = false
onWanted(() => {
  isWantedElsewhere = true
  for (const engine of [...engines])
    if (engine.running) void giveWay(engine.running)
    else thrownAway(engine, 'it rested')
})

/** Ends a stream of which nothing is wanted any more. A frame that somebody waits for comes first, and what is asked for right after it belongs to it. */
async function giveWay(running: Running): Promise<void> {
  const waited = running.quiet
  await waited
  await nextTurn()
  if (running.quiet !== waited) return
  running.givenUp = true
  running.stream.cancel()
  await running.stream.ended
}

/** Who asks for an engine gets one before the next is heard. */
const inTurn = turns()

/** An engine that is idle, a new one, or the one whose stream was asked for longest ago, which ends for it. */
async function idleEngine(): Promise<Engine> {
  for (;;) {
    const idle = engines.find(({ running }) => running === null)
    if (idle) return idle
    if (engines.length < mostEngines) return started()
    const [oldest] = [...engines].sort((a, b) => (a.running?.usedAt ?? 0) - (b.running?.usedAt ?? 0))
    if (oldest?.running) await giveWay(oldest.running)
  }
}

/** Lets the toolkit work on a clip and gives what it writes as it is written; it goes no faster than it is read. */
function toolkitStream(order: ToolkitOrder): Promise<ToolkitStream> {
  return inTurn(async () => streamOn(await idleEngine(), order))
}

/** A stream and what is first taken of it; where that fails nothing is left running. */
export async function openStream<T>(
  order: ToolkitOrder,
  begin: (stream: ToolkitStream) => Promise<T>,
): Promise<T> {
  const stream = await toolkitStream(order)
  try {
    return await begin(stream)
  } catch (error) {
    stream.cancel()
    throw error
  }
}

function streamOn(engine: Engine, { ringBytes, ...job }: ToolkitOrder): ToolkitStream {
  clearTimeout(engine.rest)
  const ring = newRing(ringBytes)
  const reader = ringReader(ring)
  let isEnded = false
  const ended = Promise.race([engine.service.run({ ...job, ring }), engine.gone]).then((end) => {
    isEnded = true
    // A worker that went away has nobody who says that nothing more comes.
    reader.end()
    if (engine.running === running) rested(engine)
    return end
  })

  async function waited<T>(signal: AbortSignal, work: (signal: AbortSignal) => Promise<T>): Promise<T> {
    if (running.givenUp) throw new GivenUp('the decoder works for another clip')
    const silence = AbortSignal.timeout(longestSilence)
    try {
      return await work(AbortSignal.any([signal, silence]))
    } catch (error) {
      if (signal.aborted || !silence.aborted) throw error
      // What hangs hears no word: its worker is thrown away, and the next clip gets another.
      thrownAway(engine, 'nothing was decoded for 20 seconds, so it was ended')
      throw new Error('nothing was decoded for 20 seconds, so it was ended', { cause: error })
    }
  }
  const taking = <T>(signal: AbortSignal, work: (signal: AbortSignal) => Promise<T>): Promise<T> => {
    const bytes = waited(signal, work)
    running.quiet = bytes.catch(() => {})
    begins()
    return bytes
  }
  // Who asked for a stream has not asked for bytes of it yet: it is not given up before.
  let begins = () => {}
  const begun = new Promise<void>((settle) => (begins = settle))

  const take: ToolkitStream['take'] = (length, signal) =>
    taking(signal, (until) => reader.take(length, until))
  const stream: ToolkitStream = {
    take,
    async takeTime(signal) {
      const bytes = await take(Float64Array.BYTES_PER_ELEMENT, signal)
      return new Float64Array(bytes.buffer, 0, Math.floor(bytes.length / 8))[0] ?? null
    },
    takeLine: (signal) => taking(signal, (until) => lineOf((length) => reader.take(length, until))),
    ended,
    async leave() {
      stream.cancel()
      await ended
    },
    cancel() {
      begins()
      reader.cancel()
      setTimeout(() => {
        if (!isEnded) thrownAway(engine, 'it did not end when it was told to')
      }, longestEnd)
    },
  }
  const running: Running = { stream, quiet: begun, givenUp: false, usedAt: ++clock }
  engine.running = running
  return stream
}

async function lineOf(take: (length: number) => Promise<Uint8Array>): Promise<Uint8Array> {
  const line: number[] = []
  while (line.length < longestLine) {
    const [byte] = await take(1)
    if (byte === undefined) break
    line.push(byte)
    if (byte === 10) break
  }
  return Uint8Array.from(line)
}

function rested(engine: Engine): void {
  engine.running = null
  if (isWantedElsewhere) {
    isWantedElsewhere = false
    return thrownAway(engine, 'another window needs it')
  }
  engine.rest = setTimeout(() => {
    if (engine.running === null) thrownAway(engine, 'it rested')
  }, restsAfter)
}

/** Why a stream ended: what the toolkit said last, without the words around it. */
export async function reasonOfEnd(stream: ToolkitStream, otherwise: string): Promise<string> {
  await stream.leave()
  const { said } = await stream.ended
  const complaint = said.findLast((line) =>
    /error|invalid|not found|unsupported|no such|could not|ended|answered/i.test(line),
  )
  return (
    complaint
      ?.replace(/^\[[^\]]*\]\s*/, '')
      .replace(/^Error:\s*/, '')
      .trim() || otherwise
  )
}
