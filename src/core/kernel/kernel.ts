/** What every compiled kernel gives. */
export interface KernelExports {
  readonly memory: WebAssembly.Memory
}

/** Values that can be laid into a kernel's memory. */
export type KernelBuffer = Uint8Array | Uint16Array | Int16Array | Int32Array

const page = 65_536
/** The beginning of memory is left to the module. */
export const memoryStart = 1024
/** Beyond what is laid a kernel may read and write so many bytes: its vectors need no code for ends. */
const beyond = 64

/** A kernel of a module in base64, as `tools/scripts/kernels.mjs` makes it. */
export function loadKernel<Of extends KernelExports>(base64: string): Of {
  const bytes = Uint8Array.from(atob(base64), (char) => char.charCodeAt(0))
  const module = new WebAssembly.Module(bytes)
  return new WebAssembly.Instance(module, { env: { abort: () => {} } }).exports as unknown as Of
}

/** Makes memory reach so far, in bytes. */
export function reach(memory: WebAssembly.Memory, bytes: number): void {
  const missing = bytes - memory.buffer.byteLength
  if (missing > 0) memory.grow(Math.ceil(missing / page))
}

/** The bytes of values. */
export const bytesOf = ({ buffer, byteOffset, byteLength }: KernelBuffer): Uint8Array =>
  new Uint8Array(buffer, byteOffset, byteLength)

/**
 * Lays pieces into memory one behind the other, each at a whole vector: values, or room for so many bytes.
 * @returns where each stands
 */
export function layOut(memory: WebAssembly.Memory, ...pieces: readonly (KernelBuffer | number)[]): number[] {
  let at = memoryStart
  const places = pieces.map((piece) => {
    const from = at
    at += Math.ceil(((typeof piece === 'number' ? piece : piece.byteLength) + beyond) / 16) * 16
    return from
  })
  reach(memory, at)
  pieces.forEach((piece, i) => {
    if (typeof piece !== 'number')
      new Uint8Array(memory.buffer, places[i], piece.byteLength).set(bytesOf(piece))
  })
  return places
}
