import type { Page } from '@playwright/test'
import { another, expect, test } from './setup/technician.ts'

test('two people change one loop: what does not clash is joined, what does is asked', async ({
  wren,
  browser,
}) => {
  const heron = await another(browser, 'heron')
  const url = wren.url().replace(/\/loops.*/, '/loops/LT-404/scale')
  await wren.goto(url)
  await heron.goto(url)
  await wren.getByLabel('Remark').fill('mine')
  await wren.getByLabel('Shunt', { exact: true }).fill('249')
  await heron.getByLabel('Remark').fill('theirs')
  await heron.getByRole('button', { name: 'Save revision' }).click()
  await expect(heron.getByText(/revision 3, saved/)).toBeVisible()

  await wren.getByRole('button', { name: 'Save revision' }).click()
  await expect(wren.getByRole('heading', { name: /Heron \(reviewer\) saved revision 3/ })).toBeVisible()
  await expect(wren.getByText('Shunt, Ω: 249 (yours)')).toBeVisible()
  await wren.getByLabel('yours: mine').check()
  await wren.getByRole('button', { name: 'Save the joined version' }).click()
  await expect(wren.getByText(/revision 4, saved/)).toBeVisible()
  // The other window follows by itself.
  await expect(heron.getByText(/revision 4, saved/)).toBeVisible()
  await expect(heron.getByLabel('Remark')).toHaveValue('mine')
  await expect(heron.getByLabel('Shunt', { exact: true })).toHaveValue('249')
})

test('LI-303: nobody has told what it is; two people do, and one of them is right as a whole', async ({
  wren,
  browser,
}) => {
  const heron = await another(browser, 'heron')
  const url = wren.url().replace(/\/loops.*/, '/loops/LI-303/set-up')
  const say = async (page: Page, kind: RegExp) => {
    await page.goto(url)
    await expect(page.getByText('This loop has no kind of meter yet')).toBeVisible()
    await page.locator('.v-select').filter({ hasText: 'This loop is' }).click()
    await page.getByRole('option', { name: kind }).click()
    await page.getByRole('button', { name: 'Begin with the loop’s range' }).click()
    // Usual values alone prove nothing.
    await expect(page.getByText('Nothing is entered yet')).toBeVisible()
  }
  await say(wren, /^Pressure/)
  await wren.getByLabel('Upper limit of the cell').fill('250')
  await expect(wren.getByText('Nothing is entered yet')).toBeHidden()
  await say(heron, /^Temperature/)
  await heron.getByRole('button', { name: 'Save revision' }).click()
  await expect(heron.getByText(/revision 4, saved/)).toBeVisible()

  await wren.getByRole('button', { name: 'Save revision' }).click()
  await expect(wren.getByRole('heading', { name: 'This loop is' })).toBeVisible()
  await wren.getByLabel(/^yours: Pressure/).check()
  await wren.getByRole('button', { name: 'Save the joined version' }).click()
  await expect(wren.getByText(/revision 5, saved/)).toBeVisible()
  await expect(wren.getByLabel('Upper limit of the cell')).toHaveValue('250')
  await expect(heron.getByLabel('Upper limit of the cell')).toHaveValue('250')
})
