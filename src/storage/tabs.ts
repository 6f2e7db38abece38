import * as z from 'zod'
import { PatchSchema } from './schema'

/** The version of what tabs tell each other: raised with each change of it, and with each of what is stored. */
const messageVersion = 1

const envelope = { version: z.literal(messageVersion), projectId: z.string(), from: z.string() }
/** What tabs tell each other of a project. */
const TabMessageSchema = z.discriminatedUnion('kind', [
  z.object({
    ...envelope,
    kind: z.literal('written'),
    revision: z.number().int().nonnegative(),
    patches: z.array(PatchSchema).readonly(),
  }),
  /** Asks whoever writes it to let it go. */
  z.object({ ...envelope, kind: z.literal('asks') }),
  z.object({ ...envelope, kind: z.literal('gives'), to: z.string() }),
  z.object({ ...envelope, kind: z.literal('keeps'), to: z.string(), why: z.string() }),
  /** Says that the other tab is of another version, and has to load anew. */
  z.object({ ...envelope, kind: z.literal('reload'), to: z.string() }),
])
export type TabMessage = z.infer<typeof TabMessageSchema>

/** A message that this version does not understand, as far as every version says it. */
const ForeignMessage = z.object({
  projectId: z.string(),
  from: z.string(),
  kind: z.string().optional().catch(undefined),
})
export type ForeignMessage = z.infer<typeof ForeignMessage>

/** This tab, among those that are open. */
export const thisTab: string = globalThis.crypto.randomUUID().slice(0, 13)

const channel = new BroadcastChannel('yard-tally')

type Sent<T> = T extends unknown ? Omit<T, 'from' | 'version'> : never

/** Tells all other tabs. */
export const postToTabs = (message: Sent<TabMessage>): void =>
  channel.postMessage({ ...message, version: messageVersion, from: thisTab })

/** What is heard of other tabs. */
export interface TabHearing {
  readonly message: (message: TabMessage) => void
  /** A tab of another version tells something: nothing of it is taken over. */
  readonly foreign: (message: ForeignMessage) => void
}

/** Sorts what a tab told: a message of this version, one of another, or nothing that concerns us. */
export function hearMessage(data: unknown, { message, foreign }: TabHearing): void {
  const understood = TabMessageSchema.safeParse(data)
  if (understood.success) return message(understood.data)
  const other = ForeignMessage.safeParse(data)
  if (other.success) foreign(other.data)
}

/** Hears what other tabs tell. @returns stops it */
export function onTabMessage(hearing: TabHearing): () => void {
  const listen = (event: MessageEvent<unknown>) => hearMessage(event.data, hearing)
  channel.addEventListener('message', listen)
  return () => channel.removeEventListener('message', listen)
}
