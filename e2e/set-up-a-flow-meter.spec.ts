import { readFileSync } from 'node:fs'
import { choose, find, newLoop, result } from './setup/set-up.ts'
import { address, expect, test } from './setup/technician.ts'

test('a lined main is set up from an empty loop, in the units at hand, and the sheet goes along', async ({
  wren,
}) => {
  await newLoop(wren, 'FT-911', 'flow, clamp-on', '1600', 'm3/h')
  // The words of its type told what it is; the set-up begins with the loop's own range.
  await expect(wren.getByText('Clamp-on transit time').first()).toBeVisible()
  await wren.getByRole('button', { name: 'Begin with the loop’s range' }).click()

  await choose(wren, 'Pipe is known by', 'outside diameter and wall')
  await wren.getByLabel('Outside diameter', { exact: true }).fill('61 cm')
  await wren.getByLabel('Wall', { exact: true }).fill('9,53')
  await find(wren, 'Liner', 'cement mortar (liner)')
  // The worst slip: metres for millimetres. The field says so and keeps it.
  await wren.getByLabel('Liner thickness').fill('8 m')
  await expect(wren.getByText(/Liner thickness is 8000 mm; possible is 0.1 to 150 mm/).first()).toBeVisible()
  await wren.getByLabel('Liner thickness').fill('8')
  await expect(result(wren, 'Bore')).toContainText('574.94 mm')
  await find(wren, 'Fluid', 'seawater or reject')
  await wren.getByLabel('Practical salinity').fill('35.1')
  await wren.getByLabel('Temperature', { exact: true }).fill('14,2')
  await wren.getByLabel('Gauge pressure').fill('3.8 bar')
  await choose(wren, 'Traverses', '1, direct')
  await wren.getByLabel('Wedge height').fill('18')
  await expect(result(wren, 'Spacing between exit points')).toContainText('271.3 mm')
  await expect(wren.getByRole('img', { name: /spacing 271.3 mm/ })).toBeVisible()

  // After start-up the reading is judged, with what each cause alone would have to be.
  await wren.getByLabel('Mean transit time read').fill('453')
  await expect(
    wren.getByText(/The sound speed is .* too low: something is not as it was entered/).first(),
  ).toBeVisible()
  await expect(wren.getByText(/^Likeliest: /)).toBeVisible()
  await wren.getByLabel('Mean transit time read').fill('448,9')
  await expect(wren.getByText(/The sound speed is believable/)).toBeVisible()

  await wren.getByLabel('Why (goes into the record)').fill('set up at the pipe')
  await wren.getByRole('button', { name: 'Save revision' }).click()
  await expect(wren.getByText(/revision 2, saved/)).toBeVisible()
  await wren.reload()
  // As it was typed, with its comma.
  await expect(wren.getByLabel('Wall', { exact: true })).toHaveValue('9,53')
  await wren.getByRole('button', { name: 'Settings sheet' }).click()
  await expect(wren.getByText('Store the settings')).toBeVisible()
  const download = wren.waitForEvent('download')
  await wren.getByRole('button', { name: 'Settings (CSV)' }).click()
  expect(readFileSync(await (await download).path(), 'utf8')).toContain(
    'Sensor spacing to set on the rail,271.3 mm',
  )
})

test('FT-403: the lost memory, two digits exchanged, and a cutoff of nothing', async ({ wren }) => {
  await wren.goto(address('/loops/FT-403/set-up'))
  await expect(wren.getByText(/memory is lost/).first()).toBeVisible()
  await expect(
    wren.locator('.finding').filter({
      hasText:
        'Flow factor: the certificate says 4.2160, the device says 4.2610; two neighbouring digits are exchanged',
    }),
  ).toBeVisible()
  await wren.getByLabel('Flow factor, device').fill('4.2160 5.11')
  await expect(wren.getByText(/more than one decimal sign/).first()).toBeVisible()
  await wren.getByLabel('Flow factor, device').fill('4.2160')
  await expect(wren.getByText(/two neighbouring digits/)).toHaveCount(0)
  await wren.getByLabel('Low-flow cutoff').fill('0,1')
  await expect(wren.getByText(/The cutoff is reasonable/)).toBeVisible()
  await wren.getByRole('button', { name: 'Discard' }).click()
  await expect(wren.getByLabel('Flow factor, device')).toHaveValue('4.2610')
})

test('fuel gas from an empty loop: the gas by its components, two paths, and how sure the flow is', async ({
  wren,
}) => {
  await newLoop(wren, 'FT-912', 'flow, clamp-on gas', '900', 'm3/h')
  await wren.getByRole('button', { name: 'Begin with the loop’s range' }).click()
  await expect(wren.getByLabel('Flow at full scale, actual')).toHaveValue('900')
  await choose(wren, 'Pipe is known by', 'outside diameter and wall')
  await wren.getByLabel('Outside diameter', { exact: true }).fill('168,3')
  await wren.getByLabel('Wall', { exact: true }).fill('7,11')
  await find(wren, 'Fluid', 'own gas mixture')
  await wren.getByLabel('Components and mole %').fill('methane 91,45; ethan 4.32')
  await expect(wren.getByText(/“ethan 4.32” is not a component/).first()).toBeVisible()
  await wren
    .getByLabel('Components and mole %')
    .fill(
      'methane 91,45; ethane 4.32; propane 1.08; n butane 0.29; isobutane 0.21; nitrogen 1.40; carbon dioxide 1.25',
    )
  await wren.getByLabel('Temperature', { exact: true }).fill('21')
  // Too thin for steel, then as it is in the line.
  await wren.getByLabel('Gauge pressure').fill('0.5 bar')
  await expect(wren.getByText(/the wall’s own noise hides the signal/).first()).toBeVisible()
  await wren.getByLabel('Gauge pressure').fill('738.675')
  await expect(result(wren, 'Sound speed expected')).toContainText('419.1 m/s')
  await expect(result(wren, 'Density')).toContainText('6.182')
  await wren.getByLabel('Flow at full scale, actual').fill('186')
  await wren.getByLabel('Straight upstream').fill('25')
  await choose(wren, 'Paths', 'two, 90° apart')
  await wren.getByLabel('Path 1 reads').fill('7,62')
  await wren.getByLabel('Path 2 reads').fill('8,11')
  await expect(wren.getByText(/The paths differ by 6.23 %/).first()).toBeVisible()

  await wren.getByRole('button', { name: 'How sure' }).click()
  await expect(wren.getByText(/is known to ±/)).toBeVisible()
  const before = await wren.getByText(/is known to ±/).innerText()
  await wren.getByLabel('Zero', { exact: true }).fill('0,5')
  await expect(wren.getByText(/is known to ±/)).not.toHaveText(before)
  await wren.getByRole('button', { name: 'Try a million times' }).click()
  await wren.getByRole('button', { name: 'Cancel' }).click()
  await expect(wren.getByRole('button', { name: 'Try a million times' })).toBeVisible()
  await wren.getByRole('button', { name: 'Try a million times' }).click()
  await expect(wren.getByText(/1,000,000 trials: the reading lies between/)).toBeVisible({ timeout: 60_000 })
  await wren.getByLabel('Why (goes into the record)').fill('set up at the dryer')
  await wren.getByRole('button', { name: 'Save revision' }).click()
  await wren.reload()
  await wren.getByRole('button', { name: 'How sure' }).click()
  await expect(wren.getByLabel('Zero', { exact: true })).toHaveValue('0.5')
})

test('a circumference typed for the diameter, what is only assumed, and what the device shows', async ({
  wren,
}) => {
  await newLoop(wren, 'FT-913', 'flow, clamp-on', '36', 'm3/h')
  await wren.getByRole('button', { name: 'Begin with the loop’s range' }).click()
  await choose(wren, 'Pipe is known by', 'outside diameter and wall')
  await wren.getByLabel('Outside diameter', { exact: true }).fill('229.3')
  await expect(wren.getByText(/229.3 mm is the circumference of one of 73 mm/).first()).toBeVisible()
  await wren.getByRole('button', { name: 'Enter 73 mm' }).click()
  await expect(wren.getByRole('cell', { name: '73.00 mm' })).toBeVisible()
  await wren.getByLabel('Wall', { exact: true }).fill('0.12 in')

  // Nothing that nobody entered goes on the sheet as a fact.
  await wren.getByLabel('Why (goes into the record)').fill('set up from the office')
  await wren.getByRole('button', { name: 'Save revision' }).click()
  await expect(wren.getByText(/revision 2, saved/)).toBeVisible()
  await wren.getByRole('button', { name: 'Settings sheet' }).click()
  await expect(wren.getByText('assumed: Pipe material', { exact: true })).toBeVisible()
  await wren.getByText(/^Rests on \d+ assumptions$/).click()
  await wren.getByRole('button', { name: /^Confirm all \d+$/ }).click()
  await expect(wren.getByText(/^Rests on/)).toHaveCount(0)
  await expect(wren.getByText('assumed: Pipe material', { exact: true })).toHaveCount(0)
  await wren.getByLabel('Why (goes into the record)').fill('looked at on site')
  await wren.getByRole('button', { name: 'Save revision' }).click()
  await expect(wren.getByText(/revision 3, saved/)).toBeVisible()

  // At the device: one line is not as the sheet says it.
  await wren.getByLabel('Read back: Pipe outside diameter').fill('2,874 in')
  await wren.getByLabel('Read back: Pipe wall').fill('3.50')
  await expect(wren.getByText(/2 of \d+ read back, 1 differs/)).toBeVisible()
  await wren.getByRole('button', { name: 'Record what was read back' }).dblclick()
  await expect(wren.getByText(/2 of \d+ lines are in the record./)).toBeVisible()
  await wren.goto(address('/loops/FT-913/record'))
  await expect(wren.getByText('Settings read back')).toHaveCount(1)
  await expect(wren.getByText(/Pipe wall: 3.50 for 3.05 mm/)).toBeVisible()
})
