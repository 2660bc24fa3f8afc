import AxeBuilder from '@axe-core/playwright'
import type { Page } from '@playwright/test'
import { PDFParse } from 'pdf-parse'
import { address, another, expect, press, test } from './setup/technician.ts'
import { like } from './setup/own-loop.ts'

const point = (page: Page, name: string) =>
  page.getByRole('listitem').filter({ has: page.getByText(name, { exact: true }) })
const fill = (page: Page, label: string, value: string) =>
  page.getByRole('textbox', { name: label, exact: true }).fill(value)
const choose = async (page: Page, label: string, option: string) => {
  await page.locator('.v-select, .v-autocomplete').filter({ hasText: label }).first().click()
  await press(page.getByRole('option', { name: option, exact: true }))
}
async function tried(page: Page, at: number, signal: number): Promise<void> {
  await fill(page, 'Stands at', String(at))
  await fill(page, 'Signal', String(signal))
  await page.getByRole('button', { name: 'Add the try' }).click()
  await expect(page.getByRole('list', { name: 'Tries' })).toContainText(`${at} mm`)
}
async function begin(page: Page, title: string): Promise<void> {
  await page.goto(address('/surveys'))
  await page.getByRole('button', { name: 'New survey' }).click()
  await page.getByLabel('What is surveyed').fill(title)
  await page.getByRole('button', { name: 'Begin' }).click()
  await expect(page.getByRole('heading', { name: title })).toBeVisible()
}
async function measure(page: Page, tag: string): Promise<void> {
  await page.getByRole('combobox', { name: 'Next site is on' }).fill(tag)
  await press(page.getByRole('option', { name: new RegExp(tag) }))
  await page.getByRole('button', { name: 'Measure it' }).click()
  await expect(page.getByText('no position was tried')).toBeVisible()
}

test('a site is measured with a portable meter: moved to where it hears best, judged, kept, printed', async ({
  wren,
}) => {
  test.setTimeout(150_000)
  await like(wren, 'FT-958', 'FT-206')
  await begin(wren, 'Permeate lines')
  await measure(wren, 'FT-958')
  // Nothing of the usual 12 inch pipe is taken for what is there.
  await expect(point(wren, 'Pipe')).toContainText('nobody entered size, schedule')
  await fill(wren, 'Name of the site in the device', 'PERM 1')
  await choose(wren, 'Pipe is known by', 'outside diameter and wall')
  await fill(wren, 'Outside diameter', '168.3')
  await fill(wren, 'Wall', '7.11')
  await expect(point(wren, 'Pipe')).toContainText('nobody entered pipe material, liner')
  await fill(wren, 'Temperature', '16')
  await fill(wren, 'Straight upstream', '14')
  await fill(wren, 'Straight downstream', '6')
  await wren.getByRole('button', { name: 'Take one of the stock' }).click()
  await wren.getByRole('button', { name: 'Take P120A / P120B' }).click()
  await expect(point(wren, 'Sensors')).toContainText('P120A and P120B')
  // What stands there by itself is confirmed by name, not by silence.
  await wren.getByText(/Rests on \d assumptions/).click()
  await wren.getByRole('button', { name: /Confirm all/ }).click()
  await expect(point(wren, 'Pipe')).toContainText('bore 154.08 mm')

  const says = await wren.getByText(/^Calculated: /).textContent()
  const at = Math.round(Number(/Calculated: ([\d.]+)/.exec(says ?? '')?.[1]))
  await tried(wren, at - 15, 60)
  await tried(wren, at - 5, 72)
  await tried(wren, at + 5, 80)
  await expect(wren.getByText(`Go to ${at + 15} mm.`)).toBeVisible()
  await tried(wren, at + 15, 74)
  await expect(point(wren, 'Position')).toContainText('put it back')
  await tried(wren, at + 5, 81)
  await expect(point(wren, 'Position')).toContainText('the best of 5 tries')
  // A speed of sound of another liquid: the likely cause is named.
  await fill(wren, 'Sound speed shown', '1320')
  await expect(point(wren, 'Speed of sound')).toContainText('too low')
  await fill(wren, 'Sound speed shown', '1470')
  await expect(point(wren, 'Speed of sound')).toContainText('believable')
  await expect(wren.getByText('Not judged: log.', { exact: true })).toBeVisible()

  await wren.locator('input[type=file]').setInputFiles({
    name: 'pipe.png',
    mimeType: 'image/png',
    buffer: await wren.screenshot({ clip: { x: 0, y: 0, width: 300, height: 200 } }),
  })
  const added = wren.getByRole('list', { name: 'Pictures that are added' }).getByRole('img')
  await expect(added).toHaveCount(1)

  // A closed lid: what was typed is there again, and the photograph.
  await wren.reload()
  await expect(point(wren, 'Position')).toContainText('the best of 5 tries')
  await expect(added).toHaveCount(1)
  expect((await new AxeBuilder({ page: wren }).analyze()).violations).toEqual([])
  await wren.getByRole('button', { name: 'Keep the site' }).click()
  await expect(wren.getByRole('row', { name: /PERM 1/ })).toContainText('not judged')
  expect((await new AxeBuilder({ page: wren }).analyze()).violations).toEqual([])

  const [download] = await Promise.all([
    wren.waitForEvent('download'),
    wren.getByRole('link', { name: 'Report as PDF' }).click(),
  ])
  const { text } = await new PDFParse({ url: await download.path() }).getText()
  expect(text).toContain('Permeate lines')
  expect(text).toContain('the best of 5 tries')
  expect(text).toContain('nothing recorded')
  // What was sent is kept there, and waits no more.
  await wren.getByRole('link', { name: 'PERM 1' }).click()
  await expect(wren.getByRole('list', { name: 'Pictures of this site' }).locator('img')).toHaveCount(1)
  await expect(added).toHaveCount(0)
  await wren.goto(address('/loops/FT-958/record'))
  await expect(wren.getByText(/PERM 1 in “Permeate lines”/)).toBeVisible()
})

test('a pipe without a loop gets one on the way, and is measured', async ({ wren }) => {
  await begin(wren, 'Loads of the cooling water')
  await wren.getByRole('link', { name: 'A pipe without a loop' }).click()
  await expect(wren.getByRole('heading', { name: 'A loop for this pipe' })).toBeVisible()
  const add = wren.getByRole('button', { name: 'Add it and measure' })
  await add.click()
  await expect(wren.getByRole('dialog').getByRole('alert').first()).toBeVisible()
  await fill(wren, 'Tag', 'FT-962')
  await fill(wren, 'Service', 'Cooling water to the chiller')
  await fill(wren, 'LRV', '0')
  await fill(wren, 'URV', '120')
  await fill(wren, 'Unit', 'm3/h')
  await press(add)
  await expect(wren).toHaveURL(/\/surveys\/[0-9a-f-]+\/FT-962\//)
  await expect(wren.getByText('no position was tried')).toBeVisible()
  await fill(wren, 'Name of the site in the device', 'COOL 1')
  await wren.getByRole('button', { name: 'Keep the site' }).click()
  await expect(wren.getByRole('row', { name: /COOL 1/ })).toContainText('FT-962')
})

test('two on one site: the second is told and loses nothing; a phone shows entries first', async ({
  wren,
  browser,
}) => {
  await like(wren, 'FT-959', 'FT-206')
  await begin(wren, 'Feed lines')
  await measure(wren, 'FT-959')
  const enter = async (page: Page, name: string) => {
    await fill(page, 'Name of the site in the device', name)
  }
  await enter(wren, 'FEED 1')
  await wren.getByRole('button', { name: 'Keep the site' }).click()
  const link = wren.getByRole('link', { name: 'FEED 1' })
  await expect(link).toBeVisible()
  const path = (await link.getAttribute('href')) ?? ''
  const dunlin = await another(browser, 'dunlin')
  await dunlin.setViewportSize({ width: 390, height: 844 })
  for (const page of [wren, dunlin]) await page.goto(address(path))
  await expect(dunlin.getByRole('textbox', { name: 'Name of the site in the device' })).toHaveValue('FEED 1')
  await enter(dunlin, 'FEED X')
  await enter(wren, 'FEED 2')
  await wren.getByRole('button', { name: 'Keep the site' }).click()
  await expect(wren.getByRole('link', { name: 'FEED 2' })).toBeVisible()
  await expect(dunlin.getByText(/Wren .* kept this site since you began/)).toBeVisible()
  await dunlin.getByRole('button', { name: 'Keep mine after it' }).click()
  await dunlin.getByRole('button', { name: 'Keep the site' }).click()
  await expect(dunlin.getByRole('link', { name: 'FEED X' })).toBeVisible()
  const wide = await dunlin.evaluate(() => document.documentElement.scrollWidth)
  expect(wide).toBeLessThanOrEqual(390)
  await dunlin.context().close()
})
