import { execFile } from 'node:child_process'
import { mkdtemp, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { promisify } from 'node:util'
import { beforeAll, describe, expect, it } from 'vitest'
import { aDoc, aVideo } from '../src/core/model/doc.fixture'
import { addTimeline } from '../src/core/edit/operations'
import { newTimeline, placementOf } from '../src/core/edit/placing'
import { writeProjectFile } from '../src/core/stored/project-file'
import { parseFormat } from '../src/core/format/parse'

let path = ''
beforeAll(async () => {
  const { format } = parseFormat('1920x1080@25p')!
  const doc = aDoc([aVideo('hall', '3840x2160@25p', 4)])
  const timeline = newTimeline('t', 'Main cut', '2026-05-01T10:00:00Z', format)
  const placements = [{ ...placementOf(doc.clips.hall!, format, 'p'), start: 0 }]
  addTimeline(doc, {
    ...timeline,
    tracks: timeline.tracks.map((t, i) => (i ? t : { ...t, placements })),
  })
  path = join(await mkdtemp(join(tmpdir(), 'export-')), 'bell.json')
  await writeFile(path, writeProjectFile(doc))
})
const tally = (...words: string[]): Promise<{ stdout: string; stderr: string; code?: number }> =>
  promisify(execFile)(process.execPath, ['tools/scripts/tally.mjs', 'export', ...words], {
    cwd: join(import.meta.dirname, '..'),
  }).catch((error) => error)

describe('tally export', () => {
  it('gives a timeline as OpenTimelineIO, as a decision list, and its tally', async () => {
    const otio = JSON.parse((await tally('--otio', path)).stdout)
    expect([otio.OTIO_SCHEMA, otio.tracks.children[0].children[0].name]).toEqual(['Timeline.1', 'hall.mp4'])
    expect((await tally('--edl', '--timeline', 'Main cut', path)).stdout).toContain('001  HALL     V     C')
    expect((await tally('--csv', path)).stdout.split('\n')[1]).toContain('hall.mp4')
  })
  it('gives other tables, and the project as a report', async () => {
    expect((await tally('--csv', '--table', 'clips', path)).stdout.split('\n')[1]).toContain('3840×2160')
    const { stdout } = await tally('--report', path)
    expect(stdout).toContain('<!doctype html>')
    expect(stdout).toContain('Timeline “Main cut”')
  })
  it.each([
    ['a table that is none', ['--csv', '--table', 'x'], 2],
    ['two kinds', ['--otio', '--edl'], 2],
    ['no kind', [], 2],
    ['a timeline that is not there', ['--otio', '--timeline', 'x'], 2],
  ] as const)('is told of %s', async (_, more, status) => {
    const { code, stderr } = await tally(...more, path)
    expect([code, stderr.length > 20]).toEqual([status, true])
  })
  it('says what cannot be read', async () => {
    expect((await tally('--edl', join(path, 'nothing'))).code).toBe(1)
  })
})
