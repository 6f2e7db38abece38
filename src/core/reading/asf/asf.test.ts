import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { memorySource } from '../bytes/source'
import { read } from '../read'

const fileOf = (name: string) =>
  new Uint8Array(readFileSync(join(import.meta.dirname, '../../../../test/fixtures/files', name)))

/** A file whose packets are repeated, each time later and counted on: as long as one wants, by the published layout. */
function longer(bytes: Uint8Array, times: number): Uint8Array {
  const view = new DataView(bytes.buffer, bytes.byteOffset)
  const headerLength = Number(view.getBigUint64(16, true))
  const count = Number(view.getBigUint64(headerLength + 40, true))
  const all = Number(view.getBigUint64(headerLength + 16, true))
  const packetLength = (all - 50) / count
  const packets = bytes.subarray(headerLength + 50, headerLength + all)
  const result = new Uint8Array(headerLength + 50 + times * packets.length)
  result.set(bytes.subarray(0, headerLength + 50))
  for (let i = 0; i < times; i++) result.set(packets, headerLength + 50 + i * packets.length)
  new DataView(result.buffer).setBigUint64(headerLength + 40, BigInt(times * count), true)
  expect(Number.isInteger(packetLength)).toBe(true)
  return result
}

const videoOf = async (bytes: Uint8Array) => {
  const result = await read(memorySource(bytes))
  if (!result.reading?.video) throw new Error('it has a picture')
  return result.reading
}

describe('ASF', () => {
  it('of either writer has its rate from the times of its pictures, which are counted', async () => {
    expect((await videoOf(fileOf('bell.wmv'))).video).toMatchObject({
      rate: { num: 25, den: 1 },
      rateMode: 'constant',
      frameCount: 12,
    })
    const second = await videoOf(fileOf('bell_second.wmv'))
    expect(second.video).toMatchObject({ width: 96, height: 54, frameCount: 8, rateMode: 'constant' })
    expect(second.notes).toEqual([])
  })

  it('of which no more than its ends is read is not counted, and reads no more than its budget', async () => {
    const long = longer(fileOf('bell_second.wmv'), 2000)
    let bytes = 0
    const result = await read({
      size: long.length,
      async read(offset, length) {
        const part = long.subarray(offset, Math.min(long.length, offset + length))
        bytes += part.length
        return part
      },
    })
    expect(result.reading?.video?.width).toBe(96)
    expect(bytes).toBeLessThan(256 * 1024)
  })
})
