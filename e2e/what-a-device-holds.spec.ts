import { readFileSync } from 'node:fs'
import { address, expect, test } from './setup/technician.ts'

test('FT-403: found on its port, its lost memory keyed in from the plate, its readings fetched', async ({
  wren,
}) => {
  await wren.goto(address('/loops/FT-403/trim'))
  // The worst first: looked for on a port where nothing is plugged in.
  await wren.getByLabel('Port', { exact: true }).press('ArrowDown')
  await wren.getByRole('option', { name: /^Port C/ }).click()
  await wren.getByRole('button', { name: 'Connect', exact: true }).click()
  await expect(wren.getByText('Port C: silent')).toBeVisible()
  await expect(wren.getByText('Device: not asked')).toBeVisible()
  await wren.getByLabel('Port', { exact: true }).press('ArrowDown')
  await wren.getByRole('option', { name: 'Port A: adaptor plugged in' }).click()
  await wren.getByRole('button', { name: 'Connect', exact: true }).click()
  await expect(wren.getByText(/Its memory is lost: it measures nothing/)).toBeVisible()
  await wren.getByLabel('Passcode, on its plate').fill('2580')
  await wren.getByRole('button', { name: 'Unlock' }).click()
  await wren.getByText('What it holds, against the sheet').click()
  await expect(wren.getByText('without it nothing is measured')).toHaveCount(3)
  // What no sheet knows is not keyed in by it: it comes from the plate.
  await wren.getByRole('button', { name: /^Key in all \d+ by the sheet/ }).click()
  await expect(wren.getByText('without it nothing is measured')).toHaveCount(1)
  await wren.getByLabel('Key in Drive frequency').fill('87.5')
  await wren.getByLabel('Key in Drive frequency').press('Enter')
  await expect(wren.getByText(/Its memory is lost/)).toBeHidden()
  await wren.getByRole('button', { name: 'Store', exact: true }).first().click()
  await expect(wren.getByText('not stored', { exact: true })).toBeHidden()
  await wren.getByText('Totals, readings from its memory, service files').click()
  await wren.getByLabel('How far back').fill('1')
  await wren.getByRole('button', { name: 'Fetch' }).click()
  const file = wren.getByRole('link', { name: '60 readings as CSV' })
  await expect(file).toBeVisible()
  const [download] = await Promise.all([wren.waitForEvent('download'), file.click()])
  const rows = readFileSync(await download.path(), 'utf8')
    .trim()
    .split('\r\n')
  expect(rows).toHaveLength(61)
  expect(rows.at(-1)).toMatch(/,simulated$/)
  // Under the name of who did it, once for each key.
  await wren.goto(address('/loops/FT-403/record'))
  await expect(wren.getByText(/^Keyed in: Drive frequency 87\.5\.$/).first()).toBeVisible()
})
