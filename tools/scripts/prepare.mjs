/** What start and test need before they can run: packages, a build, a browser. Plain Node, since nothing is installed yet. */
import { spawn, spawnSync } from 'node:child_process'
import { existsSync, mkdirSync, readdirSync, renameSync, statSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'

/** The kernels in AssemblyScript: `NAME.kernel.ts` beside the reference that it equals, made into `NAME.wasm.ts`. */
export const kernels = {
  pair: 'src/core/evidence/pair',
  lines: 'src/core/evidence/lines',
  resample: 'src/core/resample/resample',
  fields: 'src/core/fields/fields',
}
export const root = join(import.meta.dirname, '..', '..')
export const chromium = process.env.CHROMIUM ?? '/usr/bin/chromium'

/** Runs a command with its output shown; ends the whole program where it fails, unless told to go on. */
export function run(command, args, { mayFail = false, ...options } = {}) {
  const { status, error } = spawnSync(command, args, { cwd: root, stdio: 'inherit', ...options })
  if (error) throw error
  if (status !== 0 && !mayFail) process.exit(status ?? 1)
  return status ?? 1
}

/** Runs a command beside others; its output is shown when it has ended. @returns its exit status */
export const runBeside = (command, args) =>
  new Promise((ended, failed) => {
    const child = spawn(command, args, { cwd: root, stdio: ['ignore', 'pipe', 'pipe'] })
    const printed = []
    for (const stream of [child.stdout, child.stderr]) stream.on('data', (bytes) => printed.push(bytes))
    child.on('error', failed)
    child.on('close', (status) => {
      process.stdout.write(Buffer.concat(printed))
      ended(status ?? 1)
    })
  })

const modified = (path) => (existsSync(path) ? statSync(path).mtimeMs : 0)

function newestIn(path) {
  if (!existsSync(path)) return 0
  if (!statSync(path).isDirectory()) return modified(path)
  return Math.max(modified(path), ...readdirSync(path).map((name) => newestIn(join(path, name))))
}

/** Installs the packages of the lock file where they are missing or older than it. */
export function ensureInstalled() {
  const installed = join(root, 'node_modules', '.package-lock.json')
  if (modified(installed) >= modified(join(root, 'package-lock.json'))) return
  console.log('Installing packages …')
  run('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'])
}

/** Compiles the kernels where they are missing or older than their sources. */
export function ensureKernels() {
  const script = join(root, 'tools', 'scripts', 'kernels.mjs')
  const times = (end) => Object.values(kernels).map((path) => modified(join(root, path + end)))
  if (Math.min(...times('.wasm.ts')) > Math.max(...times('.kernel.ts'), modified(script))) return
  run(process.execPath, [script])
}

/** Builds the app where no build is there or a source is newer. */
export function ensureBuilt() {
  ensureKernels()
  const sources = ['src', 'public', 'index.html', 'vite.config.ts', 'package-lock.json'].map((name) =>
    newestIn(join(root, name)),
  )
  if (modified(join(root, 'dist', 'index.html')) > Math.max(...sources)) return
  console.log('Building …')
  run(process.execPath, [join(root, 'node_modules', 'vite', 'bin', 'vite.js'), 'build', '--logLevel', 'warn'])
}

/**
 * Makes the terminal, and its worker, one script each where they are missing or a source is newer: they start in a third of the
 * time that module after module takes. @returns the path of the terminal's script
 */
export async function ensureTerminal() {
  const made = join(root, '.cache', 'terminal', 'tally.js')
  const sources = ['cli', 'server', 'src', 'package-lock.json'].map((name) => newestIn(join(root, name)))
  if (modified(made) > Math.max(...sources)) return made
  const { build } = await import('esbuild')
  const { outputFiles } = await build({
    entryPoints: ['reading-worker', 'tally'].map((name) => join(root, 'cli', `${name}.ts`)),
    outdir: dirname(made),
    bundle: true,
    platform: 'node',
    format: 'esm',
    write: false,
  })
  mkdirSync(dirname(made), { recursive: true })
  // Each appears at once and whole, the terminal last: another one may be starting.
  for (const { path, contents } of outputFiles.sort((a, b) => (a.path < b.path ? -1 : 1))) {
    writeFileSync(`${path}.${process.pid}`, contents)
    renameSync(`${path}.${process.pid}`, path)
  }
  return made
}

/** Installs Debian's Chromium for the browser tests where there is none. */
export function ensureChromium() {
  if (existsSync(chromium)) return
  console.log('Installing Chromium from the Debian packages …')
  const sudo = process.getuid?.() === 0 ? [] : ['sudo']
  const apt = (...args) => {
    const [command, ...rest] = [...sudo, 'apt-get', ...args]
    run(command, rest, { env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' } })
  }
  apt('update', '-qq')
  apt('install', '-y', '-qq', '--no-install-recommends', 'chromium')
}
