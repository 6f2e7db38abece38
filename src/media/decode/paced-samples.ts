import {
  type EncodedPacket,
  EncodedPacketSink,
  type InputVideoTrack,
  type PacketRetrievalOptions,
  type VideoSample,
  VideoSampleSink,
} from 'mediabunny'

/** How the sink comes by its packets and by the decoder that it hands them to. It has no public place to take others from. */
interface Inside {
  _createPacketSink(): EncodedPacketSink
  _createDecoder(...words: unknown[]): Promise<{ getDecodeQueueSize(): number }>
}

/** How often a decoder that is waited for is asked whether it wants more, in milliseconds. */
const patience = 4
/** That a sample is the one at a time is known when the next has come. */
const needed = 2

/**
 * The samples of a track from a time on, as those of `VideoSampleSink.samples`, decoded only as far ahead as they are taken.
 * The sink alone hands its decoder forty packets before the first sample is taken: half a gigabyte of ultra-high definition.
 * @param start in seconds
 * @param ahead samples that may be decoded and not yet taken, once more than the first is wanted
 */
export async function* pacedSamples(
  track: InputVideoTrack,
  start: number,
  ahead: number,
): AsyncGenerator<VideoSample, void, undefined> {
  /** Packets given to the decoder whose samples were not taken yet. */
  let out = 0
  let taken = 0
  let isAwaited = false
  let isOver = false
  let wake = () => {}
  /** How many packets the decoder has not begun with. */
  let waiting = () => 0

  /** Comes back when one more may be decoded. */
  async function room(): Promise<void> {
    while (out >= (taken > 1 ? ahead : needed) && !isOver) {
      const changed = new Promise<void>((resolve) => (wake = resolve))
      if (!isAwaited) await changed
      else {
        await new Promise((resolve) => setTimeout(resolve, patience))
        // A decoder with many threads, or one that sorts, brings its first sample only after some packets more.
        if (isAwaited && waiting() === 0) return
      }
    }
  }

  class PacedPackets extends EncodedPacketSink {
    override async *packets(
      from?: EncodedPacket,
      to?: EncodedPacket,
      options?: PacketRetrievalOptions,
    ): AsyncGenerator<EncodedPacket, void, unknown> {
      for await (const packet of super.packets(from, to, options)) {
        // What comes before the start is decoded and thrown away at once.
        const isShown = packet.timestamp + packet.duration > start
        if (isShown) await room()
        if (isShown) out++
        yield packet
      }
    }
  }

  const sink = new VideoSampleSink(track)
  const inside = sink as unknown as Inside
  const createDecoder = inside._createDecoder.bind(sink)
  inside._createPacketSink = () => new PacedPackets(track)
  inside._createDecoder = async (...words) => {
    const decoder = await createDecoder(...words)
    waiting = () => decoder.getDecodeQueueSize()
    return decoder
  }
  const samples = sink.samples(start)
  try {
    for (;;) {
      isAwaited = true
      wake()
      const { value, done } = await samples.next()
      isAwaited = false
      if (done) return
      out--
      if (++taken > 1) wake()
      yield value
    }
  } finally {
    isOver = true
    wake()
    await samples.return()
  }
}
