import { reasonOf } from '../core/words/reason'

/** The names of an error and of what is behind it, as the library and the browser give them. */
function namesOf(error: unknown, depth = 0): string[] {
  if (!error || typeof error !== 'object' || depth > 4) return []
  const { name, inner, cause } = error as { name?: string; inner?: unknown; cause?: unknown }
  return [name ?? '', ...namesOf(inner, depth + 1), ...namesOf(cause, depth + 1)]
}

/**
 * Why something could not be kept, in a sentence with what to do: storage that is full, denied, or closed under the page. What is
 * none of these is told as it came.
 */
export function storageError(error: unknown): string {
  const names = namesOf(error)
  const is = (...known: string[]) => known.some((name) => names.includes(name))
  if (is('QuotaExceededError'))
    return 'The browser’s storage is full. Delete projects that are backed up, or free space on the disk, and try again.'
  if (is('SecurityError', 'MissingAPIError', 'NotAllowedError'))
    return 'This browser does not let the page keep anything: its storage is switched off for it, or the window is private.'
  if (
    is('InvalidStateError', 'DatabaseClosedError', 'UnknownError') &&
    /newer/i.test(String(error)) === false
  )
    return 'The browser has closed its storage. Try again; if that fails, save the project file and load the page anew.'
  return reasonOf(error)
}
