import { statSync } from 'node:fs'
import { resolve } from 'node:path'
import { parseArgs } from 'node:util'

/** How the server was asked to run. */
export interface Options {
  /** The folder that is watched; null for the demo's card. */
  readonly siding: string | null
  /** 0 lets the system choose. */
  readonly port: number
  readonly host: string
}

/** What is wrong with the words or the environment, in one sentence for whoever typed them. */
export class WrongOptions extends Error {}

/**
 * Reads the words behind `npm start --` and the environment (PORT, HOST).
 * @throws WrongOptions with a sentence
 */
export function readOptions(args: string[], env: Record<string, string | undefined>): Options {
  const port = env.PORT === undefined || env.PORT === '' ? 4173 : Number(env.PORT)
  if (!Number.isInteger(port) || port < 0 || port > 65_535)
    throw new WrongOptions(`PORT is a whole number from 0 to 65535, not “${env.PORT}”.`)
  return { siding: sidingFrom(args), port, host: env.HOST || '127.0.0.1' }
}

function sidingFrom(args: string[]): string | null {
  const usage = 'Write it as: npm start -- --siding FOLDER'
  let siding: string | undefined
  try {
    siding = parseArgs({ args, options: { siding: { type: 'string' } } }).values.siding
  } catch (error) {
    throw new WrongOptions(`${(error as Error).message.split('. ', 1).join('').replace(/\.$/, '')}. ${usage}`)
  }
  if (siding === undefined) return null
  if (siding.trim() === '') throw new WrongOptions(`--siding wants the name of a folder. ${usage}`)
  const facts = statSync(resolve(siding), { throwIfNoEntry: false })
  if (!facts) throw new WrongOptions(`There is no folder “${siding}”. ${usage}`)
  if (!facts.isDirectory()) throw new WrongOptions(`“${siding}” is no folder. ${usage}`)
  return resolve(siding)
}
