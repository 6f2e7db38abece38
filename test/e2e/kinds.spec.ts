import { readFile } from 'node:fs/promises'
import type { Page } from '@playwright/test'
import { dngOf } from '../fixtures/tiff'
import { card, makeFile, proofOf, queue } from './delivering'
import { clipToPlace, cutIn, demoFile, dropFiles, expect, place, row, test } from './line'

/** What editors are handed beside camera clips: numbered pictures with gaps, stills of phones, sound alone, a tape as a stream. */

const fixture = (name: string) => readFile(new URL(`../fixtures/files/${name}`, import.meta.url))

async function emptyProject(page: Page) {
  await page.goto('/')
  await page.getByRole('button', { name: 'Begin…' }).click()
  await page.getByRole('button', { name: 'Begin the project' }).click()
  await page.locator('.arrivals').waitFor()
}

/** Numbered pictures of which 1004 is missing and 1007 is torn, and some without a gap. */
async function plates() {
  const [dpx, exr] = [await fixture('plate_10.dpx'), await fixture('light.exr')]
  const numbers = [1001, 1002, 1003, 1005, 1006, 1007, 1008, 1009, 1010]
  return [
    ...numbers.map((n) => ({
      name: `strike.${n}.dpx`,
      bytes: n === 1007 ? dpx.subarray(0, dpx.length - 900) : dpx,
    })),
    ...[1, 2, 3, 4, 5, 6].map((n) => ({ name: `light.000${n}.exr`, bytes: exr })),
  ]
}

test('numbered pictures are one clip: what is missing is said, the rate is asked, and more of them lengthen it', async ({
  page,
}) => {
  await emptyProject(page)
  await dropFiles(page, '.arrivals', await plates())
  await expect(page.getByRole('heading', { name: /^2 arrived$/ })).toBeVisible()
  const asked = page.getByRole('status').filter({ hasText: 'strike.1001–1010.dpx' })
  await expect(asked).toContainText('8 pictures state no rate, 2 left out; 0.4 s at')
  await asked.getByLabel('Rate of the pictures').fill('24')
  await asked.getByRole('button', { name: 'Set the rate' }).click()
  await expect(row(page, 'strike')).toContainText('24p')
  await row(page, 'strike').click()
  const docket = page.getByRole('complementary', { name: /docket|Docket/ }).last()
  await expect(docket).toContainText('1004 missing; 1007 damaged')
  // What was missing comes, and more behind it.
  const dpx = await fixture('plate_10.dpx')
  await dropFiles(
    page,
    '.arrivals',
    [1004, 1011, 1012].map((n) => ({ name: `strike.${n}.dpx`, bytes: dpx })),
  )
  await expect(row(page, 'strike.1001–1012.dpx')).toContainText('24p')
  await expect(docket).toContainText('1007 damaged: the picture before is shown instead, for 1 frame.')
  await page.getByRole('button', { name: 'undo' }).click()
  await expect(row(page, 'strike.1001–1010.dpx')).toBeVisible()
})

test('raw pictures of a cinema camera are one clip, shown by their preview, and told to be undeveloped', async ({
  page,
}) => {
  await emptyProject(page)
  const frame = Buffer.from(dngOf(await fixture('card.jpg')))
  await dropFiles(
    page,
    '.arrivals',
    [1, 2, 3, 4].map((n) => ({ name: `A012_0000${n}.dng`, bytes: frame })),
  )
  await expect(row(page, 'A012_00001–00004.dng')).toContainText('23.976p')
  await row(page, 'A012').click()
  const docket = page.getByRole('complementary', { name: 'Docket' })
  await expect(docket).toContainText('Raw is not developed here: its preview says nothing of its samples.')
  await expect(docket.getByText('starts at')).toBeVisible()
  await expect(docket.locator('img').first()).toBeVisible()
})

test('a cut of a HEIC, numbered DPX and OpenEXR with a gap, an AIFF, raw DV and an HD clip is rendered and proven', async ({
  page,
}) => {
  test.setTimeout(240_000)
  await emptyProject(page)
  await dropFiles(page, '.arrivals', [
    ...(await plates()),
    { name: 'hall.heic', bytes: await fixture('plate_turned.heic') },
    { name: 'score.aiff', bytes: await fixture('score.aiff') },
    { name: 'tape.dv', bytes: await fixture('tape.dv') },
    { name: 'bell_swing_B011.mp4', bytes: await demoFile('bell_swing_B011.mp4') },
  ])
  await expect(page.getByRole('heading', { name: /^6 arrived$/ })).toBeVisible()
  await cutIn(page, '640x360@24p', ['strike', 'light', 'tape', 'bell_swing', 'score'])
  await expect(clipToPlace(page, 'hall.heic')).toBeVisible()
  await place(page, 'Dispatch')
  await makeFile(page, '640x360@24p', '00:00:01:00', async () => {
    await page.getByLabel('Codec', { exact: true }).selectOption('FFV1')
    await page.getByLabel('Name of the deliverable').fill('All of it')
    await page.getByLabel('Name of the deliverable').press('Enter')
  })
  await expect(queue(page).getByText(/^(made|failed|ended)$/)).toHaveCount(1, { timeout: 200_000 })
  expect(await queue(page).getByRole('alert').allTextContents()).toEqual([])
  await card(page, 'All of it').click()
  const proof = await proofOf(page)
  expect([...proof].filter(([, { holds }]) => holds === 'differs')).toEqual([])
  expect(proof.get('each frame')).toMatchObject({ holds: 'matches' })
})
