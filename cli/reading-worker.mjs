/** A thread does not take over how the main one reads TypeScript: it is told again, and then reads files. */
import { register } from 'tsx/esm/api'

register()
await import('./reading-worker.ts')
