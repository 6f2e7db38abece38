/** So many engines are alive at once, in all workers of all pages: each holds a heap of its own. */
const seats = ['toolkit 1', 'toolkit 2'] as const
/** Whoever waits for a seat says so here; engines that only rest give theirs up. */
const wanted = typeof BroadcastChannel === 'undefined' ? null : new BroadcastChannel('toolkit seats')

/** Hears that somebody waits for a seat. */
export const onWanted = (give: () => void): void => wanted?.addEventListener('message', give)

/** So long a seat is waited for, in milliseconds: those who hold them give way after each clip. */
const longestWait = 60_000

/** Waits for a seat. @returns what gives it back @throws Error where none comes free */
export async function takeSeat(): Promise<() => void> {
  const free = await firstOf({ ifAvailable: true })
  if (free) return free
  wanted?.postMessage(null)
  const waited = await firstOf({ ifAvailable: false })
  if (!waited) throw new Error('other windows of this app use both decoders: close one of them')
  return waited
}

/** The first seat that is granted; the other is given back at once. Null where none is free and none is waited for. */
async function firstOf({ ifAvailable }: { readonly ifAvailable: boolean }): Promise<(() => void) | null> {
  let given: (() => void) | null = null
  const stop = new AbortController()
  const asked = seats.map((name) => {
    const options = ifAvailable ? { ifAvailable } : { signal: stop.signal }
    return new Promise<void>((settled) => {
      void navigator.locks
        .request(name, options, (lock) => {
          if (!lock || given) return settled()
          return new Promise<void>((giveBack) => {
            given = giveBack
            settled()
          })
        })
        .catch(() => settled())
    })
  })
  const late = ifAvailable ? 0 : setTimeout(() => stop.abort(), longestWait)
  await (ifAvailable ? Promise.all(asked) : Promise.race(asked))
  clearTimeout(late)
  stop.abort()
  return given
}
