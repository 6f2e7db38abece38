import { describe, expect, it } from 'vitest'
import { parseFormat } from '../format/parse'
import { begin } from './begin'
import { defaultPreferences } from '../model/preferences'

const hd50i = parseFormat('1920x1080@50i')!.format

describe('a new project', () => {
  it('is openly undecided unless it is decided, and knows what is delivered', () => {
    expect(begin('p', '', { name: ' The Ninth Bell ' }).project).toMatchObject({
      name: 'The Ninth Bell',
      format: null,
      deliverables: [],
      decisions: [],
    })
    const { project } = begin('p', '', { name: '', delivery: hd50i })
    expect(project).toMatchObject({ name: 'Untitled', format: null, deliverables: [{ format: hd50i }] })
  })
  it('writes into the log that it works in what is delivered', () => {
    const { project } = begin('p', '2026-05-01T10:00:00Z', { name: 'Bell', delivery: hd50i, decided: true })
    expect(project.format).toEqual(hd50i)
    expect(project.decisions).toEqual([
      {
        at: '2026-05-01T10:00:00Z',
        setBy: 'delivery',
        format: hd50i,
        reason: 'Worked in as it is delivered, 1920×1080 · 50i; no footage was weighed yet.',
      },
    ])
  })
  it('takes over the editor’s habits', () => {
    const habits = { ...defaultPreferences, onMismatch: 'keep' as const }
    expect(begin('p', '', { name: 'Bell', habits }).project.onMismatch).toBe('keep')
  })
})
