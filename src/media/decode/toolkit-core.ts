import createCore, { type Core } from '@ffmpeg/core'
import coreUrl from '@ffmpeg/core?url'
import wasmUrl from '@ffmpeg/core/wasm?url'

/** Compiled once; what jobs leave behind in memory goes with the instance that did them. */
let compiled: Promise<WebAssembly.Module> | null = null

/** A fresh instance of the toolkit: an ended job leaves it in a state that nobody vouches for. */
export async function newCore(): Promise<Core> {
  const module = await (compiled ??= WebAssembly.compileStreaming(fetch(wasmUrl)))
  return createCore({
    // The package reads where its parts are from behind the mark; none is asked for, since the module is given to it.
    mainScriptUrlOrBlob: `${coreUrl}#${btoa(JSON.stringify({ wasmURL: wasmUrl }))}`,
    instantiateWasm(imports, done) {
      void WebAssembly.instantiate(module, imports).then((instance) => done(instance, module))
      return {}
    },
  })
}
