import { choose, newLoop, result } from './setup/set-up.ts'
import { address, another, expect, test } from './setup/technician.ts'

test('a pair is described once in the workshop, picked on the loop, and told wherever it parts from its plate', async ({
  wren,
  browser,
}) => {
  await wren.goto(address('/instruments?view=sensors'))
  await wren.getByRole('button', { name: 'Add a sensor' }).click()
  await wren.getByLabel('Serial of A, upstream').fill('7301A')
  await wren.getByLabel('Serial of B, downstream').fill('7302B')
  await wren.getByLabel('Frequency, MHz').fill('2')
  await wren.getByLabel('Wedge angle').fill('41,5')
  await wren.getByRole('button', { name: 'Add', exact: true }).click()
  // A colleague mixed two pairs: nothing is stored, and what was typed stays.
  await expect(wren.getByText(/7301A and 7302B are not a pair/).first()).toBeVisible()
  await wren.getByLabel('Serial of B, downstream').fill('7301B')
  await expect(wren.getByLabel('Wedge angle')).toHaveValue('41,5')
  await wren.getByRole('button', { name: 'Add', exact: true }).click()
  await expect(wren.getByRole('row', { name: /7301A \/ 7301B/ })).toContainText('on the shelf')

  await newLoop(wren, 'FT-931', 'flow, clamp-on', '36', 'm3/h')
  await wren.getByRole('button', { name: 'Begin with the loop’s range' }).click()
  await choose(wren, 'Pipe is known by', 'outside diameter and wall')
  await wren.getByLabel('Outside diameter', { exact: true }).fill('73')
  await wren.getByLabel('Wall', { exact: true }).fill('3,05')
  await wren.getByRole('button', { name: 'Take one of the stock' }).click()
  // The best comes first; what does not suit says why.
  await expect(wren.getByText(/Does not suit: made for gas/).first()).toBeVisible()
  await wren.getByRole('button', { name: 'Take 7301A / 7301B' }).click()
  await expect(wren.getByLabel('Wedge angle, deg')).toHaveValue('41.5')
  await expect(wren.getByLabel('Serial of the upstream sensor')).toHaveValue('7301A')
  // What the workshop left as it stood stays assumed; what it typed does not.
  await wren.getByText(/^Rests on \d+ assumptions?$/).click()
  const assumed = wren.locator('details.rests')
  await expect(assumed.getByText('Wedge sound speed')).toBeVisible()
  await expect(assumed.getByText('Wedge angle')).toHaveCount(0)
  await wren.getByLabel('Wedge angle, deg').fill('38')
  await expect(wren.getByText('Not as on the plate of 7301A / 7301B')).toBeVisible()
  await wren.getByRole('button', { name: 'Take the plate’s' }).click()
  await expect(wren.getByText(/Not as on the plate/)).toHaveCount(0)
  await wren.getByRole('button', { name: 'Save revision' }).click()
  await expect(wren.getByText(/revision 2, saved/)).toBeVisible()

  // A colleague sees at once where it is, and cannot take it without being told.
  const heron = await another(browser, 'heron')
  await heron.goto(address('/instruments?view=sensors'))
  await expect(heron.getByRole('row', { name: /7301A \/ 7301B/ }).getByRole('link')).toHaveText('FT-931')
})

test('the sheet in the device’s own units and order, read back line by line after a lost memory', async ({
  wren,
}) => {
  await newLoop(wren, 'FT-932', 'flow, Coriolis', '180', 'kg/h')
  await wren.getByRole('button', { name: 'Begin with the loop’s range' }).click()
  await wren.getByLabel('The sensor’s memory is lost').check()
  await expect(wren.getByText(/From the plate or the certificate are still missing/).first()).toBeVisible()
  await wren.getByLabel('Flow factor, certificate').fill('4.2160')
  await wren.getByLabel('Drive frequency, certificate').fill('148.20')
  await wren.getByLabel('Tube bore').fill('10')
  await choose(wren, 'Bore asked in', 'cm')
  // The trap: the number of the plate in a device that asks for another unit.
  await wren.getByLabel('It shows the bore as').fill('10')
  await expect(wren.getByText(/The number was typed in mm\. .*Key in 1 cm/).first()).toBeVisible()
  await wren.getByLabel('It shows the bore as').fill('1')
  await expect(wren.getByText(/The device has the bore of the plate/)).toBeVisible()
  await wren.getByRole('button', { name: 'Save revision' }).click()
  await expect(wren.getByText(/revision 2, saved/)).toBeVisible()

  await wren.getByRole('button', { name: 'Settings sheet' }).click()
  const rows = wren.locator('tr.line')
  await expect(rows.first()).toContainText('Tube bore')
  await expect(rows.first()).toContainText('1 cm')
  await wren.getByLabel('Read back: Flow factor').fill('4.216')
  await expect(rows.filter({ hasText: 'Flow factor' }).first().getByText('differs')).toBeVisible()
  await wren.getByLabel('Read back: Flow factor').fill('4.2160')
  await expect(rows.filter({ hasText: 'Flow factor' }).first().getByText('same')).toBeVisible()

  // The order of this plant's devices, by the arrows; it is there for the next loop of the kind, and can be undone.
  await wren.getByRole('button', { name: 'Change the order' }).click()
  await wren.getByRole('button', { name: 'Access code: earlier' }).click()
  await wren.getByRole('button', { name: 'Access code: earlier' }).click()
  await wren.getByRole('button', { name: 'Access code: earlier' }).click()
  await expect(rows.first()).toContainText('Access code')
  await wren.getByRole('button', { name: 'Keep it for this plant' }).click()
  await wren.reload()
  await expect(rows.first()).toContainText('Access code')
  await wren.getByRole('button', { name: 'Change the order' }).click()
  // By hand as well: taken at its grip and let go further down.
  const [from, to] = [
    await rows.nth(0).locator('.grip').boundingBox(),
    await rows.nth(2).locator('.grip').boundingBox(),
  ]
  await wren.mouse.move((from?.x ?? 0) + 20, (from?.y ?? 0) + 20)
  await wren.mouse.down()
  await wren.mouse.move((from?.x ?? 0) + 22, (from?.y ?? 0) + 60, { steps: 5 })
  await wren.mouse.move((to?.x ?? 0) + 22, (to?.y ?? 0) + 40, { steps: 10 })
  await wren.mouse.up()
  await expect(rows.nth(0)).not.toContainText('Access code')
  await wren.getByRole('button', { name: 'As it was first' }).click()
  await expect(rows.first()).toContainText('Tube bore')

  await wren.getByLabel('Unit instead of kg/h').click({ force: true })
  await wren.getByRole('option', { name: 'lb/min', exact: true }).click()
  await expect(rows.filter({ hasText: 'Flow at 20 mA' })).toContainText('6.61387 lb/min')
})

test('a sheet speaks as its loop and its plant do, and its device asks in an order of its own', async ({
  wren,
}) => {
  await newLoop(wren, 'TT-935', 'temperature, Pt100', '250', 'degF')
  await wren.getByRole('button', { name: 'Begin with the loop’s range' }).click()
  // A difference has no zero: 250 °F of span, not one on top of 32.
  await expect(result(wren, 'Span')).toContainText('250 °F')
  // Who takes what stands there has chosen it; who left it alone has not.
  const assumed = wren.locator('details.rests')
  await assumed.getByText(/^Rests on \d+ assumptions?$/).click()
  await expect(assumed.getByText('Class', { exact: true })).toBeVisible()
  await choose(wren, 'Class', 'B')
  await expect(assumed.getByText('Class', { exact: true })).toHaveCount(0)
  await wren.getByRole('button', { name: 'Save revision' }).click()
  await wren.getByRole('button', { name: 'Settings sheet' }).click()
  const rows = wren.locator('tr.line')
  await expect(rows.filter({ hasText: '20 mA at' })).toContainText('250 °F')

  await wren.getByLabel('Kind of device').fill('head transmitter')
  await wren.getByRole('button', { name: 'Change the order' }).click()
  await wren.getByRole('button', { name: 'Standard: earlier' }).click()
  await wren.getByRole('button', { name: 'Keep it for head transmitter' }).click()
  await expect(rows.first()).toContainText('Standard')
  await wren.getByLabel('Kind of device').fill('')
  await expect(rows.first()).toContainText('Sensor')

  await wren.goto(address('/plant?view=rules'))
  await choose(wren, 'Volumes', 'L')
  await newLoop(wren, 'LT-936', 'level, radar', '2', 'm')
  await wren.getByRole('button', { name: 'Begin with the loop’s range' }).click()
  await choose(wren, 'Shape', 'upright cylinder or silo')
  await wren.getByLabel('Inside diameter').fill('1')
  await wren.getByLabel('Straight shell').fill('4')
  // 4 m of 0.7854 m² are 3142 L.
  await expect(result(wren, 'Volume at 100 %')).toContainText('3141.59 L')
  await wren.goto(address('/plant?view=rules'))
  await choose(wren, 'Volumes', 'm³')
})

test('a probe in its stack of fittings, and a first reading that has a cause', async ({ wren }) => {
  await newLoop(wren, 'FT-933', 'flow, thermal', '2400', 'kg/h')
  await wren.getByRole('button', { name: 'Begin with the loop’s range' }).click()
  await choose(wren, 'The stack is known', 'piece by piece')
  await expect(result(wren, 'Mark “clear of the valve”')).toContainText('90.0 mm')
  await wren.getByLabel('Bore of the valve').fill('15')
  await expect(wren.getByText(/a bore of 15 mm: it does not pass/).first()).toBeVisible()
  await wren.getByLabel('Bore of the valve').fill('1 in')
  await expect(wren.getByText(/it does not pass/)).toHaveCount(0)
  await wren.getByLabel('Velocity on its plate').fill('46.1')
  await expect(wren.getByText(/the plate’s velocity is in ft\/s/)).toBeVisible()

  await newLoop(wren, 'PT-934', 'pressure', '6', 'bar')
  await wren.getByRole('button', { name: 'Begin with the loop’s range' }).click()
  // The loop's own unit, on the label, in the field and in the sentence of the reading.
  await expect(wren.getByLabel('Pressure at 20 mA')).toHaveValue('6')
  await choose(wren, 'Compared with a known one', 'compared')
  await wren.getByLabel('Known to be there').fill('3')
  await wren.getByLabel('It reads').fill('4.013')
  await expect(wren.getByText(/Likeliest: the receiver takes an absolute pressure for a gauge/)).toBeVisible()
})

test('a pH sensor without a loop: two buffers, each stands before it counts; onto a loop, which knows it', async ({
  wren,
}) => {
  test.setTimeout(150_000)
  await wren.goto(address('/instruments?view=sensors'))
  await wren.getByRole('button', { name: 'Change E-3402' }).click()
  await wren.getByRole('button', { name: 'Calibrate it in buffers' }).click()
  const take = async (buffer: string, mV: string) => {
    await wren.getByLabel(/^Rinsed/).check()
    await wren.getByLabel(/Buffer on the bottle/).fill(buffer)
    await wren.getByLabel('Voltage that stands').fill(mV)
    await wren.getByLabel('Temperature in the beaker').fill('25')
    await wren.getByRole('button', { name: 'Note the first reading' }).click()
    await wren.getByLabel('Voltage that stands').fill(mV)
    // A hasty hand: nothing is taken before the time is over.
    await expect(wren.getByText(/Waits for \d+ s since the first reading/)).toBeVisible()
  }
  const taken = wren.getByRole('button', { name: 'Take this buffer' })
  // The wrong bottle is named.
  await wren.getByLabel(/^Rinsed/).check()
  await wren.getByLabel(/Buffer on the bottle/).fill('4,01')
  await wren.getByLabel('Voltage that stands').fill('-3')
  await wren.getByLabel('Temperature in the beaker').fill('25')
  await expect(wren.getByText(/it is near pH 7/)).toBeVisible()
  await take('7', '-3')
  await expect(taken).toBeDisabled()
  await expect(taken).toBeEnabled({ timeout: 20_000 })
  await taken.click()
  await take('4,01', '171')
  await expect(taken).toBeEnabled({ timeout: 20_000 })
  await taken.click()
  await wren.getByRole('button', { name: 'Enough: check it in a buffer' }).click()
  await take('7', '-3')
  await expect(wren.getByText(/As left it shows 7/)).toBeVisible({ timeout: 20_000 })
  await wren.getByRole('button', { name: 'Write it into the sensor’s data' }).click()
  await wren.getByRole('button', { name: 'Save', exact: true }).click()
  await expect(wren.getByRole('row', { name: /E-3402/ })).toContainText(/slope 98\.2\d? %/)
  await expect(wren.getByRole('row', { name: /E-3402/ })).toContainText('on the shelf')

  await newLoop(wren, 'AT-933', 'pH', '14', 'pH')
  await wren.getByRole('button', { name: 'Begin with the loop’s range' }).click()
  await wren.getByRole('button', { name: 'Take one of the stock' }).click()
  await wren.getByRole('button', { name: 'Take E-3402' }).click()
  await wren.getByRole('button', { name: 'Save revision' }).click()
  await expect(wren.getByText(/revision 2, saved/)).toBeVisible()
  await wren.goto(address('/instruments?view=sensors'))
  await expect(wren.getByRole('row', { name: /E-3402/ }).getByRole('link')).toHaveText('AT-933')
})
