import { address, expect, test } from './setup/technician.ts'
import { like } from './setup/own-loop.ts'

test('a log is recorded over the link, broken off, gone on with, and kept with its gap', async ({ wren }) => {
  test.setTimeout(120_000)
  await wren.goto(address('/logs/record?loop=FT-304'))
  // Nothing is recorded of a device that does not answer.
  await expect(wren.getByText('The device does not answer yet: connect it.')).toBeVisible()
  await expect(wren.getByRole('button', { name: 'Record', exact: true })).toBeDisabled()
  await wren.getByRole('button', { name: 'Connect', exact: true }).click()
  await wren.getByLabel('Name of the log, else its time').fill('While the valve was moved')
  await wren.getByRole('button', { name: 'Record', exact: true }).click()
  await expect(wren.getByText(/^([3-9]|[1-9]\d) rows over/)).toBeVisible({ timeout: 20_000 })
  // The page is left in the middle: what came lies there, not whole.
  await wren.getByRole('link', { name: 'Logs' }).last().click()
  await wren.getByRole('link', { name: 'While the valve was moved: not whole, go on' }).click()
  await expect(wren.getByText(/“While the valve was moved” broke off: \d+ rows came, the last/)).toBeVisible()
  await wren.getByRole('button', { name: 'Go on recording' }).click()
  await expect(wren.getByText(/^[1-9]\d rows over/)).toBeVisible({ timeout: 30_000 })
  await wren.getByRole('button', { name: 'Stop and keep' }).click()
  await wren.waitForURL(/\/logs\/FT-304\//)
  await expect(wren.getByRole('heading', { name: 'While the valve was moved' })).toBeVisible()
  await expect(wren.getByText('simulated', { exact: true })).toBeVisible()
  // Too few for a verdict: none is given.
  await expect(wren.getByText(/samples are too few to be judged: 64 are needed/)).toBeVisible()
  await expect(wren.getByText(/Recorded over the link by Wren/)).toBeVisible()
  await wren.goto(address('/loops/FT-304/record'))
  await expect(
    wren.getByText(/While the valve was moved.*recorded over the link \(simulated\)/).first(),
  ).toBeVisible()
})

test('readings are typed while a counter runs; what the device remembers is fetched as long as it said', async ({
  wren,
}) => {
  test.setTimeout(120_000)
  await like(wren, 'FT-961', 'FT-203')
  await wren.goto(address('/logs/record?loop=FT-961'))
  // A real loop has no device here: what stands beside it is typed.
  await expect(wren.getByLabel('Unit')).toBeVisible()
  await wren.getByRole('button', { name: 'Record', exact: true }).click()
  const reading = wren.getByLabel('Reading now')
  // No number, and nothing: neither is taken.
  await reading.fill('twelve')
  await expect(wren.getByRole('button', { name: 'Take it' })).toBeDisabled()
  // A number that was right until its unit was misspelt is none: what it was before is not taken for it.
  await reading.fill('330')
  await reading.fill('330 L/mni')
  await reading.press('Enter')
  await expect(wren.getByRole('button', { name: 'Take it' })).toBeDisabled()
  for (const value of ['19,8', '20.1', '330 L/min']) {
    await reading.fill(value)
    await reading.press('Enter')
  }
  await expect(wren.getByText(/^3 rows over/)).toBeVisible()
  await expect(wren.getByText('19.8 m³/h', { exact: true })).toBeVisible()
  await wren.getByRole('button', { name: 'Give up' }).click()
  await wren.goto(address('/logs'))
  await expect(wren.getByRole('link', { name: 'FT-961' })).toHaveCount(0)

  await wren.goto(address('/logs/record?loop=FT-101'))
  await wren.locator('.v-select').filter({ hasText: 'Recorded from' }).click()
  await wren.getByRole('option', { name: /remembers/ }).click()
  await wren.getByRole('button', { name: 'Connect', exact: true }).click()
  await wren.getByLabel('How far back').fill('8')
  await expect(wren.getByText(/480 readings, about .* KB, 8 s on this link/)).toBeVisible()
  const began = Date.now()
  await wren.getByRole('button', { name: 'Fetch', exact: true }).click()
  await expect(wren.getByRole('button', { name: 'Read it in' })).toBeEnabled({ timeout: 30_000 })
  expect(Date.now() - began).toBeGreaterThan(6000)
  await wren.getByRole('button', { name: 'Read it in' }).click()
  await expect(wren.getByText('All of the first 480 lines can be read.')).toBeVisible()
  await wren.getByRole('button', { name: 'Read in', exact: true }).click()
  await wren.waitForURL(/\/logs\/FT-101\//)
  await expect(wren.getByText(/Fetched from the device’s memory by Wren/)).toBeVisible()
})
