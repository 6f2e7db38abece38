/**
 * Bytes from one worker to another through shared memory: the writer waits while the ring is full, so that nothing grows; the
 * reader waits without blocking. One writes, one reads.
 */
export interface Ring {
  readonly state: SharedArrayBuffer
  readonly bytes: SharedArrayBuffer
}

/** Where in the state each number stands. */
const [written, taken, ended, cancelled] = [0, 1, 2, 3]
const running = 0
/** How long a wait lasts before what was asked is looked at again, in milliseconds. */
const longestWait = 200

/** @param capacity bytes that it holds, less one */
export const newRing = (capacity: number): Ring => ({
  state: new SharedArrayBuffer(4 * Int32Array.BYTES_PER_ELEMENT),
  bytes: new SharedArrayBuffer(capacity),
})

/** The end that bytes are put in at. */
export interface RingWriter {
  /** Puts all bytes in, waiting where there is no room. @returns whether more is wanted: false once the reader has cancelled */
  write(bytes: Uint8Array): boolean
  /** As `write`, and lets its worker do other things while it waits. */
  put(bytes: Uint8Array): Promise<boolean>
  /** Says that nothing more comes. */
  end(): void
}

export function ringWriter({ state, bytes }: Ring): RingWriter {
  const at = new Int32Array(state)
  const ring = new Uint8Array(bytes)
  const capacity = ring.length
  const isWanted = () => Atomics.load(at, cancelled) === running
  /** Puts in what there is room for. @returns how much that was, and what was taken so far where it was nothing */
  function some(data: Uint8Array): { readonly length: number; readonly tail: number } {
    const [head, tail] = [Atomics.load(at, written), Atomics.load(at, taken)]
    const free = (tail - head - 1 + capacity) % capacity
    const length = Math.min(free, data.length, capacity - head)
    if (length > 0) {
      ring.set(data.subarray(0, length), head)
      Atomics.store(at, written, (head + length) % capacity)
      Atomics.notify(at, written)
    }
    return { length, tail }
  }
  return {
    write(data) {
      for (let done = 0; done < data.length && isWanted();) {
        const { length, tail } = some(data.subarray(done))
        done += length
        if (length === 0) Atomics.wait(at, taken, tail, longestWait)
      }
      return isWanted()
    },
    async put(data) {
      for (let done = 0; done < data.length && isWanted();) {
        const { length, tail } = some(data.subarray(done))
        done += length
        if (length === 0) await changed(at, taken, tail)
      }
      return isWanted()
    },
    end: () => endOf(at),
  }
}

/** The end that bytes are taken out at. */
export interface RingReader {
  /** So many bytes; fewer only at the end. @throws the signal's reason once it aborts */
  take(length: number, signal: AbortSignal): Promise<Uint8Array>
  /** Takes what is there, up to the length of some room, and keeps its thread waiting for it. @returns how much it was: nothing at the end */
  fill(room: Uint8Array): number
  /** Wants nothing more: the writer is told, whatever it waits for. */
  cancel(): void
  /** Says in the writer's stead that nothing more comes, where the writer is gone. */
  end(): void
}

export function ringReader({ state, bytes }: Ring): RingReader {
  const at = new Int32Array(state)
  const ring = new Uint8Array(bytes)
  const capacity = ring.length
  return {
    async take(length, signal) {
      const data = new Uint8Array(length)
      let done = 0
      while (done < length) {
        signal.throwIfAborted()
        // The end is looked at first: what was written before it is still taken.
        const isEnded = Atomics.load(at, ended) !== running
        const [head, tail] = [Atomics.load(at, written), Atomics.load(at, taken)]
        const there = (head - tail + capacity) % capacity
        if (there === 0) {
          if (isEnded) break
          await changed(at, written, head)
          continue
        }
        const part = Math.min(there, length - done, capacity - tail)
        data.set(ring.subarray(tail, tail + part), done)
        done += part
        Atomics.store(at, taken, (tail + part) % capacity)
        Atomics.notify(at, taken)
      }
      return data.subarray(0, done)
    },
    fill(room) {
      for (;;) {
        const isEnded = Atomics.load(at, ended) !== running
        const [head, tail] = [Atomics.load(at, written), Atomics.load(at, taken)]
        const length = Math.min((head - tail + capacity) % capacity, room.length, capacity - tail)
        if (length > 0) {
          room.set(ring.subarray(tail, tail + length))
          Atomics.store(at, taken, (tail + length) % capacity)
          Atomics.notify(at, taken)
          return length
        }
        if (isEnded || Atomics.load(at, cancelled) !== running) return 0
        Atomics.wait(at, written, head, longestWait)
      }
    },
    cancel() {
      Atomics.store(at, cancelled, 1)
      Atomics.notify(at, taken)
    },
    end: () => endOf(at),
  }
}

function endOf(at: Int32Array<SharedArrayBuffer>): void {
  Atomics.store(at, ended, 1)
  Atomics.notify(at, written)
}

/** Waits until a number is another, at most for a while; where the platform cannot wait so, it looks again soon. */
async function changed(at: Int32Array<SharedArrayBuffer>, index: number, from: number): Promise<void> {
  if (typeof Atomics.waitAsync === 'function') await Atomics.waitAsync(at, index, from, longestWait).value
  else await new Promise((turn) => setTimeout(turn, 2))
}
