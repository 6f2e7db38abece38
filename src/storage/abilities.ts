/** What a browser may lack: what it is, and what is done instead. Nothing here asks what the browser is called. */
export interface Lack {
  readonly what: string
  readonly instead: string
}

/** Where abilities are looked for: the page's own world; another in tests. */
export interface World {
  readonly showDirectoryPicker?: unknown
  readonly VideoDecoder?: unknown
  readonly VideoEncoder?: unknown
  readonly caches?: unknown
  readonly crossOriginIsolated?: boolean
  readonly navigator: {
    readonly storage?: { readonly getDirectory?: unknown; readonly persist?: unknown }
    readonly serviceWorker?: unknown
    readonly locks?: unknown
  }
}

/** Whether workers can write files at a place: the page itself is never shown how. */
export function haveHandles(): Promise<boolean> {
  const asks =
    "postMessage(typeof FileSystemFileHandle !== 'undefined' && 'createSyncAccessHandle' in FileSystemFileHandle.prototype)"
  const url = URL.createObjectURL(new Blob([asks], { type: 'text/javascript' }))
  const worker = new Worker(url)
  return new Promise<boolean>((resolve) => {
    worker.onmessage = ({ data }: MessageEvent<boolean>) => resolve(data)
    worker.onerror = () => resolve(false)
  }).finally(() => {
    worker.terminate()
    URL.revokeObjectURL(url)
  })
}

/**
 * Everything that is lacking, in the order in which it is felt.
 * @param hasHandles as `haveHandles` found
 */
export function lackingIn(world: World, hasHandles: boolean): Lack[] {
  const { storage, serviceWorker, locks } = world.navigator
  const checks: readonly (readonly [has: boolean, what: string, instead: string])[] = [
    [
      Boolean(world.VideoDecoder),
      'decoders (WebCodecs)',
      'pictures come from the engine that ships: slower, and playing rarely keeps its rate',
    ],
    [
      Boolean(world.VideoEncoder),
      'encoders (WebCodecs)',
      'files are encoded by the engine that ships: slower, the same formats',
    ],
    [
      Boolean(storage?.getDirectory) && hasHandles,
      'files of its own (OPFS with handles)',
      'nothing can be rendered and no proxies are made; reading, choosing, cutting and handing over work',
    ],
    [
      world.crossOriginIsolated === true,
      'memory that workers share',
      'the second engine cannot stream: clips that need it are not played or rendered',
    ],
    [
      Boolean(world.showDirectoryPicker),
      'files outside of it (File System Access)',
      'files are chosen again after a reload, and what is rendered is downloaded',
    ],
    [
      Boolean(storage?.persist),
      'storage that stays',
      'the browser may clear it when room is short: keep the project file now and then',
    ],
    [
      Boolean(serviceWorker) && Boolean(world.caches),
      'use without the server (service worker)',
      'the server has to run whenever the app is opened',
    ],
    [Boolean(locks), 'locks between tabs', 'keep a project open in one tab only'],
  ]
  return checks.flatMap(([has, what, instead]) => (has ? [] : [{ what, instead }]))
}
