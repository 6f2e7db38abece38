import { existsSync, readFileSync, readdirSync } from 'node:fs'
import { dirname, join, resolve } from 'node:path'
import { expect, it } from 'vitest'

const root = join(import.meta.dirname, '..', '..')
const pages = [
  'README.md',
  'CONTRIBUTING.md',
  ...readdirSync(join(root, 'docs'))
    .filter((name) => name.endsWith('.md'))
    .map((name) => join('docs', name)),
]

it.each(pages)('%s leads nowhere that is not there', (page) => {
  const text = readFileSync(join(root, page), 'utf8')
  const links = [...text.matchAll(/\]\(([^)\s]+)\)/g)].map((match) => match[1] ?? '')
  const dead = links
    .filter((link) => !/^(https?:|mailto:|#)/.test(link))
    .filter((link) => !existsSync(resolve(root, dirname(page), link.split('#')[0] ?? '')))
  expect(dead).toEqual([])
})

it('every screenshot is shown in the README, and there are fewer than twenty', () => {
  const text = readFileSync(join(root, 'README.md'), 'utf8')
  const shots = readdirSync(join(root, 'docs', 'screenshots'))
  expect(shots.length).toBeLessThan(20)
  expect(shots.filter((shot) => !text.includes(`docs/screenshots/${shot}`))).toEqual([])
})

it('every script that a page names is there', () => {
  const { scripts } = JSON.parse(readFileSync(join(root, 'package.json'), 'utf8')) as {
    scripts: Record<string, string>
  }
  const named = pages.flatMap((page) =>
    [...readFileSync(join(root, page), 'utf8').matchAll(/npm run (?:--silent )?([a-z0-9]+)/g)].map(
      (match) => match[1] ?? '',
    ),
  )
  expect(named.length).toBeGreaterThan(5)
  expect([...new Set(named)].filter((name) => scripts[name] === undefined)).toEqual([])
})
