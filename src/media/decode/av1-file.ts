import {
  BufferSource,
  BufferTarget,
  EncodedPacket,
  EncodedVideoPacketSource,
  Input,
  MATROSKA,
  MkvOutputFormat,
  Output,
} from 'mediabunny'
import { timeOf } from '../../core/motion/timing'
import { toNumber } from '../../core/rational/rational'
import { claimOfAv1 } from '../../core/reading/bitstream/av1'
import { av1FileOf, temporalUnits } from '../../core/reading/stream/av1-units'
import { type MediaLocator, byteSource } from '../source'
import { type ClipKind, NoPicture } from './engine'

/** A stream without a wrapper cannot be read by ranges: of no more than this, all of it is held. */
const mostHeld = 256 * 2 ** 20

/** Whether a clip is AV1 in a file of its own, which the demultiplexer does not take apart. */
export const isAv1File = ({ codec, container }: ClipKind): boolean =>
  codec === 'AV1' && (container === 'IVF' || container === 'elementary stream')

/**
 * AV1 in a file of its own, put into a wrapper that the demultiplexer takes apart. Each picture is on when the clip's steps say so.
 * @throws NoPicture where it is too long to be held
 */
export async function wrappedAv1(
  locator: MediaLocator,
  { width, height, bitDepth, steps }: ClipKind,
): Promise<Input> {
  const source = byteSource(locator)
  if (source.size > mostHeld)
    throw new NoPicture(
      `An AV1 stream without a wrapper is shown up to ${mostHeld / 2 ** 20} MB: put this one into an MP4 or Matroska, and drop that here.`,
    )
  const bytes = await source.read(0, source.size)
  const kind = av1FileOf(bytes)
  const target = new BufferTarget()
  const output = new Output({ format: new MkvOutputFormat(), target })
  const packets = new EncodedVideoPacketSource('av1')
  output.addVideoTrack(packets)
  await output.start()
  let shown = 0
  for (const unit of kind ? temporalUnits(bytes, kind) : []) {
    const data = unit.bytes()
    const header = claimOfAv1(data)
    const [time, next] = [timeOf(steps, shown), timeOf(steps, shown + 1)].map(toNumber) as [number, number]
    const packet = new EncodedPacket(data, header ? 'key' : 'delta', time, Math.max(0, next - time))
    const codec = `av01.${profileOf(header?.facts)}.08M.${String(bitDepth).padStart(2, '0')}`
    await packets.add(packet, { decoderConfig: { codec, codedWidth: width, codedHeight: height } })
    shown++
  }
  await output.finalize()
  if (!target.buffer) throw new NoPicture('This stream holds no whole picture.')
  return new Input({ source: new BufferSource(target.buffer), formats: [MATROSKA] })
}

/** The number of a profile in a codec's name (AV1 Codec ISO Media File Format Binding §5). */
const profileOf = (facts: { profile?: string | null } | undefined): number =>
  facts?.profile === 'Professional' ? 2 : facts?.profile === 'High' ? 1 : 0
