import type { Locator, Page } from '@playwright/test'
import { address, cell, expect, signIn, test } from './setup/technician.ts'

const hasFocus = (l: Locator) =>
  l
    .first()
    .evaluate((e) => e === document.activeElement || e.contains(document.activeElement), null, {
      timeout: 2_000,
    })
    .catch(() => false)

/** Goes on with the Tab key until the focus stands there: whoever has no mouse has no other way. */
async function tabTo(page: Page, there: Locator): Promise<void> {
  await expect(there.first()).toBeVisible()
  for (let step = 0; step < 120; step++) {
    if (await hasFocus(there)) return
    await page.keyboard.press('Tab')
  }
  throw new Error('The Tab key never came there.')
}
const enter = async (page: Page, there: Locator) => {
  await tabTo(page, there)
  await page.keyboard.press('Enter')
}

test('by keys alone: a quick sum is found, done, and put on a loop', async ({ wren }) => {
  await expect(wren.getByRole('heading', { name: 'Loops', exact: true })).toBeVisible()
  await wren.keyboard.press('/')
  await expect(wren.getByLabel(/^A tag/)).toBeFocused()
  await wren.keyboard.type('loop current says')
  await expect(wren.getByRole('option', { name: /What a loop current says/ })).toBeVisible()
  await wren.keyboard.press('Enter')
  await tabTo(wren, wren.getByLabel('Loop current'))
  await wren.keyboard.press('Control+a')
  await wren.keyboard.type('3,55')
  await expect(wren.getByText(/reports a failure/).first()).toBeVisible()
  await enter(wren, wren.getByRole('button', { name: 'Put on a loop' }))
  await expect(wren.getByRole('combobox', { name: 'Loop', exact: true })).toBeFocused()
  await wren.keyboard.type('lt-404')
  await expect(wren.getByRole('option', { name: /LT-404/ })).toBeVisible()
  await wren.keyboard.press('Enter')
  await tabTo(wren, wren.getByLabel('What it is for, if that should be said'))
  await wren.keyboard.type('Seen while the tank was emptied.')
  await enter(wren, wren.getByRole('button', { name: 'Put it on the loop' }))
  await enter(wren, wren.getByRole('link', { name: 'LT-404' }))
  await expect(wren).toHaveURL(/LT-404\/record/)
  await expect(wren.getByText('Loop current: 3.55 mA.')).toBeVisible()
  await expect(wren.getByText('Seen while the tank was emptied.')).toBeVisible()
  await expect(wren.getByText('Wren (technician)').first()).toBeVisible()
})

test('by keys alone: a verification is begun and its first points are read', async ({ wren }) => {
  await wren.goto(address('/loops/PDT-201/verify'))
  await enter(wren, wren.getByRole('button', { name: 'New verification' }))
  await enter(wren, wren.getByRole('button', { name: 'Begin' }))
  // No instrument: asked once.
  await expect(wren.getByText(/No instrument is chosen/)).toBeVisible()
  await wren.keyboard.press('Enter')
  await tabTo(wren, cell(wren, 'As found', 1, 'Applied'))
  for (const text of ['-15', '-15', '4', '-15', '35', '35', '8.4', '55']) {
    await wren.keyboard.type(text)
    await wren.keyboard.press('Enter')
  }
  await expect(cell(wren, 'As found', 3, 'Applied')).toBeFocused()
  await expect(wren.getByText(/reads .* mbar high/).first()).toBeVisible()
})

test('by keys alone: a range is changed, undone, and kept with its reason', async ({ wren }) => {
  await wren.goto(address('/loops/FT-206/scale'))
  const upper = wren.getByLabel('20 mA point (URV)')
  await tabTo(wren, upper)
  await wren.keyboard.press('Control+a')
  await wren.keyboard.type('60')
  await wren.keyboard.press('Tab')
  await expect(upper).toHaveValue('60')
  await tabTo(wren, wren.getByLabel('Why (goes into the record)'))
  await wren.keyboard.type('Range as on the nameplate')
  await enter(wren, wren.getByRole('button', { name: /^Save/ }))
  await expect(wren.getByText(/Revision \d+ is stored|saved/i).first()).toBeVisible()
  await wren.locator('#work').focus()
  await wren.keyboard.press('r')
  await expect(wren).toHaveURL(/record$/)
  await expect(wren.getByText('Range as on the nameplate').first()).toBeVisible()
})

test('by touch alone: the readings of a verification on an upright tablet', async ({ browser }) => {
  const context = await browser.newContext({
    viewport: { width: 800, height: 1280 },
    hasTouch: true,
    reducedMotion: 'reduce',
  })
  const page = await context.newPage()
  await signIn(page, 'dunlin')
  await page.goto(address('/loops/FT-401/verify'))
  await page.getByRole('button', { name: 'New verification' }).tap()
  await page.getByRole('button', { name: 'Begin' }).tap()
  await expect(page.getByText(/No instrument is chosen/)).toBeVisible()
  await page.getByRole('button', { name: 'Begin' }).tap()
  const now = page.getByRole('region', { name: 'Read now' })
  for (const [column, text] of [
    ['Applied', '0'],
    ['Transmitter', '1'],
    ['Loop', '4.02'],
    ['Controller', '1.1'],
  ] as const) {
    const field = now.getByRole('textbox', { name: new RegExp(`, ${column} in`) })
    await field.tap()
    await page.keyboard.type(text)
  }
  await page.keyboard.press('Enter')
  await expect(now.getByText(/Point 2 of/)).toBeVisible()
  await context.close()
})
