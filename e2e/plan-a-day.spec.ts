import { readFileSync } from 'node:fs'
import AxeBuilder from '@axe-core/playwright'
import type { Page } from '@playwright/test'
import { PDFParse } from 'pdf-parse'
import writeXlsxFile from 'write-excel-file/node'
import { address, another, expect, test } from './setup/technician.ts'

/** A Tuesday that no other journey asks for. */
function tuesday(weeks: number): string {
  const d = new Date()
  d.setUTCDate(d.getUTCDate() + ((9 - d.getUTCDay()) % 7) + 7 * weeks)
  return d.toISOString().slice(0, 10)
}
const column = (page: Page, name: string) => page.getByRole('region', { name, exact: true }).first()
const cards = (page: Page, name: string) => column(page, name).locator('.card')
const plan = async (page: Page, day: string) => {
  await page.goto(address(`/today?view=plan&day=${day}`))
  await page.getByRole('button', { name: 'Plan it', exact: true }).click()
  await expect(cards(page, 'Wren (technician)').first()).toBeVisible({ timeout: 30_000 })
}

test('a day is planned, moved, packed; one job cannot be done, the rest is planned anew, handed over, printed', async ({
  wren,
}) => {
  test.setTimeout(240_000)
  const day = tuesday(2)
  await plan(wren, day)
  await expect(wren.getByText(/tries; not proved|Proved: no order/)).toBeVisible()
  await expect(wren.getByRole('list', { name: 'Conflicts' })).toHaveCount(0)
  await expect(
    column(wren, 'Wren (technician)').getByText(/^usually done at \d\d:\d\d, .+ by \d\d:\d\d$/),
  ).toBeVisible()
  // Every job that has no place says why.
  const left = await cards(wren, 'Jobs without a place').count()
  await expect(wren.getByRole('region', { name: 'Why jobs were left' }).getByRole('listitem')).toHaveCount(
    left,
  )

  // Off the plan by a finger, and back by keys.
  const first = cards(wren, 'Dunlin (technician)')
    .filter({ has: wren.locator('.grip') })
    .first()
  const name = (await first.locator('strong').textContent()) ?? ''
  const from = await first.locator('.grip').boundingBox()
  const to = await column(wren, 'Not planned').locator('.cards').boundingBox()
  if (!from || !to) throw new Error('nothing to drag')
  await wren.mouse.move(from.x + 10, from.y + 20)
  await wren.mouse.down()
  await wren.mouse.move(from.x + 60, from.y + 10, { steps: 4 })
  const loose = cards(wren, 'Jobs without a place').filter({ hasText: name })
  // A hand lets go once the card lies there; the list looks for the finger twenty times a second.
  let y = 20
  await expect(async () => {
    await wren.mouse.move(to.x + 60, to.y + (y += 4), { steps: 12 })
    await expect(loose).toHaveCount(1, { timeout: 500 })
  }).toPass()
  await wren.mouse.up()
  await expect(loose).toHaveCount(1)
  await expect(wren.getByText(`${name} There is room for it`)).toBeVisible()
  await loose.locator('.open').focus()
  await wren.keyboard.press('Alt+ArrowLeft')
  await expect(loose).toHaveCount(0)
  await expect(wren.getByRole('list', { name: 'Conflicts' })).toHaveCount(0)

  // Two jobs at once are told, and taken back.
  const own = cards(wren, 'Wren (technician)')
  const second = (await own.nth(1).locator('strong').textContent()) ?? ''
  const when = (await own.nth(0).locator('.time').textContent()) ?? ''
  await own.nth(1).locator('.open').click()
  await wren.getByLabel('Begins').fill(when)
  await wren.getByRole('button', { name: 'Move it' }).click()
  await expect(
    wren
      .getByRole('dialog')
      .getByText(/Two jobs at once|needs time to get to|is not there/)
      .first(),
  ).toBeVisible()
  await wren.getByRole('button', { name: 'Close' }).click()
  await expect(wren.getByRole('list', { name: 'Conflicts' })).toBeVisible()
  await wren.getByRole('button', { name: 'Undo' }).click()
  await expect(wren.getByRole('list', { name: 'Conflicts' })).toHaveCount(0)
  await expect(own.nth(1).locator('strong')).toHaveText(second)
  const { violations } = await new AxeBuilder({ page: wren }).analyze()
  expect(violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.target.join(' ')).join(' | ')}`)).toEqual([])

  // What is packed stays packed.
  await wren.getByRole('button', { name: 'Kit', exact: true }).click()
  const tick = wren.getByRole('region', { name: 'Wren (technician)' }).getByRole('checkbox').first()
  await tick.check()
  await expect(wren.getByText(/^1 of \d+ packed$/)).toBeVisible()
  await wren.reload()
  await expect(wren.getByText(/^1 of \d+ packed$/)).toBeVisible()

  // On the phone: the next job, large; it cannot be done, and says why.
  await wren.setViewportSize({ width: 390, height: 844 })
  await wren.goto(address(`/today?day=${day}`))
  const next = wren.getByRole('region', { name: 'Next' })
  const lost = (await next.getByRole('heading').textContent()) ?? ''
  expect(await wren.evaluate(() => document.documentElement.scrollWidth <= innerWidth)).toBe(true)
  await next.getByRole('button', { name: 'Not possible' }).click()
  await wren.getByLabel('Because').fill('Operations need the line')
  await wren.getByRole('dialog').getByRole('button', { name: 'Not possible' }).click()
  await expect(next.getByRole('heading')).not.toHaveText(lost)
  await wren.setViewportSize({ width: 1280, height: 800 })
  await wren.goto(address(`/today?view=plan&day=${day}`))
  await wren.getByRole('button', { name: 'Plan the rest anew' }).click()
  await expect(cards(wren, 'Wren (technician)').first()).toBeVisible({ timeout: 30_000 })

  await wren.getByRole('button', { name: 'Hand-over' }).click()
  await expect(wren.getByRole('region', { name: 'Stopped or not possible' })).toContainText(
    'Operations need the line',
  )
  await wren.getByLabel('What they have to know').fill('Valve 3 sticks: two hands.')
  await wren.getByRole('button', { name: 'Leave word' }).click()
  await expect(wren.getByText('Valve 3 sticks: two hands.')).toBeVisible()
  const sheet = wren.waitForEvent('download')
  await wren.getByRole('link', { name: 'Day sheet' }).click()
  const { text } = await new PDFParse({
    data: new Uint8Array(readFileSync(await (await sheet).path())),
  }).getText()
  expect(text).toContain('Wren (technician)')
  expect(text).toContain('Permit to work')
  const file = wren.waitForEvent('download')
  await wren.getByRole('link', { name: 'Calendar file' }).click()
  const ics = readFileSync(await (await file).path(), 'utf8')
  // RFC 5545: lines of at most 75 octets, ended by CR LF; each entry with its time, its stamp and its own name.
  for (const line of ics.split('\r\n')) expect(Buffer.byteLength(line)).toBeLessThanOrEqual(75)
  const entries = ics.split('BEGIN:VEVENT').slice(1)
  expect(entries.length).toBeGreaterThan(5)
  for (const e of entries)
    expect(e).toMatch(/UID:[\s\S]*DTSTAMP:\d{8}T\d{6}Z[\s\S]*DTSTART:\d{8}T\d{6}Z[\s\S]*DTEND:/)
  expect(new Set(entries.map((e) => /UID:(.*)/.exec(e)?.[1])).size).toBe(entries.length)
})

test('a job that a procedure does opens at it; ticking it off is left to the record', async ({ wren }) => {
  const day = tuesday(5)
  await wren.goto(address(`/today?view=jobs&day=${day}`))
  await wren.getByRole('button', { name: 'Enter a job' }).click()
  const form = wren.getByRole('dialog')
  const choose = async (label: string, option: string) => {
    await form.locator('.v-input').filter({ hasText: label }).first().click()
    await wren.getByRole('option', { name: option, exact: true }).click()
  }
  await form.getByLabel('What is to be done').fill('Seal of the probe')
  await choose('Loop', 'FT-402')
  await choose('Done is shown by', 'Retract the probe')
  // Another loop cannot do that: what was chosen for the first one is not kept for it.
  await choose('Loop', 'PT-405')
  await expect(form.getByText('Retract the probe')).toHaveCount(0)
  await choose('Loop', 'FT-402')
  await choose('Done is shown by', 'Retract the probe')
  await form.getByRole('button', { name: 'Enter it' }).click()
  await wren.getByRole('button', { name: 'Seal of the probe' }).click()
  await expect(form.getByRole('button', { name: 'Not possible' })).toBeVisible()
  await expect(form.getByRole('button', { name: 'Done', exact: true })).toHaveCount(0)
  await form.getByRole('button', { name: 'Open its bench' }).click()
  await wren.waitForURL(/\/loops\/FT-402\/trim\?procedure=/)
  await expect(wren.getByRole('radio', { name: /^Retract the probe/ })).toBeChecked()
})

test('two who plan the same day: the second is told, sees the other’s plan, and goes on from it', async ({
  wren,
  browser,
}) => {
  test.setTimeout(120_000)
  const heron = await another(browser, 'heron')
  const day = tuesday(3)
  // Enough for both, whatever other days have taken.
  const rows = Array.from({ length: 8 }, (_, i) => `Lamp ${i + 1};400 Utilities;40;5`).join('\n')
  const brought = await wren.request.post(address('/api/today/jobs/import'), {
    data: { text: `Text;Area;Min;Prio\n${rows}` },
  })
  expect(brought.status()).toBe(200)
  await plan(wren, day)
  await heron.goto(address(`/today?view=plan&day=${day}`))
  const card = cards(heron, 'Dunlin (technician)').first().locator('.open')
  await expect(card).toBeVisible()
  // The network is slow for one of them: the news of the other's move has not come yet.
  await heron.route('**/api/today/plan?*', (route) => route.abort())
  await cards(wren, 'Wren (technician)').last().locator('.open').click()
  await wren.getByRole('button', { name: 'Off the plan' }).click()
  await expect(wren.getByText('Moved by Wren (technician)')).toBeVisible()
  await card.click()
  await heron.getByRole('button', { name: 'Stays there' }).click()
  await expect(heron.getByRole('dialog').getByText(/planned these days in the meantime/)).toBeVisible()
  await heron.unroute('**/api/today/plan?*')
  await heron.reload()
  await expect(heron.getByText('Moved by Wren (technician)')).toBeVisible()
  await cards(heron, 'Dunlin (technician)').first().locator('.open').click()
  await heron.getByRole('button', { name: 'Stays there' }).click()
  await expect(heron.getByRole('button', { name: 'Agreed: stays there' })).toBeVisible()
})

test('a spreadsheet of orders becomes jobs; what is no spreadsheet says so', async ({ wren }) => {
  const day = tuesday(4)
  await wren.goto(address(`/today?view=jobs&day=${day}`))
  await wren.getByRole('button', { name: 'From a list' }).click()
  const field = wren.getByRole('button', { name: 'List of jobs (CSV or spreadsheet)', exact: true })
  const mimeType = 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet'
  await field.setInputFiles({ name: 'orders.xlsx', mimeType, buffer: Buffer.from('Order;Text') })
  await expect(wren.getByRole('alert').getByText(/This spreadsheet cannot be read/)).toBeVisible()
  const buffer = await writeXlsxFile(
    [
      ['Orders of the week'],
      ['Work order', 'Text', 'Tag', 'Due date', 'Minutes', 'Procedure'],
      ['90417', 'Sight glass to be cleaned', 'LT-301', '24.11.2026', 25, ''],
      ['90418', 'Loop to be looked at', 'PT-nowhere', '24.11.2026', 25, ''],
    ].map((row) => row.map((value) => ({ value }))),
  ).toBuffer()
  await field.setInputFiles({ name: 'orders.xlsx', mimeType, buffer })
  await expect(wren.getByText('1 entered, 0 were here already.')).toBeVisible()
  await expect(wren.getByText(/^Row 3: .*PT-nowhere/)).toBeVisible()
  await expect(wren.getByRole('row', { name: /Sight glass to be cleaned/ })).toBeVisible()
  await field.setInputFiles({ name: 'again.xlsx', mimeType, buffer })
  await expect(wren.getByText('0 entered, 1 were here already.')).toBeVisible()
})
