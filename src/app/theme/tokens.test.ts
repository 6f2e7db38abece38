import { describe, expect, it } from 'vitest'
import { type Edition, cssVariables } from './tokens'

/** Relative luminance and contrast as WCAG 2.2 defines them. */
function luminance(hex: string): number {
  const [r, g, b] = [1, 3, 5].map((at) => {
    const value = parseInt(hex.slice(at, at + 2), 16) / 255
    return value <= 0.04045 ? value / 12.92 : ((value + 0.055) / 1.055) ** 2.4
  })
  return 0.2126 * r! + 0.7152 * g! + 0.0722 * b!
}
const contrast = (a: string, b: string) => {
  const [dark, bright] = [luminance(a), luminance(b)].sort((x, y) => x - y)
  return (bright! + 0.05) / (dark! + 0.05)
}

describe.each<Edition>(['light', 'night'])('the %s edition', (edition) => {
  const colours = cssVariables(edition)
  it.each(['--ink', '--quiet', '--accent', '--free', '--light', '--heavy', '--severe'])(
    '%s is read on paper and on sheets',
    (name) => {
      for (const ground of ['--paper', '--sheet'])
        expect(contrast(colours[name]!, colours[ground]!)).toBeGreaterThanOrEqual(4.5)
    },
  )
  it('has words on the accent that are read', () => {
    expect(contrast(colours['--onAccent']!, colours['--accent']!)).toBeGreaterThanOrEqual(4.5)
  })
  it('judges pictures on a neutral grey', () => {
    const ground = colours['--ground']
    const [r, g, b] = [1, 3, 5].map((at) => parseInt(ground!.slice(at, at + 2), 16))
    expect(Math.max(r!, g!, b!) - Math.min(r!, g!, b!)).toBeLessThanOrEqual(4)
  })
})
