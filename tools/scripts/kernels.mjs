/**
 * `npm run kernels`: compiles the kernels (`NAME.kernel.ts`, AssemblyScript) to WebAssembly with SIMD, as modules of text that every
 * part of the house can import. Nothing of it is committed; `npm ci` runs it, and so does whatever needs it newer.
 */
import { writeFileSync } from 'node:fs'
import { join } from 'node:path'
import asc from 'assemblyscript/asc'
import { kernels, root } from './prepare.mjs'

async function compileKernels() {
  for (const [name, path] of Object.entries(kernels)) {
    const { error, stderr, binary } = await compiled(join(root, `${path}.kernel.ts`))
    if (error) throw new Error(`${name} does not compile: ${stderr}`)
    writeFileSync(
      join(root, `${path}.wasm.ts`),
      `/** Made by tools/scripts/kernels.mjs from ${name}.kernel.ts: a WebAssembly module in base64. */\nexport const ${name}Module = '${Buffer.from(binary).toString('base64')}'\n`,
    )
  }
}

async function compiled(source) {
  let binary = null
  const words = '-O3 --enable simd --runtime stub --outFile out.wasm'.split(' ')
  const { error, stderr } = await asc.main([source, ...words], {
    writeFile: (name, contents) => {
      if (name.endsWith('.wasm')) binary = contents
    },
  })
  return { error, stderr: stderr.toString(), binary }
}

await compileKernels()
