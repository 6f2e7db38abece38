import { describe, expect, it } from 'vitest'
import { aDoc, aStill, aVideo } from '../model/doc.fixture'
import { setProjectFormat } from '../edit/operations'
import { type Decision, type Doc } from '../model/project'
import { formatKey } from '../format/format'
import { parseFormat } from '../format/parse'
import { wrongStart } from './wrong-start'

const format = (text: string) => parseFormat(text)!.format
function begun(text: string, setBy: Decision['setBy'], clip?: string) {
  const doc = aDoc([
    aVideo('hall', '3840x2160@25p', 40),
    aVideo('pour', '3840x2160@25p', 52),
    aVideo('phone', '1080x1920@30p', 8),
    aStill('title'),
  ])
  setProjectFormat(doc, { at: '', setBy, format: format(text), reason: '', ...(clip ? { clip } : {}) })
  return doc as Doc
}

describe('a wrong start', () => {
  it('is told where the format came from one clip and most of the footage is another', () => {
    const wrong = wrongStart(begun('1080x1920@30p', 'clip', 'phone.mp4'))!
    expect(wrong).toMatchObject({ share: 0.92, shareNow: 0.08, format: { width: 3840, height: 2160 } })
    expect(wrong.says).toBe('The format came from phone.mp4; 92 % of the footage is 3840×2160 · 25p.')
  })

  it('is told of a size that was mistyped, and of a rate that no clip has', () => {
    expect(wrongStart(begun('3840x2610@25p', 'typed'))?.says).toContain('typed')
    expect(wrongStart(begun('3840x2160@24p', 'typed'))).not.toBeNull()
    // A title card gave no rate either: whatever set it, no clip has it.
    expect(wrongStart(begun('1280x721@25p', 'tried'))?.says).toContain('No clip has this format')
  })

  it('is not told of a decision: recommended, delivered, smaller on purpose, or meant', () => {
    expect(wrongStart(begun('1920x1080@24p', 'delivery'))).toBeNull()
    expect(wrongStart(begun('1080x1920@30p', 'recommended'))).toBeNull()
    expect(wrongStart(begun('1920x1080@25p', 'typed'))).toBeNull()
    expect(wrongStart(begun('3840x2160@25p', 'clip', 'hall.mp4'))).toBeNull()
    const doc = begun('1080x1920@30p', 'clip', 'phone.mp4')
    expect(
      wrongStart({ ...doc, project: { ...doc.project, meant: formatKey(doc.project.format!) } }),
    ).toBeNull()
  })

  it('is not told while the footage is of many kinds, or while there is none', () => {
    const doc = aDoc([
      aVideo('a', '3840x2160@25p', 10),
      aVideo('b', '1920x1080@50p', 10),
      aVideo('c', '1280x720@24p', 10),
    ])
    setProjectFormat(doc, { at: '', setBy: 'clip', format: format('1080x1920@30p'), reason: '' })
    expect(wrongStart(doc as Doc)).toBeNull()
    expect(wrongStart(aDoc([]) as Doc)).toBeNull()
  })
})
