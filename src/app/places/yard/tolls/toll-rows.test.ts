import { describe, expect, it } from 'vitest'
import { gatherPayers, payIn } from '../../../../core/choice/pay'
import { aDoc, aVideo } from '../../../../core/model/doc.fixture'
import { parseFormat } from '../../../../core/format/parse'
import { defaultWeights } from '../../../../core/toll/policy'
import { tollTable } from '../../../../core/toll/table'
import { kindsOf, rowsOf } from './toll-rows'

const doc = aDoc([
  aVideo('hall', '3840x2160@25p', 4),
  aVideo('bell', '1920x1080@50p', 3),
  aVideo('pour', '3840x2160@25p', 8),
])
const pay = (text: string) =>
  payIn(gatherPayers(Object.values(doc.clips)), parseFormat(text)!.format, tollTable(defaultWeights))

describe('rows of the table of tolls', () => {
  it('are the clips, the dearest first, each with what it pays at both formats', () => {
    const rows = rowsOf(doc.clips, pay('3840x2160@25p'), pay('1920x1080@25p'))
    expect(rows.map((row) => [row.clip.id, row.toll.grade, row.beside?.toll.grade])).toEqual([
      ['bell', 'severe', 'light'],
      ['hall', 'free', 'light'],
      ['pour', 'free', 'light'],
    ])
    expect(rowsOf(doc.clips, pay('3840x2160@25p'), [])[0]!.beside).toBeNull()
  })
  it('offer the kinds of charges that are paid', () => {
    expect(kindsOf(pay('3840x2160@25p'))).toEqual(['enlarge', 'even-skip'])
  })
})
