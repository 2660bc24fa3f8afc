import { like } from './setup/own-loop.ts'
import { address, cell, expect, signRecord, test } from './setup/technician.ts'

test('like TT-205, by a decade in ohms: each point says what to set, and the reading is judged in degrees', async ({
  wren,
}) => {
  await like(wren, 'TT-951', 'TT-205')
  await wren.goto(address('/loops/TT-951/verify'))
  await wren.getByRole('combobox', { name: 'Test plan' }).press('ArrowDown')
  await wren.getByRole('option', { name: 'A list of one’s own' }).click()
  await wren.getByLabel('Levels, % of span').fill('5')
  await expect(wren.getByText('At least two different levels.')).toBeVisible()
  await wren.getByLabel('Levels, % of span').fill('0 50 100')
  await wren.getByRole('combobox', { name: 'Order' }).press('ArrowDown')
  await wren.getByRole('option', { name: 'rising', exact: true }).click()
  // Kept for the plant under a name, it stands in the list for every loop.
  await wren.getByLabel('Name, to keep it for the plant').fill('Thermometers')
  await wren.getByRole('button', { name: 'Keep this plan' }).click()
  await expect(wren.getByText('0, 50, 100 % rising')).toBeVisible()
  await wren.getByRole('combobox', { name: 'The standard gives' }).press('ArrowDown')
  await wren.getByRole('option', { name: /Resistance: a decade/ }).click()
  await wren.locator('.v-select').filter({ hasText: 'Instruments' }).click()
  await wren.getByRole('option', { name: /Resistance decade/ }).click()
  await wren.getByRole('option', { name: /Loop calibrator/ }).click()
  await wren.keyboard.press('Escape')
  await expect(wren.getByText(/The comparison is known to/)).toBeVisible()
  await wren.getByRole('button', { name: 'Begin', exact: true }).click()
  const rows: readonly (readonly [set: string, pv: string, mA: string, eu: string])[] = [
    ['101.95', '5.01', '4.004', '5.0'],
    ['109,735', '25.02', '12.006', '25.0'],
    ['117.47', '45.0', '20.001', '45.0'],
  ]
  await expect(wren.getByText('109.735')).toBeVisible()
  await cell(wren, 'As found', 1, 'Set').click()
  for (const text of rows.flat()) {
    await wren.keyboard.type(text)
    await wren.keyboard.press('Enter')
  }
  // What was set stays in the cell; what it stands for is told below it.
  await expect(cell(wren, 'As found', 2, 'Set')).toHaveValue('109.735')
  await expect(wren.getByText('25.0009 °C')).toBeVisible()
  await expect(wren.getByText(/^In tolerance as found/)).toBeVisible()
  await cell(wren, 'As found', 2, 'Set').fill('9')
  await expect(wren.getByText('9 Ω stands for no value of this sensor.')).toBeVisible()
  await cell(wren, 'As found', 2, 'Set').fill('109.735')
  // A current that belongs to another point is asked about before it is judged.
  await cell(wren, 'As found', 2, 'Loop').fill('8.006')
  await cell(wren, 'As found', 3, 'Loop').focus()
  await expect(wren.getByText(/^Not judged yet: point 2 as found: 8.006 mA does not belong to/)).toBeVisible()
  await cell(wren, 'As found', 2, 'Loop').fill('12.006')
  await cell(wren, 'As found', 3, 'Loop').focus()
  await expect(wren.getByText(/^In tolerance as found/)).toBeVisible()
  await wren.getByRole('button', { name: 'Close as found' }).click()
  await wren.getByRole('button', { name: 'Nothing was adjusted' }).click()
  await expect(wren.getByText('All is read. Sign the record.')).toBeVisible()
  await signRecord(wren)
  // When to come back is offered at its end.
  await expect(wren.getByText('Recommended:')).toBeVisible()
})

test('in a hurry: five currents, the mistake by its name, and kept as the as-found', async ({ wren }) => {
  await like(wren, 'PT-952', 'PT-103')
  await wren.goto(address('/loops/PT-952/verify?view=quickly'))
  await expect(wren.getByRole('heading', { name: 'As found, quickly' })).toBeVisible()
  await wren.getByLabel('Loop at 0 %, in mA').click()
  for (const mA of ['3.78', '7,78', '11.78', '15.78', '19.78']) {
    await wren.keyboard.type(mA)
    await wren.keyboard.press('Enter')
  }
  await expect(wren.getByText(/^Out of tolerance as found/)).toBeVisible()
  await expect(wren.getByText(/^Named: shifted by the same amount everywhere/)).toBeVisible()
  await expect(wren.getByText(/Off by the same: zero trim\. Right: output trim/)).toBeVisible()
  await wren.getByRole('button', { name: 'Keep as the as-found of a verification' }).click()
  await expect(cell(wren, 'As found', 5, 'Loop')).toHaveValue('19.78')
  await expect(wren.getByText(/^stored \d\d:\d\d$/)).toBeVisible()
  await wren.reload()
  await expect(cell(wren, 'As found', 1, 'Loop')).toHaveValue('3.78')
  // Closed as it is, it is due now, whatever its interval says.
  await wren.getByRole('button', { name: 'Close as found' }).click()
  await wren.getByRole('button', { name: 'Nothing was adjusted' }).click()
  await expect(wren.getByText(/^due now: out of tolerance on/)).toBeVisible()
})

test('a flow by a bucket and a clock: the flow and how well it is known are reckoned and recorded', async ({
  wren,
}) => {
  await like(wren, 'FT-954', 'FT-203')
  await wren.goto(address('/loops/FT-954/verify?view=reference'))
  await wren.getByRole('combobox', { name: 'Reference' }).press('ArrowDown')
  await wren.getByRole('option', { name: 'Bucket and scale' }).click()
  await wren.getByLabel('Scale, ±').fill('0.02')
  for (const [i, kg, s, meter] of [
    [1, '18,04', '60', '1.09'],
    [2, '18.10', '60.2', '1.087'],
    [3, '17.98', '59.8', '1.088'],
  ] as const) {
    await wren.getByLabel(`Weighed, run ${i}`).fill(kg)
    await wren.getByLabel(`Time, run ${i}`).fill(s)
    await wren.getByLabel(`Meter, run ${i}`).fill(meter)
  }
  await expect(wren.getByText(/^= 1\.085\d m³\/h, ±0\.6 %/).first()).toBeVisible()
  await wren.getByRole('button', { name: 'Record', exact: true }).click()
  await expect(wren.getByText('stored in the record')).toBeVisible()
  // The same flow by the pulses of a meter in the line: its factor, and what that is known to.
  await wren.getByRole('combobox', { name: 'Reference' }).press('ArrowDown')
  await wren.getByRole('option', { name: 'Reference meter, by its pulses' }).click()
  await wren.getByLabel('Pulses for one unit').first().fill('50')
  await wren.getByRole('combobox', { name: 'They count' }).press('ArrowDown')
  await wren.getByRole('option', { name: 'L', exact: true }).click()
  await wren.getByLabel('Factor known to ± %').fill('0.2')
  await wren.getByLabel('Pulses, run 1').fill('2345')
  await wren.getByLabel('Time, run 1').fill('120')
  await wren.getByLabel('Meter, run 1').fill('1.41')
  await expect(wren.getByText(/^= 1\.407 m³\/h/)).toBeVisible()
  await wren.getByRole('button', { name: 'Record', exact: true }).click()
  await expect(wren.getByText(/against the reference meter, by its pulses/).first()).toBeVisible()
  await wren.getByRole('combobox', { name: 'Reference' }).press('ArrowDown')
  await wren.getByRole('option', { name: 'Bucket and scale' }).click()
  await wren.getByLabel('Time, run 1').fill('0')
  await wren.getByLabel('Weighed, run 1').fill('18')
  await expect(wren.getByText('Type how long it took: above 0 s.')).toBeVisible()
})
