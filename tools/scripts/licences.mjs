/**
 * `npm run licences`: writes docs/licences.md from the lock file. With `--check` it writes nothing, and fails where the file
 * is not what it would write, or where a package has a licence that is not known to go with GPL-3.0-or-later.
 */
import { existsSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { root } from './prepare.mjs'

/** Licences whose code may be given on as part of a work under GPL-3.0-or-later. */
const fitting = new Set(
  `MIT ISC 0BSD BSD-2-Clause BSD-3-Clause Apache-2.0 MPL-2.0 OFL-1.1 GPL-2.0-or-later GPL-3.0-or-later LGPL-2.1-or-later LGPL-2.1 LGPL-3.0
   Zlib CC0-1.0 Unlicense BlueOak-1.0.0 Python-2.0`.split(/\s+/),
)
const { packages } = JSON.parse(readFileSync(join(root, 'package-lock.json'), 'utf8'))
const shipped = Object.entries(packages).flatMap(
  ([place, { version, license, dev, devOptional, optional }]) =>
    place === '' || dev || devOptional || optional
      ? []
      : [
          {
            name: place.slice(place.lastIndexOf('node_modules/') + 13),
            version,
            license: license ?? 'not stated',
          },
        ],
)
/** Of several that hold together each has to fit. */
const fits = (license) =>
  license
    .replace(/[()]/g, '')
    .split(' AND ')
    .every((one) => fitting.has(one))
const unknown = shipped.filter(({ license }) => !fits(license))
const lines = shipped.map(({ name, version, license }) => `| ${name} | ${version} | ${license} |`)
const text = `# Licences

Yard Tally is free software under the GNU General Public License, version 3 or (at your option) any later version: see
[LICENSE](../LICENSE). It ships a media toolkit that is GPL-2.0-or-later; everything else here goes with that.

Written by \`npm run licences\` from the lock file: all that is installed to run it.

| Package | Version | Licence |
|---|---|---|
${[...new Set(lines)].join('\n')}
`
const path = join(root, 'docs', 'licences.md')
for (const { name, license } of unknown)
  console.error(`${name}: its licence (${license}) is not known to go with GPL-3.0-or-later.`)
if (!process.argv.includes('--check')) writeFileSync(path, text)
else if (!existsSync(path) || readFileSync(path, 'utf8') !== text) {
  console.error('docs/licences.md is not what the lock file says: npm run licences')
  process.exit(1)
}
process.exit(unknown.length ? 1 : 0)
