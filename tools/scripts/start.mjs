/** `npm start`: installs what is missing, builds when needed, serves. Words after `--` go to the server. */
import { spawn } from 'node:child_process'
import { ensureBuilt, ensureInstalled, root } from './prepare.mjs'

ensureInstalled()
ensureBuilt()
const server = spawn(process.execPath, ['--import', 'tsx', 'server/main.ts', ...process.argv.slice(2)], {
  cwd: root,
  stdio: 'inherit',
})
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill(signal))
server.on('exit', (status) => process.exit(status ?? 0))
