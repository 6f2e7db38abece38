import { rational } from '../rational/rational'
import type { Evidence } from './evidence'

/** What a plain clip of whole frames says, with what is told of it changed. */
export const evidenceWith = (change: Partial<Evidence> = {}): Evidence => ({
  frames: 243,
  combing: { verdict: 'clean', share: 0, confidence: 0.9 },
  fieldOrder: { verdict: 'progressive', confidence: 0.9 },
  repeats: {
    verdict: 'none',
    pattern: null,
    holds: null,
    phase: null,
    trueRate: rational(25),
    confidence: 0.9,
  },
  pulldown: null,
  bars: { top: 0, bottom: 0, left: 0, right: 0, confidence: 1 },
  detail: { verdict: 'full', width: 1920, height: 1080, confidence: 1 },
  mixed: [],
  seenAt: { combed: null, repeated: null },
  ...change,
})

/** What a clip of fields says. */
export const combedEvidence = (order: 'top-first' | 'bottom-first', confidence = 0.98): Evidence =>
  evidenceWith({
    combing: { verdict: 'combed', share: 1, confidence },
    fieldOrder: { verdict: order, confidence },
  })
