import { describe, expect, it } from 'vitest'
import { aStill, aVideo } from '../edit/doc.fixture'
import { parseFormat } from '../format/parse'
import { defaultWeights } from '../toll/policy'
import { tollTable } from '../toll/table'
import { tollSentence } from '../toll/sentence'
import { gatherPayers, payIn } from './pay'

describe('what each clip pays', () => {
  const clips = [
    aVideo('hall', '3840x2160@25p', 4),
    aVideo('bell', '1920x1080@50p', 4),
    aVideo('bell2', '1920x1080@50p', 9),
    aStill('title'),
    { id: 'broken', reading: null },
  ]
  it('is worked out once for equal pictures, stills included, and the dearest stand first', () => {
    const payers = gatherPayers(clips)
    expect(payers.map((payer) => payer.ids)).toEqual([['hall'], ['bell', 'bell2'], ['title']])
    const paid = payIn(payers, parseFormat('1920x1080@25p')!.format, tollTable(defaultWeights))
    expect(paid.map(({ ids, toll }) => [ids.length, toll.grade, tollSentence(toll)])).toEqual([
      [1, 'heavy', 'enlarged 1.5: 56 % of the pixels invented'],
      [1, 'light', 'reduced to 50 %: room to zoom to 200 %'],
      [2, 'light', '1 frame in 2 shown, evenly'],
    ])
  })
})
