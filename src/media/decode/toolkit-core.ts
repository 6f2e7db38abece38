import createCore, { type Core } from '@ffmpeg/core'
import coreUrl from '@ffmpeg/core?url'
import wasmUrl from '@ffmpeg/core/wasm?url'

/** Compiled once; what jobs leave behind in memory goes with the instance that did them. */
let compiled: Promise<WebAssembly.Module> | null = null

const keptEngine = 'second-engine'
/** The toolkit as it came, kept from the first time it was needed, so that it is there without the server too. */
async function theToolkit(): Promise<Response> {
  if (!('caches' in globalThis)) return fetch(wasmUrl)
  const kept = await caches.open(keptEngine)
  const known = await kept.match(wasmUrl)
  if (known) return known
  const answer = await fetch(wasmUrl)
  if (answer.ok) {
    // One version is enough; where there is no room, it is fetched the next time.
    for (const old of await kept.keys()) await kept.delete(old)
    await kept.put(wasmUrl, answer.clone()).catch(() => undefined)
  }
  return answer
}

/** A fresh instance of the toolkit: an ended job leaves it in a state that nobody vouches for. */
export async function newCore(): Promise<Core> {
  const module = await (compiled ??= WebAssembly.compileStreaming(theToolkit()))
  return createCore({
    // The package reads where its parts are from behind the mark; none is asked for, since the module is given to it.
    mainScriptUrlOrBlob: `${coreUrl}#${btoa(JSON.stringify({ wasmURL: wasmUrl }))}`,
    instantiateWasm(imports, done) {
      void WebAssembly.instantiate(module, imports).then((instance) => done(instance, module))
      return {}
    },
  })
}
