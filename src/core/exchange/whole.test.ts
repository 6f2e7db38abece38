import { readFile } from 'node:fs/promises'
import { describe, expect, it } from 'vitest'
import { checkTimeline } from '../check/check'
import { aDoc, aStill, aVideo } from '../model/doc.fixture'
import type { Draft } from '../edit/draft'
import { addTimeline, setProjectFormat } from '../edit/operations'
import { append, newTimeline, placementOf } from '../edit/placing'
import { parseFormat } from '../format/parse'
import { rational } from '../rational/rational'
import type { Reading } from '../reading/reading'
import { logText } from './log'
import { toOtio } from './otio'
import { readProjectFile, writeProjectFile } from '../stored/project-file'
import { tallyRows } from './tables'

const film = parseFormat('1920x1080@23.976p')!.format
const kept = (name: string) => readFile(new URL(`../../../test/fixtures/${name}`, import.meta.url), 'utf8')

/** A cut with one of everything: a clip with a timecode and a reel, a slow one, a still, sound, a gap, a timeline, the figure. */
function everything() {
  const hall = aVideo('hall', '3840x2160@25p', 4)
  hall.folder = 'card 1//day & night/'
  hall.reading!.timecode = { start: '10:00:00:00', dropFrame: false }
  hall.reading!.reel = 'FOUNDRY_07'
  const hum = structuredClone(aVideo('hum', '1920x1080@25p', 6))
  hum.reading = { ...(hum.reading as Draft<Reading>), kind: 'audio', video: null }
  const doc = aDoc([hall, aStill('title'), aVideo('bell', '1920x1080@59.94p', 3), hum])
  setProjectFormat(doc, { at: '2026-05-01T10:00:00Z', setBy: 'typed', format: film, reason: 'as delivered' })
  addTimeline(doc, newTimeline('inner', 'Pour', '2026-05-01T10:01:00Z'))
  append(doc, 'inner', [placementOf(doc.clips.bell!, film, 'i1')])
  addTimeline(doc, newTimeline('t', 'Main cut', '2026-05-01T10:01:00Z'))
  const placed = (id: string) => placementOf(doc.clips[id]!, film, `p-${id}`)
  append(doc, 't', [
    { ...placed('hall'), sourceIn: rational(1), length: 48 },
    placed('title'),
    {
      ...placed('bell'),
      treatment: {
        motion: { kind: 'speed', pace: { kind: 'every-frame' }, wanted: true, keepPitch: false },
      },
    },
    { ...placed('hall'), id: 'n', source: { kind: 'timeline', timelineId: 'inner' }, length: 24 },
    {
      ...placed('hall'),
      id: 'f',
      source: { kind: 'figure', size: film, rate: rational(25), scan: 'interlaced' },
      sourceIn: rational(2),
      length: 12,
    },
    { ...placed('hall'), id: 'lost', source: { kind: 'clip', clipId: 'gone' }, length: 7 },
    { ...placed('hall'), id: 'nowhere', source: { kind: 'timeline', timelineId: 'gone' }, length: 5 },
  ])
  append(doc, 't', [placed('hum')])
  const [video] = doc.timelines.t!.tracks
  for (const placement of video!.placements.slice(2)) placement.start += 10
  return doc
}

describe('a cut of everything', () => {
  it('is handed over as one file, to the letter', async () => {
    const doc = everything()
    const text = `${JSON.stringify(toOtio(doc, doc.timelines.t!), null, 1)}\n`
    await expect(text).toMatchFileSnapshot('../../../test/fixtures/exchange/cut.otio')
  })

  it('is tallied as a table, to the letter', () => {
    const doc = everything()
    expect(tallyRows(checkTimeline(doc, doc.timelines.t!)!)).toEqual([
      [
        'clip',
        'starts at',
        'frames',
        'source size',
        'source rate',
        'timeline format',
        'grade',
        'loss',
        'charges',
      ],
      [
        'hall.mp4',
        '00:00:00:00',
        '48',
        '3840x2160',
        '25p',
        '1920x1080@23.976p',
        'heavy',
        '0.4783',
        'reduced to 50 %: room to zoom to 200 %; 1 frame in 24 dropped, judder 8.1 ms',
      ],
      [
        'title.png',
        '00:00:02:00',
        '120',
        '1280x720',
        'still',
        '1920x1080@23.976p',
        'heavy',
        '0.5556',
        'enlarged 1.5: 56 % of the pixels invented',
      ],
      [
        'bell.mp4',
        '00:00:07:10',
        '72',
        '1920x1080',
        '59.94p',
        '1920x1080@23.976p',
        'light',
        '0.0000',
        'every frame once, at 40 % speed: running time × 2.5',
      ],
      ['Pour', '00:00:10:10', '24', '', '', '1920x1080@23.976p', 'free', '0.0000', 'untouched'],
      [
        'test figure',
        '00:00:11:10',
        '12',
        '',
        '',
        '1920x1080@23.976p',
        'heavy',
        '0.3240',
        '1 frame in 2 or 3 shown, judder 5.6 ms; deinterlaced to double rate: all motion kept',
      ],
    ])
  })
})

describe('the decision log', () => {
  it('has the newest first, with the trade name where there is one', () => {
    const decision = {
      at: '2026-05-01T10:00:00Z',
      setBy: 'recommended' as const,
      format: film,
      reason: 'Why.',
    }
    const odd = parseFormat('1000x500@25p')!.format
    expect(
      logText('The Ninth Bell', [
        decision,
        { ...decision, at: '2026-05-02T11:30:59Z', setBy: 'typed', format: odd },
      ]),
    ).toBe(
      [
        'The Ninth Bell: decisions on the format',
        '2026-05-02 11:30  1000×500 · 25p, typed. Why.',
        '2026-05-01 10:00  1920×1080 · 23.976p (HD), recommended. Why.',
      ].join('\n'),
    )
  })
})

describe('a project file that is refused', () => {
  const said = (text: string) => {
    const result = readProjectFile(text)
    return result.ok ? 'taken' : result.error
  }
  const spoilt = (spoil: (file: Record<string, never>) => void) => {
    const file = JSON.parse(writeProjectFile(everything()))
    spoil(file)
    return said(JSON.stringify(file))
  }
  // What leads nowhere in the cut of everything is refused too: without it the file is whole.
  const whole = () => {
    const doc = everything()
    const [video] = doc.timelines.t!.tracks
    video!.placements = video!.placements.filter(({ id }) => id !== 'lost' && id !== 'nowhere')
    return JSON.parse(writeProjectFile(doc))
  }
  const damaged = (spoil: (file: ReturnType<typeof whole>) => void) => {
    const file = whole()
    spoil(file)
    return said(JSON.stringify(file))
  }

  it('is told by what it is', () => {
    const other = 'The file is JSON, but not a project of Yard Tally. Nothing was changed.'
    expect(['null', '7', '"text"', '[]', '{}', '{"kind":"else"}'].map(said)).toEqual(Array(6).fill(other))
    expect(said('{')).toMatch(/^The file is not JSON: .+\. Nothing was changed\.$/)
    const versionless = 'The file does not say its version. Nothing was changed.'
    for (const version of ['', '"version":0,', '"version":1.5,', '"version":"x",', '"version":-1,'])
      expect(said(`{${version}"kind":"yard-tally-project"}`)).toBe(versionless)
    expect(said('{"kind":"yard-tally-project","version":5}')).toBe(
      'The file is of version 5; this Yard Tally reads up to version 4. Open it with a newer one. Nothing was changed.',
    )
  })

  it('is told by where it is damaged, and by the name of what stands there', () => {
    expect(damaged(() => undefined)).toBe('taken')
    expect(damaged((file) => (file.clips[1].sizeBytes = 'much'))).toMatch(
      /^The file is damaged at clips\.1\.sizeBytes \(title\.png\): .+\. Nothing was changed\.$/,
    )
    expect(damaged((file) => delete file.clips)).toMatch(/^The file is damaged at clips: /)
    expect(damaged((file) => (file.project.name = 7))).toMatch(/^The file is damaged at project\.name: /)
    expect(damaged((file) => (file.clips[0] = 7))).toMatch(/^The file is damaged at clips\.0: /)
  })

  it('is told by what stands twice in it, or leads nowhere', () => {
    expect(damaged((file) => file.clips.push(file.clips[0]))).toBe(
      'The clip “hall” is there twice. Nothing was changed.',
    )
    expect(damaged((file) => file.timelines.push(file.timelines[0]))).toBe(
      'The timeline “inner” is there twice. Nothing was changed.',
    )
    expect(spoilt(() => undefined)).toMatch(
      /^“Main cut” places a .+ that is not there\. Nothing was changed\.$/,
    )
  })
})

describe('a project file of an older version', () => {
  const older = async (spoil: (file: { project: unknown; clips: Record<string, never>[] }) => void) => {
    const file = JSON.parse(await kept('stored/project-2.json'))
    spoil(file)
    return readProjectFile(JSON.stringify(file))
  }
  type Loose = { reading?: { sizeBytes?: unknown }; claimed?: unknown; sizeBytes?: unknown; name: string }

  it('opens without what was read wrongly then, in the reading or the claims', async () => {
    const result = await older(({ clips }) => {
      const [a, b] = clips as unknown as Loose[]
      a!.reading!.sizeBytes = -1
      b!.claimed = { kind: 'nonsense' }
    })
    if (!result.ok) throw new Error(result.error)
    expect(result.putAside.filter(({ what }) => what === 'clip')).toHaveLength(2)
    expect(Object.keys(result.doc.clips)).toHaveLength(18)
  })

  it('is refused where anything else is wrong with it', async () => {
    const wrong = await older(({ clips }) => {
      const [a, b] = clips as unknown as Loose[]
      a!.reading!.sizeBytes = -1
      b!.sizeBytes = 'much'
    })
    expect(wrong).toMatchObject({
      ok: false,
      error: expect.stringMatching(/^The file is damaged at clips\.\d/),
    })
    expect(await older((file) => (file.project = null))).toMatchObject({ ok: false })
  })
})
