import { readFileSync } from 'node:fs'
import type { Page } from '@playwright/test'
import { like } from './setup/own-loop.ts'
import { address, expect, test } from './setup/technician.ts'

async function measure(page: Page, levels: readonly Readonly<Record<string, string>>[]): Promise<void> {
  await page.getByRole('button', { name: 'Locate an error' }).click()
  for (const [i, level] of levels.entries())
    for (const [station, text] of Object.entries(level))
      await page.getByLabel(`${station}, level ${i + 1}`, { exact: true }).fill(text)
}

test('LI-303: the display at half scale, by the ranges and by readings', async ({ wren }) => {
  await wren.goto(address('/loops/LI-303/scale'))
  await expect(wren.getByText('The display is scaled 0 to 50 %, the transmitter 0 to 100 %.')).toBeVisible()
  await measure(wren, [
    { Loop: '8,000', Display: '12,5' },
    { Loop: '16.00', Display: '37.4' },
  ])
  await expect(wren.getByText('The error comes in between Loop and Display.')).toBeVisible()
  await expect(wren.getByText(/another 20 mA point \(20 mA point 49\.87 %/)).toBeVisible()
  await expect(wren.locator('.strip .step')).toContainText('% of span')
  // The loop's own setting makes it: its fix stands beside the readings.
  await expect(wren.getByText('The loop’s own settings make these readings:')).toBeVisible()
  await wren.locator('.segments .fix').click()
  await expect(wren.getByText(/^Next: 1 change not saved/)).toBeVisible()
  // What is not saved is told where nothing is saved, and one touch leads back to it.
  await wren.getByRole('link', { name: 'Record', exact: true }).click()
  await wren.getByRole('link', { name: 'changes on Scale not saved' }).click()
  await expect(wren.getByText(/^Next: 1 change not saved/)).toBeVisible()
  await wren.getByRole('button', { name: 'Discard' }).click()
})

test('TT-205: a current that stands still hides the receiver, until a known one is fed in behind it', async ({
  wren,
}) => {
  await wren.goto(address('/loops/TT-205/scale'))
  await measure(wren, [
    { Percent: '20', Loop: '12.000', Controller: '25.9' },
    { Percent: '80', Loop: '12.001', Controller: '25,9' },
  ])
  await expect(wren.getByText(/^The error comes in between Percent and Loop; another one/)).toBeVisible()
  await wren.getByRole('button', { name: 'Three levels fed in at Loop' }).click()
  for (const [i, text] of ['5.9', '25,9', '45.9'].entries())
    await wren.getByLabel(`Controller, level ${i + 3}`, { exact: true }).fill(text)
  await expect(wren.getByRole('listitem').filter({ hasText: 'Loop to Controller' })).toContainText(
    /shifted by the same amount everywhere/,
  )
  await wren.getByRole('button', { name: 'Record this diagnosis' }).click()
  await expect(wren.getByText('stored in the record')).toBeVisible()
})

test('FT-304: the root taken twice steps the line before anything was read', async ({ wren }) => {
  await wren.goto(address('/loops/FT-304/scale'))
  await expect(wren.getByText(/The square root is taken twice/)).toBeVisible()
  await expect(wren.getByText('20.71 % of span')).toBeVisible()
  await measure(wren, [
    { Loop: '8,00', Controller: '12.5' },
    { Loop: '12.00', Controller: '17.68' },
  ])
  await expect(wren.getByText(/Named: square root taken twice/)).toBeVisible()
})

test('PT-103: a shunt that is off is located, the next measurement named, the diagnosis kept; then a healthy loop', async ({
  wren,
}) => {
  await wren.goto(address('/loops/PT-103/scale'))
  // From end to end first: it says what to read next.
  await measure(wren, [
    { Process: '1', Controller: '98' },
    { Process: '5', Controller: '494' },
  ])
  await expect(wren.getByText(/The error comes in between Process and Controller/)).toBeVisible()
  await expect(wren.getByText(/Read (Loop|Percent) next/)).toBeVisible()
  await measure(wren, [
    { Loop: '6,667', Shunt: '1.650' },
    { Loop: '17.333', Shunt: '4.290' },
  ])
  await expect(wren.getByText('The error comes in between Loop and Shunt.')).toBeVisible()
  await expect(wren.getByText(/another shunt, or a second load beside it \(resistance 247/)).toBeVisible()
  // Nonsense is told and changes nothing.
  await wren.getByLabel('Shunt, level 1', { exact: true }).fill('1,6,5 V')
  await expect(wren.getByText(/more than one decimal sign/)).toBeVisible()
  await wren.getByLabel('Shunt, level 1', { exact: true }).fill('1650 mV')
  await expect(wren.getByText('The error comes in between Loop and Shunt.')).toBeVisible()
  await wren.getByRole('button', { name: 'Record this diagnosis' }).dblclick()
  await expect(wren.getByText('stored in the record')).toBeVisible()
  await wren.keyboard.press('Escape')
  await wren.getByRole('link', { name: 'Record' }).click()
  await expect(wren.getByRole('heading', { name: 'Diagnosis' })).toHaveCount(1)

  await wren.goto(address('/loops/TT-205/scale'))
  await measure(wren, [
    { Process: '15', Loop: '8.001', Controller: '15.01' },
    { Process: '35', Loop: '16.002', Controller: '35,00' },
  ])
  await expect(wren.getByText('Everything that was measured agrees. Nothing to look for here.')).toBeVisible()
  await expect(wren.locator('.strip .step')).toHaveCount(0)
})

test('PT-202: another range moves the trip, and the pocket card goes along on one small page', async ({
  wren,
}) => {
  await wren.goto(address('/loops/PT-202/scale'))
  await wren.getByRole('button', { name: 'Range work' }).click()
  await wren.getByLabel('Proposed 20 mA point').fill('70')
  await expect(
    wren.getByText(/PSHH-202, off would sit at 21.83 mA, outside what the loop can carry/),
  ).toBeVisible()
  await wren.getByLabel('Proposed 20 mA point').fill('100')
  await expect(wren.getByText(/PSHH-202, off sits at 18.68 mA now and at 16.48 mA after/)).toBeVisible()
  await expect(wren.getByText(/leaves the sensor trim alone/)).toBeVisible()
  await wren.getByRole('button', { name: 'Ranges', exact: true }).click()
  await wren.getByLabel('Levels, % of range').fill('0 12,5 200')
  await expect(wren.getByText('200 % is outside -10 to 110 %.')).toBeVisible()
  await wren.getByLabel('Levels, % of range').fill('0 12,5 100')
  await expect(wren.getByRole('row', { name: /^12.5 %/ })).toContainText('10.63')
  const download = wren.waitForEvent('download')
  await wren.getByRole('link', { name: 'Card (PDF)' }).click()
  const pdf = readFileSync(await (await download).path())
  expect(pdf.subarray(0, 5).toString()).toBe('%PDF-')
  expect(pdf.toString('latin1').match(/\/Type \/Page\b/g)).toHaveLength(1)
})

test('stages come and go on the line, and a pulse factor that does not fit is mended with one key', async ({
  wren,
}) => {
  await wren.goto(address('/loops/FT-206/scale'))
  await wren.getByRole('button', { name: 'Frequency', exact: true }).click()
  await wren.getByRole('button', { name: 'Totalizer', exact: true }).click()
  await expect(wren.locator('[data-station=HZ]')).toHaveValue('500.0')
  await wren.getByLabel('Units per pulse').fill('0,1')
  await expect(wren.getByText(/the total is wrong by a factor of/)).toBeVisible()
  await wren.getByRole('button', { name: /Tell the counter .* per pulse/ }).click()
  await expect(wren.getByText(/the total is wrong by a factor of/)).toHaveCount(0)
  await wren.getByRole('button', { name: 'Remove the frequency from the line' }).click()
  await expect(wren.locator('[data-station=HZ]')).toHaveCount(0)
  await wren.getByRole('button', { name: 'Discard' }).click()
})

test('like PT-202, its zero shifted below 4 mA: named, though the first reading stands at the lower limit', async ({
  wren,
}) => {
  await like(wren, 'PT-955', 'PT-202')
  await wren.goto(address('/loops/PT-955/scale'))
  // 0.6 mA too low everywhere: at 0 bar the output is held at 3.8 mA.
  await measure(wren, [
    { Percent: '0', Loop: '3,800' },
    { Percent: '50', Loop: '11.400' },
  ])
  await wren.getByRole('button', { name: 'Another level' }).click()
  await wren.getByLabel('Percent, level 3', { exact: true }).fill('100')
  await wren.getByLabel('Loop, level 3', { exact: true }).fill('19.401')
  await expect(wren.getByText(/Named: shifted by the same amount everywhere \(shift -3\.7/)).toBeVisible()
  await expect(wren.getByText('Causes: output trim, often misused.')).toBeVisible()
  await wren.getByRole('link', { name: 'Mend it at Trim' }).click()
  await expect(wren.getByRole('radio', { name: /Output trim at 4 and 20 mA/ })).toBeChecked()
})
