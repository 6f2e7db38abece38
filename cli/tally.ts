/** The core from a terminal. `tally COMMAND …`; the commands and their JSON are described in the README. */
import { carryCommand } from './carry'
import { deinterlaceCommand } from './deinterlace'
import { evidenceCommand } from './evidence'
import { exportCommand } from './export'
import { cadenceCommand } from './cadence'
import { chooseCommand } from './choose'
import { fitCommand } from './fit'
import { inspectCommand } from './inspect'
import { loudnessCommand } from './loudness'
import { planCommand } from './plan'
import { rateCommand } from './rate'
import { resampleCommand } from './resample'
import { tollCommand } from './toll'
import { type Command, WrongUse } from './command'

const commands: Record<string, Command> = {
  inspect: inspectCommand,
  rate: rateCommand,
  cadence: cadenceCommand,
  fit: fitCommand,
  toll: tollCommand,
  choose: chooseCommand,
  carry: carryCommand,
  plan: planCommand,
  evidence: evidenceCommand,
  loudness: loudnessCommand,
  export: exportCommand,
  resample: resampleCommand,
  deinterlace: deinterlaceCommand,
}

const usage = () =>
  [
    'Usage: tally COMMAND …',
    '',
    ...Object.values(commands).map((c) => `  ${c.usage}\n      ${c.summary}`),
  ].join('\n')

async function main([name, ...args]: string[]): Promise<number> {
  const command = name !== undefined && Object.hasOwn(commands, name) ? commands[name] : undefined
  try {
    if (!command) throw new WrongUse(name ? `There is no command “${name}”.` : 'A command is needed.')
    return await command.run(args)
  } catch (error) {
    const misused =
      error instanceof WrongUse || (error as { code?: string }).code?.startsWith('ERR_PARSE_ARGS')
    if (!misused) throw error
    process.stderr.write(
      `${(error as Error).message}\n\n${command ? `Usage: tally ${command.usage}` : usage()}\n`,
    )
    return 2
  }
}

// A reader that closes the pipe early (`| head`) ends the work quietly.
process.stdout.on('error', (error: NodeJS.ErrnoException) => process.exit(error.code === 'EPIPE' ? 0 : 1))
process.exitCode = await main(process.argv.slice(2))
