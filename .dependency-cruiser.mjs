/** Which part of the house may import from which. Types count: what needs another’s shapes needs the other. */

/** The layers, from the ground up: each may import from itself and from those before it. */
const layers = ['core', 'media', 'storage', 'workers', 'stores', 'app']

/** The rooms of the core, from the ground up. Rooms of one line are neighbours that do not need each other. */
const rooms = [
  ['rational', 'words', 'kernel', 'card'],
  ['rate'],
  ['picture', 'planes'],
  ['evidence'],
  ['format', 'treatment'],
  ['reading'],
  ['framing', 'motion', 'resample', 'fields', 'sound'],
  ['compose', 'figure'],
  ['toll'],
  ['choice'],
  ['model'],
  ['plan'],
  ['edit'],
  ['stored', 'inspect'],
  ['check'],
  ['dispatch'],
  ['exchange'],
  ['terms'],
  ['laws'],
]

/** What makes and tries the house, and is no part of it. */
const beside = ['test', 'tools']
const tests = '\\.(test|fixture|spec)\\.ts$'

const any = (names) => `(${names.join('|')})`
const below = (name, from, to) => ({
  name,
  severity: 'error',
  from: { path: from, pathNot: tests },
  to: { path: to },
})

export default {
  forbidden: [
    { name: 'no-circle', severity: 'error', from: {}, to: { circular: true } },
    ...layers
      .slice(0, -1)
      .map((layer, i) => below(`${layer}-below`, `^src/${layer}/`, `^src/${any(layers.slice(i + 1))}/`)),
    below('src-alone', '^src/', `^${any(['server', 'cli', ...beside])}/`),
    // The server and the terminal know the core and the media, not the page.
    below('server-cli-without-page', '^(server|cli)/', `^(src/${any(layers.slice(2))}|${any(beside)})/`),
    below('server-alone', '^server/', '^cli/'),
    below('cli-alone', '^cli/', '^server/'),
    ...rooms
      .flatMap((line, i) =>
        line.map((room) => {
          const later = [...line.filter((other) => other !== room), ...rooms.slice(i + 1).flat()]
          return below(`core-${room}-below`, `^src/core/${room}/`, `^src/core/${any(later)}/`)
        }),
      )
      .filter(({ to }) => to.path !== '^src/core/()/'),
    {
      name: 'core-pure',
      severity: 'error',
      comment:
        'The core imports nothing but itself, zod, immer for edits, fft.js and quickselect for measuring, papaparse for tables, dequal for equality.',
      from: { path: '^src/core/', pathNot: tests },
      to: { pathNot: '^src/core/|node_modules/(zod|immer|fft\\.js|quickselect|papaparse|dequal)/' },
    },
  ],
  options: {
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '^(dist|test/fixtures/files|tools/demo/clips|test-results)/|\\.kernel\\.ts$' },
    moduleSystems: ['es6'],
  },
}
