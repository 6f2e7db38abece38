/** The core from a terminal. `tally COMMAND …`; the commands and their JSON are described in the README. */
import { type Command, WrongUse, aligned, print } from './command'

/** Each is loaded when it is run: a batch starts as fast as its own command. */
const commands: Record<string, () => Promise<Command>> = {
  inspect: async () => (await import('./inspect')).inspectCommand,
  rate: async () => (await import('./rate')).rateCommand,
  cadence: async () => (await import('./cadence')).cadenceCommand,
  fit: async () => (await import('./fit')).fitCommand,
  toll: async () => (await import('./toll')).tollCommand,
  choose: async () => (await import('./choose')).chooseCommand,
  propose: async () => (await import('./propose')).proposeCommand,
  evidence: async () => (await import('./evidence')).evidenceCommand,
  carry: async () => (await import('./carry')).carryCommand,
  loudness: async () => (await import('./loudness')).loudnessCommand,
  resample: async () => (await import('./resample')).resampleCommand,
  deinterlace: async () => (await import('./deinterlace')).deinterlaceCommand,
  plan: async () => (await import('./plan')).planCommand,
  edit: async () => (await import('./edit')).editCommand,
  import: async () => (await import('./import')).importCommand,
  new: async () => (await import('./new')).newCommand,
  check: async () => (await import('./check')).checkCommand,
  export: async () => (await import('./export')).exportCommand,
}

const usage = async () =>
  [
    'Usage: tally COMMAND …',
    '',
    ...(await Promise.all(Object.values(commands).map((load) => load()))).map(
      (c) => `  ${c.usage}\n      ${c.summary}`,
    ),
    '',
    'tally COMMAND --help tells the options of one, with an example.',
    'Results go to standard output, progress and messages to standard error.',
    'Exit status: 0 all done, 1 a file could not be read or a check fails, 2 wrong use.',
  ].join('\n')

const help = ({ usage: use, summary, options = [], example }: Command) =>
  [
    `Usage: tally ${use}`,
    '',
    summary,
    ...(options.length ? ['', ...aligned(options.map(([option, what]) => ['  ' + option, what]))] : []),
    '',
    'For example:',
    `  ${example}`,
  ].join('\n')

const commandNamed = async (name: string | undefined): Promise<Command | undefined> =>
  name !== undefined && Object.hasOwn(commands, name) ? commands[name]?.() : undefined

async function main([name, ...args]: string[]): Promise<number> {
  const command = await commandNamed(name)
  const asksHelp = (words: readonly string[]) => {
    const end = words.indexOf('--')
    return words.slice(0, end < 0 ? undefined : end).some((word) => word === '--help' || word === '-h')
  }
  if (name === 'help' || (name !== undefined && asksHelp([name]))) {
    const about = await commandNamed(args[0])
    print(about ? help(about) : await usage())
    return 0
  }
  if (command && asksHelp(args)) {
    print(help(command))
    return 0
  }
  try {
    if (!command) throw new WrongUse(name ? `There is no command “${name}”.` : 'A command is needed.')
    return await command.run(args)
  } catch (error) {
    const misused =
      error instanceof WrongUse || (error as { code?: string }).code?.startsWith('ERR_PARSE_ARGS')
    if (!misused) throw error
    process.stderr.write(
      `${(error as Error).message}\n\n${command ? `Usage: tally ${command.usage}` : await usage()}\n`,
    )
    return 2
  }
}

// A reader that closes the pipe early (`| head`) ends the work quietly.
process.stdout.on('error', (error: NodeJS.ErrnoException) => process.exit(error.code === 'EPIPE' ? 0 : 1))
process.exitCode = await main(process.argv.slice(2))
