import type { Page } from '@playwright/test'
import { address, expect, press } from './technician.ts'

/** From a short list. */
export const choose = async (page: Page, label: string, option: string): Promise<void> => {
  await page
    .locator('.v-select')
    .filter({ has: page.getByLabel(label, { exact: true }) })
    .first()
    .click()
  await press(page.getByRole('option', { name: option, exact: true }))
}
/** From a long list, by typing. */
export const find = async (page: Page, label: string, option: string): Promise<void> => {
  await page.getByLabel(label, { exact: true }).fill(option)
  await press(page.getByRole('option', { name: option, exact: true }))
}
export const result = (page: Page, label: string) => page.getByRole('row', { name: new RegExp(`^${label}`) })

/** A loop that has nothing but its range; its Set up bench is open. */
export async function newLoop(
  page: Page,
  tag: string,
  type: string,
  urv: string,
  unit: string,
): Promise<void> {
  await page.goto(address('/loops'))
  await page.getByRole('button', { name: 'New loop' }).click()
  for (const [label, text] of [
    ['Tag', tag],
    ['Type', type],
    ['LRV', '0'],
    ['URV', urv],
    ['Unit', unit],
  ] as const)
    await page.getByLabel(label, { exact: true }).fill(text)
  await page.getByRole('button', { name: 'Add the loop' }).click()
  await expect(page.getByRole('heading', { name: tag })).toBeVisible()
  await page.keyboard.press('s')
}
