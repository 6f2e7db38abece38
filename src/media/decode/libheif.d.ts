/** The part of the package that is used here. */
declare module 'libheif-js/libheif-wasm/libheif-bundle.mjs' {
  interface HeifImage {
    get_width(): number
    get_height(): number
    is_primary(): boolean
    display(into: ImageData, done: (shown: ImageData | null) => void): void
    free(): void
  }
  export default function start(): {
    readonly HeifDecoder: new () => { decode(bytes: Uint8Array): HeifImage[] }
  }
}
