import { counted } from '../src/core/words/figures'

/** How often a line is written for people, and into a file or pipe, in milliseconds. */
const [often, seldom] = [200, 5000]

/**
 * Tells on standard error how many are done: one line that changes at a terminal, a line every five seconds elsewhere where it
 * is asked for (`--progress`).
 */
export function progress(noun: string, asked: boolean) {
  const isTerminal = process.stderr.isTTY === true
  const shows = isTerminal || asked
  let [done, lastAt, written] = [0, Date.now(), false]
  const write = () => {
    const said = `${counted(done, noun)} read`
    process.stderr.write(isTerminal ? `\r${said}` : `${said}\n`)
    written = true
  }
  return {
    step() {
      done++
      if (!shows || Date.now() - lastAt < (isTerminal ? often : seldom)) return
      lastAt = Date.now()
      write()
    },
    end() {
      if (!shows) return
      if (isTerminal && written) process.stderr.write('\r\u001b[K')
      else if (asked) write()
    },
  }
}
