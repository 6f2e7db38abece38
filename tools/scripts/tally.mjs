/** `npm run tally`: the terminal. Its script is made when it is run for the first time, and anew when a source is newer. */
import { ensureTerminal } from './prepare.mjs'

await import(await ensureTerminal())
