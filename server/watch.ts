import { type Listing, type PlacedFile, listFolder } from './watch-folder'

/** A card that is looked at again and again while someone watches it. */
export interface Watch {
  /** What stands on it now: looks anew. */
  list(): Promise<Listing>
  /** The file behind an id; null where the card has none. */
  find(id: string): Promise<PlacedFile | null>
  /** Calls on every look that may have found a change, at once with what is known. @returns how to stop */
  follow(listener: (listing: Listing) => void): () => void
}

/** A look costs so much of its own time again in waiting, so that large cards do not keep the machine busy. */
const restAfterLook = 8
const shortest = 400
/** A card on which nothing moves is looked at now and then. */
const quiet = 2000
/** A look this old is repeated before a file is said not to be there. */
const stale = 500

/** Watches a folder. Nothing is looked at while nobody asks. */
export function watchCard(folder: string): Watch {
  let known: Listing = { files: [], bad: [] }
  let byId = new Map<string, PlacedFile>()
  let lookedAt = -Infinity
  let looking: Promise<Listing> | null = null
  const followers = new Set<(listing: Listing) => void>()
  let timer: NodeJS.Timeout | null = null

  const tell = () => followers.forEach((listener) => listener(known))

  function look(): Promise<Listing> {
    looking ??= (async () => {
      const first = lookedAt === -Infinity
      const begun = performance.now()
      try {
        // The first look tells as it goes, so that the first files show at once.
        known = await listFolder(
          folder,
          first ? (files) => ((known = { files: [...files], bad: [] }), tell()) : undefined,
        )
        byId = new Map(known.files.map((file) => [file.id, file]))
      } finally {
        lookedAt = performance.now()
        looking = null
      }
      tell()
      const took = lookedAt - begun
      const moves = known.files.some((file) => !file.rests)
      schedule(Math.max(moves ? shortest : quiet, took * restAfterLook))
      return known
    })()
    return looking
  }

  function schedule(wait: number) {
    if (timer) clearTimeout(timer)
    timer = followers.size > 0 ? setTimeout(() => void look(), wait).unref() : null
  }

  return {
    list: look,
    async find(id) {
      // One who asks for what is not there does not keep the machine looking.
      if (!byId.has(id) && performance.now() - lookedAt > stale) await look()
      return byId.get(id) ?? null
    },
    follow(listener) {
      followers.add(listener)
      if (lookedAt > -Infinity) listener(known)
      if (!timer) void look()
      return () => {
        followers.delete(listener)
        if (followers.size === 0 && timer) {
          clearTimeout(timer)
          timer = null
        }
      }
    },
  }
}
