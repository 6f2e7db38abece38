import { defineStore } from 'pinia'
import { ref } from 'vue'
import { Workbox } from 'workbox-window'
import { keepCard, keptCard } from '../media/kept-card'
import { useProject } from '../stores/document/project'

/** What is shown now goes before what is kept for another time, in milliseconds. */
const keepAfter = 5000

/** The app without its server: kept in the browser, and new versions offered, never forced. */
export const useOffline = defineStore('offline', () => {
  const project = useProject()
  /** A new version is here and waits; the one that is open goes on. */
  const waits = ref(false)
  /** Another tab took the new version: parts of this one can no longer be loaded. */
  const isOld = ref(false)
  let workbox: Workbox | null = null
  let takes = false

  function start(): void {
    if (!('serviceWorker' in navigator) || !import.meta.env.PROD) return
    workbox = new Workbox('/service-worker.js')
    workbox.addEventListener('waiting', () => (waits.value = true))
    workbox.addEventListener('controlling', ({ isUpdate }) => {
      if (takes) location.reload()
      else if (isUpdate) isOld.value = true
    })
    void workbox.register().then(
      (registration) => {
        // Whoever leaves it open for days is told of a new version too.
        window.setInterval(() => void registration?.update().catch(() => undefined), 3_600_000)
      },
      () => undefined,
    )
  }

  /** Takes the new version: everything is on disk first, then the page loads anew where it is. */
  async function take(): Promise<void> {
    await project.settled()
    takes = true
    if (isOld.value) location.reload()
    else workbox?.messageSkipWaiting()
  }

  let keeping: Promise<unknown> | null = null
  /** Keeps the demo's clips, once they have come in; a page that is left in the midst goes on the next time. */
  function keepDemo(): void {
    if (!('caches' in window)) return
    keeping ??= new Promise((later) => setTimeout(later, keepAfter))
      .then(() => caches.open(keptCard))
      .then((kept) => keepCard(kept, (url) => fetch(url, { cache: 'no-store' })))
      .catch(() => (keeping = null))
  }
  return { waits, isOld, start, take, keepDemo }
})
