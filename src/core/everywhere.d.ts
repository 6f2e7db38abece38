/** What pages, workers and Node have alike beyond the language: all that the core may take of the world outside. */

declare function structuredClone<T>(value: T): T
declare function atob(data: string): string

declare class TextDecoder {
  constructor(label?: string, options?: { readonly fatal?: boolean; readonly ignoreBOM?: boolean })
  decode(input?: ArrayBuffer | ArrayBufferView): string
}

interface AbortSignal {
  readonly aborted: boolean
  readonly reason: unknown
  throwIfAborted(): void
}

declare namespace WebAssembly {
  class Memory {
    constructor(descriptor: { readonly initial: number; readonly maximum?: number })
    readonly buffer: ArrayBuffer
    grow(pages: number): number
  }
  class Module {
    constructor(bytes: ArrayBuffer | ArrayBufferView)
  }
  class Instance {
    constructor(module: Module, imports?: Record<string, unknown>)
    readonly exports: Record<string, unknown>
  }
}
