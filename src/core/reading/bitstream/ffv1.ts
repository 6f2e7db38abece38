import type { PictureClaim, ClaimedFacts } from '../claims'
import { RangeDecoder } from './range-coder'

const fresh = () => new Uint8Array(32).fill(128)

/**
 * What FFV1 says of the picture: its parameters stand in the configuration record from version 3 on, and at the head of
 * every key frame before (RFC 9043 §4.2).
 * @returns null where the parameters are not to be had
 */
export function claimOfFfv1(frame: Uint8Array, record: Uint8Array): PictureClaim | null {
  if (record.length > 8) return claimFrom(new RangeDecoder(record), 'configuration record')
  if (frame.length < 8) return null
  const decoder = new RangeDecoder(frame)
  const isKeyFrame = decoder.bit(new Uint8Array([128]))
  return isKeyFrame ? claimFrom(decoder, 'frame header') : null
}

function claimFrom(decoder: RangeDecoder, origin: string): PictureClaim | null {
  const states = fresh()
  const version = decoder.symbol(states)
  if (version > 4) return null
  if (version >= 3) decoder.symbol(states)
  const coder = decoder.symbol(states)
  if (coder > 1) for (let i = 1; i < 256; i++) decoder.symbol(states, true)
  const colourSpace = decoder.symbol(states)
  const depth = version >= 1 ? decoder.symbol(states) || 8 : 8
  const hasChroma = decoder.bit(states)
  const [across, down] = [decoder.symbol(states), decoder.symbol(states)]
  const alpha = decoder.bit(states)
  if (colourSpace > 1 || depth > 16) return null
  const chroma = colourSpace === 1 ? '4:4:4' : hasChroma ? chromaOf(across, down) : '4:0:0'
  const facts: ClaimedFacts = { bitDepth: depth, chroma, alpha, profile: `version ${version}` }
  return { layer: 'stream', origin, facts }
}

const chromas = new Map([
  ['0 0', '4:4:4'],
  ['1 0', '4:2:2'],
  ['1 1', '4:2:0'],
  ['2 0', '4:1:1'],
  ['2 2', '4:1:0'],
])
/** Chroma from the binary logarithms of luma samples to a chroma sample, across and down. */
const chromaOf = (across: number, down: number): string | null => chromas.get(`${across} ${down}`) ?? null
