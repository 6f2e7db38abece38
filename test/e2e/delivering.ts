import type { Page } from '@playwright/test'

/** Deliverables that are made: what the tests of renders and proofs do alike. */

export const card = (page: Page, name: string) =>
  page
    .getByRole('complementary', { name: 'Deliverables' })
    .getByRole('button', { name: new RegExp(`^${name}`) })
export const queue = (page: Page) => page.getByRole('region', { name: 'Queue' })

/** Adds a deliverable of so many frames, and has it made. */
export async function makeFile(
  page: Page,
  format: string,
  until: string,
  set: (page: Page) => Promise<void> = async () => {},
) {
  const field = page.getByLabel('Format to deliver')
  if (!(await field.isVisible())) await page.getByRole('button', { name: 'New…' }).click()
  await field.fill(format)
  await field.press('Enter')
  await set(page)
  await page.getByLabel('To timecode').fill(until)
  await page.getByLabel('To timecode').press('Enter')
  await page.getByRole('button', { name: 'Make the file' }).click()
}
export const proofOf = async (page: Page) => {
  const rows = await page.getByRole('region', { name: 'Proof' }).getByRole('row').all()
  const cells = await Promise.all(rows.slice(1).map(async (row) => row.getByRole('cell').allTextContents()))
  return new Map(
    cells.map(([what = '', asked = '', found = '', holds = '']) => [what.trim(), { asked, found, holds }]),
  )
}
/** Files of the browser's own storage that were rendered. */
export const files = (page: Page) =>
  page.evaluate(async () => {
    const root = await navigator.storage.getDirectory()
    const folder = await root.getDirectoryHandle('renders').catch(() => null)
    const names: string[] = []
    if (!folder) return names
    for await (const project of (
      folder as unknown as { values(): AsyncIterable<FileSystemDirectoryHandle> }
    ).values())
      for await (const name of (project as unknown as { keys(): AsyncIterable<string> }).keys())
        names.push(name)
    return names.sort()
  })

/** The bytes of a rendered file. */
export const fileBytes = (page: Page, name: string) =>
  page.evaluate(async (wanted) => {
    const root = await navigator.storage.getDirectory()
    const folder = await root.getDirectoryHandle('renders')
    for await (const project of (
      folder as unknown as { values(): AsyncIterable<FileSystemDirectoryHandle> }
    ).values()) {
      const handle = await project.getFileHandle(wanted).catch(() => null)
      if (!handle) continue
      const bytes = new Uint8Array(await (await handle.getFile()).arrayBuffer())
      let text = ''
      for (let i = 0; i < bytes.length; i += 8192) text += String.fromCharCode(...bytes.subarray(i, i + 8192))
      return btoa(text)
    }
    throw new Error(`${wanted} is not there`)
  }, name)
