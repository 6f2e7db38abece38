import type { Page } from '@playwright/test'
import { card, fileBytes, makeFile, proofOf, queue } from './delivering'
import { begun, place } from './line'
import { expect, test } from './workshop/test'

/** What is made in every codec, and what a proof finds in files that are wrong on purpose. */

const madeLine = (page: Page) => queue(page).getByText('made', { exact: true })
const wrong = (proof: Awaited<ReturnType<typeof proofOf>>) =>
  [...proof].filter(([, { holds }]) => holds === 'differs').map(([what, { found }]) => `${what}: ${found}`)

/** Sets codec, wrapper and profile of the deliverable in hand. */
const as =
  (codec: string, wrapper?: string, profile?: string, more: (page: Page) => Promise<void> = async () => {}) =>
  async (page: Page) => {
    await page.getByLabel('Codec', { exact: true }).selectOption(codec)
    if (wrapper) await page.getByLabel('Wrapper').selectOption(wrapper)
    if (profile) await page.getByLabel('Profile', { exact: true }).selectOption(profile)
    await more(page)
  }
const kinds = [
  ['1024x576@25p', 'H.264 in two passes', 'mp4', as('H.264', 'MP4', 'Main', twice)],
  ['1024x576@25p', 'H.264 of 10 bits', 'mov', as('H.264', 'QuickTime', 'High 4:2:2')],
  ['720x576/64:45@50i', 'H.264 in fields', 'mp4', as('H.264', 'MP4', 'High')],
  ['720x480/8:9@59.94i', 'MPEG-2 in fields', 'mxf', as('MPEG-2', 'MXF')],
  ['720x576/64:45@50i', 'ProRes in fields', 'mov', as('ProRes', 'QuickTime', '422 HQ')],
  ['1024x576@25p', 'ProRes 4444', 'mkv', as('ProRes', 'Matroska', '4444')],
  ['720x576/64:45@50i', 'FFV1 in fields', 'mkv', as('FFV1', 'Matroska', '4:2:0')],
  ['1024x576@25p', 'FFV1 of 10 bits', 'mkv', as('FFV1', 'Matroska', '4:2:2, 10 bit')],
  ['1024x576@25p', 'DNxHR in QuickTime', 'mov', as('DNxHR', 'QuickTime', 'SQ')],
  ['1024x576@25p', 'VP9', 'webm', as('VP9', 'WebM')],
  ['1024x576@25p', 'AV1', 'webm', as('AV1', 'WebM')],
  ['1024x576@25p', 'MPEG-2 alone', 'mov', as('MPEG-2', 'QuickTime', 'Main', loud)],
] as const
async function twice(page: Page) {
  await page.getByLabel('Passes').selectOption('2')
  await page.getByLabel('Timecode and source frame written into the picture').check()
}
async function loud(page: Page) {
  await page.getByLabel('Loudness in LUFS').fill('-30')
  await page.getByLabel('Loudness in LUFS').press('Enter')
  await page.getByLabel('Channels').selectOption('mono')
}

test('every codec that is offered is made, and proven by what was made', async ({ page }) => {
  test.setTimeout(400_000)
  await begun(page, '1024x576@25p', ['bell_swing_B011', 'tower_P100'])
  await place(page, 'Dispatch')
  for (const [format, name, , set] of kinds)
    await makeFile(page, format, '00:00:00:15', async () => {
      await set(page)
      await page.getByLabel('Name of the deliverable').fill(name)
      await page.getByLabel('Name of the deliverable').press('Enter')
    })
  await expect(queue(page).getByText(/^(made|failed|ended)$/)).toHaveCount(kinds.length, { timeout: 360_000 })
  expect.soft(await queue(page).getByRole('alert').allTextContents()).toEqual([])
  for (const [, name] of kinds)
    await test.step(name, async () => {
      await card(page, name).click()
      const proof = await proofOf(page)
      expect.soft(wrong(proof), name).toEqual([])
      for (const what of [
        'wrapper',
        'codec',
        'picture',
        'length',
        'each frame',
        'levels',
        'sound',
        'sound length',
        'loudness',
      ])
        expect.soft(proof.get(what)?.holds, what).toBe('matches')
      if (!/^(VP9|AV1)$/.test(name)) expect.soft(proof.get('starts at')?.holds, name).toBe('matches')
    })
  await card(page, 'MPEG-2 alone').click()
  expect((await proofOf(page)).get('loudness')!.asked).toBe('−30.0 LUFS')
})

/** The whole bell, 25 frames a second, in so many pixels: small enough to be written anew quickly. */
async function rendered(page: Page, format: string, set: (page: Page) => Promise<void>, name: string) {
  await begun(page, format, ['bell_swing_B011', 'hall_wide_A003'])
  await place(page, 'Dispatch')
  await makeFile(page, format, '00:00:02:00', set)
  await expect(madeLine(page)).toBeVisible({ timeout: 120_000 })
  const proof = await proofOf(page)
  expect(wrong(proof)).toEqual([])
  return fileBytes(page, `The-Ninth-Bell_${name}`)
}
/** Holds a file against the deliverable in hand. @returns what of its proof is otherwise */
async function held(page: Page, base64: string, name: string) {
  await page
    .getByLabel('File to hold against it')
    .setInputFiles({ name, mimeType: 'video/mp4', buffer: Buffer.from(base64, 'base64') })
  const proof = page.getByRole('region', { name: 'Proof' })
  await expect(proof.getByRole('heading')).toContainText(name, { timeout: 120_000 })
  return wrong(await proofOf(page))
}
const anew = ['-c:v', 'libx264', '-preset', 'veryfast', '-b:v', '4M', '-c:a', 'copy']
const faults: readonly (readonly [name: string, words: readonly string[], finds: RegExp])[] = [
  ['as it was', [...anew], /^$/],
  [
    'a frame repeated, the last one lost',
    ['-vf', "loop=loop=1:size=1:start=30,select='lt(n,50)'", '-frames:v', '50', ...anew],
    /each frame: \d+ frames are another: frame \d+ is like the frame before it/,
  ],
  [
    'a frame lost, the last one repeated',
    ['-vf', "select='not(eq(n,30))',setpts=N/25/TB,tpad=stop=1:stop_mode=clone", ...anew],
    /each frame: \d+ frames are another: frame \d+ is like the frame after it/,
  ],
  [
    'sound 40 ms late',
    ['-c:v', 'copy', '-af', 'adelay=40|40', '-c:a', 'aac'],
    /sound with picture: late by (39|40|41) ms/,
  ],
  ['levels stretched', ['-vf', "lutyuv=y='clip((val-16)*255/219,0,255)'", ...anew], /levels: times 1\.1\d\d/],
  ['colours of another matrix', ['-vf', 'colormatrix=bt709:bt601', ...anew], /colours: times/],
]

test('what is wrong with a file is found: a frame repeated, one lost, sound late, levels stretched', async ({
  page,
  workshop,
}) => {
  test.setTimeout(400_000)
  const bytes = await rendered(page, '640x360@25p', as('H.264'), '640-360-25p.mp4')
  for (const [name, words, finds] of faults)
    await test.step(name, async () => {
      const changed = await workshop.page.evaluate(
        ([base64, list]) => window.workshop.retouched(base64, 'mp4', list),
        [bytes, words] as const,
      )
      expect.soft((await held(page, changed, `${name}.mp4`)).join('; ')).toMatch(finds)
    })
})

test('fields the wrong way round are found by what is seen, whatever the file says', async ({
  page,
  workshop,
}) => {
  test.setTimeout(200_000)
  const format = '720x576/64:45@50i'
  const bytes = await rendered(page, format, as('MPEG-2', 'QuickTime'), '720-576-64-45-50i.mov')
  const swap = ['-vf', 'il=luma_mode=0:luma_swap=1:chroma_swap=1', '-c:v', 'mpeg2video', '-b:v', '20M']
  const changed = await workshop.page.evaluate(
    ([base64, list]) => window.workshop.retouched(base64, 'mov', list),
    [bytes, [...swap, '-pix_fmt', 'yuv422p', '-flags', '+ilme+ildct', '-top', '1', '-c:a', 'copy']] as const,
  )
  expect((await held(page, changed, 'swapped.mov')).join('; ')).toMatch(/like its fields swapped/)
})

test('colour bars come back as they were: within one code where nothing is lost, within three where something is', async ({
  page,
  workshop,
}) => {
  test.setTimeout(200_000)
  await begun(page, '1920x1080@25p')
  await page.getByRole('button', { name: 'test figure…' }).click()
  await page.getByLabel('Format of the test figure').press('Enter')
  await place(page, 'Dispatch')
  await makeFile(page, '1920x1080@25p', '00:00:00:05', as('FFV1', 'Matroska', '4:4:4'))
  await makeFile(page, '1920x1080@25p', '00:00:00:05', as('H.264', 'MP4', 'High'))
  await expect(madeLine(page)).toHaveCount(2, { timeout: 120_000 })
  /** 75 % bars by ITU-R BT.709: white, yellow, cyan, green, magenta, red, blue, black. */
  const bars = [
    [180, 128, 128],
    [168, 44, 136],
    [145, 147, 44],
    [133, 63, 52],
    [63, 193, 204],
    [51, 109, 212],
    [28, 212, 120],
    [16, 128, 128],
  ] as const
  for (const [ending, name, most] of [
    ['mkv', 'The-Ninth-Bell_1920-1080-25p.mkv', 1],
    ['mp4', 'The-Ninth-Bell_1920-1080-25p-2.mp4', 3],
  ] as const) {
    const file = await fileBytes(page, name)
    const raw = await workshop.page.evaluate(
      ([base64, kind]) => window.workshop.firstFrame(base64, kind, 'yuv444p'),
      [file, ending] as const,
    )
    const planes = Buffer.from(raw, 'base64')
    const off = bars.map((values, n) => {
      const at = 814 * 1920 + 960 + (n - 4) * 72 + 36
      return Math.max(
        ...values.map((value, plane) => Math.abs((planes[plane * 1920 * 1080 + at] as number) - value)),
      )
    })
    expect.soft(Math.max(...off), `${name}: ${off.join(' ')}`).toBeLessThanOrEqual(most)
  }
})
