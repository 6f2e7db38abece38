import { describe, expect, it } from 'vitest'
import { wrapped } from '../dispatch/usual'
import { deliverableOf } from '../model/deliverable'
import { parseFormat } from '../format/parse'
import { readProfileFile, writeProfileFile } from './profile-file'

const { wrapper, video, sound, burnIn } = wrapped(
  deliverableOf('d', 'Out', parseFormat('1920x1080@50i')!.format),
)
const profile = { name: 'For the tower', wrapper, video, sound, burnIn }

describe('own profiles as a file', () => {
  it('come back as they were kept, without what belongs to a project', () => {
    const text = writeProfileFile([profile, { ...profile, name: 'Two', burnIn: true }])
    expect(readProfileFile(text)).toEqual({
      ok: true,
      value: [profile, { ...profile, name: 'Two', burnIn: true }],
    })
    expect(text).not.toMatch(/"id"|timelineId|"format"/)
  })
  it.each([
    ['no JSON', '{', /not JSON/],
    ['another file', '{"kind":"yard-tally-formats","version":1}', /not a list of profiles/],
    [
      'a profile without a name',
      writeProfileFile([profile]).replace('"For the tower"', '""'),
      /Nothing was changed/,
    ],
  ])('are refused: %s', (_, text, says) => {
    const result = readProfileFile(text)
    expect(result.ok ? '' : result.error).toMatch(says)
  })
})
