import type { PlacedFile } from './watch-folder'

/** How long each file of the stand-in takes to arrive. */
const perFileMilliseconds = 220
const mostCopies = 200

/**
 * A stand-in for a card that is being copied: for each copy (named by whoever watches) the files appear one after the
 * other, each growing until it rests. The files themselves are real; only the time of their arrival is made up.
 */
export function arrivingCard(
  clock: () => number = Date.now,
): (copy: string, files: readonly PlacedFile[]) => PlacedFile[] {
  const begun = new Map<string, number>()
  return (copy, files) => {
    const since = begun.get(copy) ?? clock()
    if (!begun.has(copy)) {
      // The oldest is forgotten first.
      for (const oldest of begun.keys()) if (begun.size >= mostCopies) begun.delete(oldest)
      begun.set(copy, since)
    }
    const progress = (clock() - since) / perFileMilliseconds
    return files.flatMap((file, i): PlacedFile[] => {
      const share = progress - i
      if (share <= 0) return []
      if (share >= 1) return [file]
      return [
        {
          ...file,
          sizeBytes: Math.floor(file.sizeBytes * share),
          rests: false,
          expectedBytes: file.sizeBytes,
        },
      ]
    })
  }
}
