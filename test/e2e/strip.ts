import type { Page } from '@playwright/test'

/** The strip of a cut and what stands beside it, as tests take hold of them. */
export const strip = (page: Page) => page.getByRole('group', { name: /The cut to scale/ })
/** The blocks of a clip's picture on the strip, without those of its sound. */
export const block = (page: Page, name: string) =>
  strip(page).getByRole('button', { name: new RegExp(`^${name}[^:]*: (?!sound)`) })
export const docket = (page: Page) => page.getByRole('complementary', { name: 'Docket' })
export const findings = (page: Page) => page.getByRole('list', { name: 'What happens' })
export const way = (page: Page, name: RegExp) => docket(page).getByRole('radio', { name })

/** Takes a placement into hand, wherever the strip stands. */
export async function take(page: Page, name: string) {
  await strip(page).focus()
  if ((await block(page, name).count()) === 0) {
    for (let i = 0; i < 2; i++) await strip(page).press('+')
    await strip(page).press('Home')
  }
  for (let i = 0; i < 40 && (await block(page, name).count()) === 0; i++) await strip(page).press('ArrowDown')
  await block(page, name).first().click()
}
