import { describe, expect, it } from 'vitest'
import { aStill, aVideo } from '../model/doc.fixture'
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
    // Of one grade the larger loss stands first; a dearer grade before a larger loss.
    const order = (texts: string[]) =>
      payIn(
        gatherPayers(texts.map((text) => aVideo(text, text, 2))),
        parseFormat('1920x1080@25p')!.format,
        tollTable(defaultWeights),
      ).map(({ ids: [id], toll }) => `${id} ${toll.grade} ${toll.loss.toFixed(2)}`)
    const paid2 = order(['1920x1080@24p', '1280x720@25p', '640x360@25p', '3840x2160@25p'])
    expect(order(['640x360@25p', '3840x2160@25p', '1280x720@25p', '1920x1080@24p'])).toEqual(paid2)
    expect(paid2).toEqual([
      '640x360@25p severe 0.89',
      '1280x720@25p heavy 0.56',
      '1920x1080@24p heavy 0.32',
      '3840x2160@25p light 0.22',
    ])
  })
})
