import { mkdir, mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { begun, demoFile, dropFiles, expect, place, row, saved, test } from './line'
import { stored } from './stored'

/** A second of sound that no other file has: a WAVE file of 8-bit samples. */
function sound(seed: number, samples = 8000): Buffer {
  const head = Buffer.alloc(44)
  head.write('RIFF', 0)
  head.writeUInt32LE(36 + samples, 4)
  head.write('WAVEfmt ', 8)
  head.writeUInt32LE(16, 16)
  head.writeUInt16LE(1, 20)
  head.writeUInt16LE(1, 22)
  head.writeUInt32LE(8000, 24)
  head.writeUInt32LE(8000, 28)
  head.writeUInt16LE(1, 32)
  head.writeUInt16LE(8, 34)
  head.write('data', 36)
  head.writeUInt32LE(samples, 40)
  const body = Buffer.alloc(samples)
  let state = seed
  for (let i = 0; i < samples; i++) body[i] = (state = (state * 1103515245 + 12345) & 0x7fffffff) >> 16
  return Buffer.concat([head, body])
}

test('300 moved clips are found again among 10 000 files, and the five that changed are named', async ({
  page,
}) => {
  test.setTimeout(240_000)
  const [clips, changed, others] = [300, 5, 9700]
  const root = await mkdtemp(join(tmpdir(), 'yard-tally-moved-'))
  try {
    const [card, archive] = [join(root, 'card'), join(root, 'archive')]
    await mkdir(card)
    const name = (i: number) => `strike_${String(i).padStart(3, '0')}.wav`
    for (let i = 0; i < clips; i++) await writeFile(join(card, name(i)), sound(i + 1))
    for (let folder = 0; folder < 50; folder++)
      await mkdir(join(archive, `day_${folder}`), { recursive: true })
    for (let i = 0; i < clips; i++) {
      // The last five hold something else under their names; every tenth of the others is called otherwise.
      const isChanged = i >= clips - changed
      const called = !isChanged && i % 10 === 0 ? `moved_${i}.wav` : name(i)
      await writeFile(join(archive, `day_${i % 50}`, called), sound(isChanged ? 9000 + i : i + 1))
    }
    // Others of every size, one in ten as long as a clip, and so looked at.
    for (let i = 0; i < others; i++)
      await writeFile(
        join(archive, `day_${i % 50}`, `take_${i}.dat`),
        i % 10 ? Buffer.alloc(50 + (i % 400)) : sound(20_000 + i),
      )

    await page.goto('/')
    await page.getByLabel('Name of the new project').fill('Strikes')
    await page.getByRole('button', { name: 'Begin…' }).click()
    await page.getByRole('button', { name: /Begin/ }).last().click()
    await page.getByLabel('Folder to take in').setInputFiles(card)
    await expect(page.getByRole('heading', { name: '300 arrived' })).toBeVisible({ timeout: 60_000 })
    await saved(page)
    await page.reload()
    await expect(page.getByText('300 files are not at hand')).toBeVisible()
    await page.getByRole('button', { name: 'Find them in a folder…' }).click()
    const begin = Date.now()
    await page.getByLabel('Folder to look in').setInputFiles(archive)
    const said = page.getByRole('dialog').getByRole('status')
    await expect(said).toContainText(
      '295 files found again, 30 under another name; 5 changed; 0 not there.',
      { timeout: 60_000 },
    )
    const seconds = Number(/in ([\d.]+) s/.exec(await said.innerText())![1])
    console.log(`found among 10 000 in ${seconds} s, ${(Date.now() - begin) / 1000} s with the picking`)
    expect(seconds).toBeLessThan(20)
    const list = page.getByRole('dialog').getByRole('list', { name: 'Changed files' })
    await expect(list.getByRole('listitem')).toHaveCount(5)
    await expect(list).toContainText(name(clips - 1))
    await list.getByRole('button', { name: 'Put it in the place…' }).first().click()
    await expect(page.getByText('It is not placed: no timeline changes.')).toBeVisible()
    await page.getByRole('button', { name: 'Put it there' }).click()
    await expect(list.getByRole('listitem')).toHaveCount(4)
    await saved(page)
    await page.keyboard.press('Escape')
    await expect(page.getByText('4 files are not at hand')).toBeVisible()
  } finally {
    await rm(root, { recursive: true, force: true })
  }
})

test('a clip takes the place of another: placements stay, what timelines pay is told, and going back shows the old one', async ({
  page,
}) => {
  test.setTimeout(120_000)
  await begun(page, '1920x1080@25p', ['archive_tape', 'bell_swing_B011'])
  await saved(page)
  const [before] = (await stored(page)).timelines
  await place(page, 'Arrivals')
  await row(page, 'bell_swing_B011').first().click()
  const docket = page.getByRole('complementary', { name: 'Docket' })
  await docket.getByRole('button', { name: 'Another in its place…' }).click()
  await page
    .getByRole('list', { name: 'Or a clip that is here' })
    .getByRole('button', { name: 'hall_wide_A003.mp4' })
    .click()
  const sheet = page.getByRole('dialog', { name: /in the place of bell_swing_B011/ }).last()
  await expect(sheet).toContainText('2 placements keep their place, length and treatment')
  await expect(sheet.getByRole('row', { name: /Cut 1920×1080/ })).toContainText('→')
  await sheet.getByRole('button', { name: 'Put it there' }).click()
  await saved(page)
  const [after] = (await stored(page)).timelines
  expect(after!.tracks).toEqual(before!.tracks)
  await expect(row(page, 'bell_swing_B011')).toHaveCount(0)
  await page.keyboard.press('Control+z')
  await expect(row(page, 'bell_swing_B011').first()).toBeVisible()
  // A file from the editor's disk too, with its own bytes.
  await dropFiles(page, '.arrivals', [{ name: 'graded.mp4', bytes: await demoFile('bell_swing_B012.mp4') }])
  await expect(row(page, 'graded').first()).toBeVisible()
})
