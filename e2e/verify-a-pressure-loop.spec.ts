import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { PDFParse } from 'pdf-parse'
import { address, another, cell, expect, signRecord, test } from './setup/technician.ts'

const demo = (file: string) => join(import.meta.dirname, '../demo', file)

test('from the plant’s list to a countersigned certificate of PT-202', async ({ wren, browser }) => {
  // The list the plant has: known rows are left alone, bad ones are named and kept.
  await wren.getByRole('link', { name: 'Import list' }).click()
  await wren.getByLabel('Loop list (CSV or xlsx)').setInputFiles(demo('loop-list.csv'))
  await expect(wren.getByText(/\d+ the same · 5 to correct/)).toBeVisible()
  await expect(wren.getByText('“2025-13-05” is not a date of the calendar')).toBeVisible()
  await wren.getByRole('button', { name: 'Keep 5 rows to correct' }).dblclick()
  await expect(wren.getByRole('status').filter({ hasText: 'Imported.' })).toContainText('0 loops added')

  // Open the loop by the search key.
  await wren.keyboard.press('l')
  await expect(wren).toHaveURL(/\/loops$/)
  await wren.getByLabel('Find a loop').fill('feed pressure')
  await wren.getByRole('link', { name: /PT-202/ }).click()
  await expect(wren.getByRole('heading', { name: 'PT-202' })).toBeVisible()
  await wren.keyboard.press('v')

  await wren.getByRole('button', { name: 'New verification' }).click()
  await wren.locator('.v-select').filter({ hasText: 'Instruments' }).click()
  await wren.getByRole('option', { name: /Pressure calibrator, 100 bar/ }).click()
  // What is applied alone claims nothing: the current is read as well.
  await expect(wren.getByText('No instrument was chosen for the loop current (mA).')).toBeVisible()
  await expect(wren.getByText(/No uncertainty is claimed while something is missing/)).toBeVisible()
  await wren.getByRole('option', { name: /Loop calibrator/ }).click()
  await wren.keyboard.press('Escape')
  await wren.getByRole('button', { name: 'Begin' }).click()

  await wren.getByRole('button', { name: 'Import readings' }).click()
  await wren.locator('input[type=file]').setInputFiles(demo('readings-PT-202.csv'))
  await wren.getByRole('button', { name: 'Take these readings' }).click()
  // The pressure calibrator's ±0.012 bar with drift and step over 85 bar, and 0.002 mA of the loop calibrator.
  const sentence =
    'Out of tolerance as found: reads 0.22 bar g high at 85 bar g rising, +0.26 % of span. Tolerance is ±0.20 %, known to ±0.022 %.'
  await expect(wren.getByText(sentence)).toBeVisible()
  await wren.getByRole('button', { name: 'Close as found' }).click()
  await wren.getByLabel('What was adjusted').fill('lower and upper sensor trim')
  await wren.getByRole('button', { name: 'Record and read as left' }).click()

  // As left typed at the keyboard, Enter going on; commas and another unit are taken.
  const asLeft: [string, string, string, string][] = [
    ['0', '0,01', '4.001', '0.01'],
    ['21,25', '21.26', '8.002', '21.26'],
    ['42.5', '42.51', '12.001', '4251 kPa'],
    ['63.75', '63.76', '16.003', '63.76'],
    ['85', '85.02', '20.003', '85.02'],
    ['63.75', '63.77', '16.003', '63.77'],
    ['42.5', '42.52', '12.003', '42.52'],
    ['21.25', '21.26', '8.002', '21.26'],
    ['0', '0.01', '4.002', '0.01'],
  ]
  await cell(wren, 'As left', 1, 'Applied').click()
  for (const text of asLeft.flat()) {
    await wren.keyboard.type(text)
    await wren.keyboard.press('Enter')
  }
  await expect(wren.getByText('typed 4251 kPa')).toBeVisible()
  await expect(cell(wren, 'As left', 3, 'Controller')).toHaveValue('42.51')
  await expect(wren.getByText(/^In tolerance as left: reads 0.02 bar g high/)).toBeVisible()
  await wren.getByRole('button', { name: 'Close as left' }).click()
  // What is signed is looked through in the same dialog: readings, verdict, instruments.
  await wren.getByRole('button', { name: 'Look it through and sign' }).click()
  const signed = wren.getByLabel('What you sign')
  await expect(signed.getByText(sentence)).toBeVisible()
  await expect(signed.getByText(/^In tolerance as left/)).toBeVisible()
  await expect(signed.getByText(/Pressure calibrator, 100 bar.*certificate/)).toBeVisible()
  await wren.getByRole('button', { name: 'Not now' }).click()
  await signRecord(wren)
  await expect(wren.getByText('Signed. A reviewer countersigns.')).toBeVisible()

  // The technician cannot review; another person can, at another screen, which hears of it by itself.
  await expect(wren.getByRole('button', { name: /countersign/ })).toHaveCount(0)
  const heron = await another(browser, 'heron')
  await heron.goto(new URL('/today?view=sign', wren.url()).href)
  await heron
    .getByRole('link', { name: /PT-202.*waits for a second person/ })
    .first()
    .click()
  await signRecord(heron, 'countersign')
  await expect(wren.getByText('The record is complete.')).toBeVisible()

  const download = wren.waitForEvent('download')
  await wren.getByRole('link', { name: 'Certificate (PDF)' }).click()
  const path = await (await download).path()
  const { text } = await new PDFParse({ data: readFileSync(path) }).getText()
  const words = text.replace(/\s+/g, ' ')
  expect(words).toContain(sentence)
  expect(words).toContain('lower and upper sensor trim')
  expect(words).toMatch(/In tolerance as left: reads 0\.02 bar g high/)
  expect(words).toContain('Pressure calibrator, 100 bar')
  expect(words).toMatch(/Performed by Wren .* Reviewed by Heron/)
  expect(words).toMatch(/SHA-256 [0-9a-f]{64}/)

  await wren.keyboard.press('r')
  await wren.getByRole('button', { name: 'Prove the record' }).click()
  await expect(wren.getByText(/The record is complete and unchanged: \d+ events/)).toBeVisible()
})

// Last here: the list above is read while the plant has not said it.
test('how the plant counts its water columns is asked once, and a list that leaves it out is read by it', async ({
  wren,
}) => {
  await wren.goto(address('/loops/import'))
  await wren.getByLabel('Loop list (CSV or xlsx)').setInputFiles({
    name: 'columns.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from('Tag;Service;Type;LRV;URV;Unit\nPDT-991;Filter;pressure;0;100;in WC\n'),
  })
  await expect(wren.getByText(/does not say at which temperature/)).toBeVisible()
  await expect(wren.getByRole('button', { name: 'Keep 1 row to correct' })).toBeVisible()
  await wren.getByRole('button', { name: 'water at 60 °F' }).click()
  await expect(wren.getByText('1 new')).toBeVisible()
  await expect(wren.getByRole('button', { name: 'water at 60 °F' })).toHaveCount(0)
  // The unit picker knows it from now on, and another one where it is typed.
  await wren.goto(address('/loops/PDT-201/scale'))
  const unit = wren.getByRole('combobox', { name: 'Unit' }).first()
  await unit.click()
  await unit.fill('in wc')
  await expect(wren.getByRole('option')).toHaveText(['inH2O (60 °F)pressure'])
  await unit.fill('inH2O 4C')
  await expect(wren.getByRole('option').first()).toHaveText(/inH2O \(4 °C\)/)
})
