/** The part of the packages that is used here. */
declare module '@ffmpeg/core' {
  interface Device {
    open(stream: DeviceStream): void
    close(stream: DeviceStream): void
    write?: Transfer
    read?: Transfer
    llseek?(stream: DeviceStream, offset: number, whence: number): number
  }
  /** Moves bytes between a device and the memory of the toolkit. @returns how many */
  type Transfer = (
    stream: DeviceStream,
    heap: Uint8Array | Int8Array,
    offset: number,
    length: number,
    position: number,
  ) => number
  interface DeviceStream {
    position: number
  }
  interface FileSystem {
    readonly filesystems: { readonly WORKERFS: unknown }
    readonly ErrnoError: new (code: number) => Error
    makedev(major: number, minor: number): number
    registerDevice(device: number, operations: Device): void
    mkdev(path: string, device: number): void
    mkdir(path: string): void
    readdir(path: string): string[]
    readFile(path: string): Uint8Array
    writeFile(path: string, bytes: Uint8Array): void
    mount(type: unknown, options: { files: readonly unknown[] }, at: string): void
  }
  export interface Core {
    readonly FS: FileSystem
    setLogger(logger: (line: { type: string; message: string }) => void): void
    exec(...args: string[]): number
  }
  export default function createCore(options: {
    mainScriptUrlOrBlob: string
    instantiateWasm(
      imports: WebAssembly.Imports,
      done: (instance: WebAssembly.Instance, module: WebAssembly.Module) => void,
    ): object
  }): Promise<Core>
}
declare module '@ffmpeg/core?url' {
  const url: string
  export default url
}
declare module '@ffmpeg/core/wasm?url' {
  const url: string
  export default url
}
