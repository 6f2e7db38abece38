import { describe, expect, it } from 'vitest'
import { hearMessage } from './tabs'

/** What is made of something that another tab told. */
function heard(data: unknown): string {
  let outcome = 'nothing'
  hearMessage(data, {
    message: ({ kind }) => (outcome = kind),
    foreign: ({ from }) => (outcome = `foreign ${from}`),
  })
  return outcome
}
const told = { version: 1, projectId: 'p1', from: 'there' }

describe('what another tab tells', () => {
  it('is taken as it is meant where it is of this version', () => {
    const patches = [{ op: 'replace', path: ['project', 'name'], value: 'Bell' }]
    expect(heard({ ...told, kind: 'written', revision: 3, patches })).toBe('written')
    expect(heard({ ...told, kind: 'asks' })).toBe('asks')
    expect(heard({ ...told, kind: 'keeps', to: 'here', why: 'the disk is full' })).toBe('keeps')
  })

  it('is foreign where it is of another version, or of a shape that is not known', () => {
    for (const data of [
      { projectId: 'p1', from: 'there', kind: 'asks' },
      { ...told, version: 2, kind: 'asks' },
      { ...told, kind: 'sings' },
      { ...told, kind: 'written', revision: 'three', patches: [] },
      { ...told, kind: 'written', revision: 3, patches: [{ op: 'melt', path: [] }] },
    ])
      expect(heard(data)).toBe('foreign there')
  })

  it('is nothing where it concerns no project', () => {
    for (const data of [null, 7, 'asks', {}, { projectId: 4, from: 'there' }])
      expect(heard(data)).toBe('nothing')
  })
})
