import type { Request, Response } from 'express'
import type { CardChange, ListedFile } from '../src/core/card/listing'
import type { Listing, PlacedFile } from './watch-folder'
import type { Watch } from './watch'

/** So many files are told in one event. */
const perEvent = 500
/** A line that says nothing keeps the connection alive. */
const heartbeat = 15_000

/** How files of a card come, where their arrival is played: by the time since the copy began. */
export type Arrival = (files: readonly PlacedFile[]) => PlacedFile[]

/**
 * Tells a client what changes on a card, as server-sent events (HTML, EventSource): first all that is there, then changes only.
 * @param arrival the stand-in for a card that is being copied; without one, files are told as they are
 */
export function streamChanges(
  watch: Watch,
  arrival: Arrival | null,
  request: Request,
  response: Response,
): void {
  response.set({
    'Content-Type': 'text/event-stream',
    'Cache-Control': 'no-store',
    Connection: 'keep-alive',
  })
  response.flushHeaders()
  const known = new Map<string, string>()
  let toldBad = ''
  let listing: Listing | null = null

  const send = (change: CardChange) => response.write(`data: ${JSON.stringify(change)}\n\n`)
  const update = () => {
    if (!listing) return
    const files = arrival ? arrival(listing.files) : listing.files
    const fresh: ListedFile[] = []
    const here = new Set<string>()
    for (const { path: _, ...file } of files) {
      here.add(file.id)
      const sign = `${file.sizeBytes} ${file.modifiedAt} ${file.rests} ${file.expectedBytes}`
      if (known.get(file.id) === sign) continue
      known.set(file.id, sign)
      fresh.push(file)
    }
    const gone = [...known.keys()].filter((id) => !here.has(id))
    gone.forEach((id) => known.delete(id))
    const bad = JSON.stringify(listing.bad)
    const badChanged = bad !== toldBad
    toldBad = bad
    for (let at = 0; at < fresh.length; at += perEvent)
      send({ files: fresh.slice(at, at + perEvent), gone: [] })
    if (gone.length || badChanged) send({ files: [], gone, ...(badChanged ? { bad: listing.bad } : {}) })
  }
  const leave = watch.follow((next) => {
    listing = next
    update()
  })
  const playing = arrival ? setInterval(update, 200).unref() : null
  const beat = setInterval(() => response.write(':\n\n'), heartbeat).unref()
  request.on('close', () => {
    leave()
    clearInterval(beat)
    if (playing) clearInterval(playing)
  })
}
