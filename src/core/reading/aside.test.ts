import { describe, expect, it } from 'vitest'
import { asideKind } from './aside'
import { memorySource } from './bytes/source'
import { read } from './read'

const bytes = (text: string) => new TextEncoder().encode(text)
const kindOf = async (place: string, content: Uint8Array) =>
  asideKind(place, content.length, content, await read(memorySource(content)))

/** A picture of one pixel, as a GIF. */
const picture = Uint8Array.from(atob('R0lGODlhAQABAIAAAAAAAP///yH5BAEAAAAALAAAAAABAAEAAAIBRAA7'), (c) =>
  c.charCodeAt(0),
)

describe('what is left aside of a card', () => {
  it.each<[string, Uint8Array, string | null]>([
    ['CLIP/A001.XML', bytes('<?xml version="1.0"?><clip/>'), 'description'],
    ['CLIP/A001.XML', bytes('\ufeff<?xml version="1.0"?>'), 'description'],
    ['CLIP/A001.json', bytes('{"reel": "A"}'), 'description'],
    ['INDEX.BIM', Uint8Array.from({ length: 64 }, (_, i) => i), 'index'],
    ['notes.txt', bytes('the bell was cast twice'), 'text'],
    ['LOCK', new Uint8Array(0), 'mark'],
    ['THMBNL/A001.gif', picture, 'thumbnail'],
    ['A001.THM', picture, 'thumbnail'],
    // Pictures are clips where nothing says that they are of one.
    ['title.gif', picture, null],
    // A picture whose name says otherwise is one all the same: bytes decide.
    ['CLIP/picture.xml', picture, null],
    // What promises a medium and holds none is a fault to be told.
    ['CLIP/A002.MP4', bytes('<?xml version="1.0"?>'), null],
    ['CLIP/A003.mxf', new Uint8Array(0), null],
  ])('%s', async (place, content, kind) => expect(await kindOf(place, content)).toBe(kind))
})
