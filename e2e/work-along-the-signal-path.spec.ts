import { expect, test } from './setup/technician.ts'

test.beforeEach(async ({ wren }) => {
  await wren.goto(wren.url().replace(/\/loops.*/, '/loops/PT-202/scale'))
  await expect(wren.locator('[data-station=IN]')).toHaveValue('42.50')
})

test('a value typed at any station drives all the others', async ({ wren }) => {
  await wren.locator('[data-station=MA]').fill('13,46')
  await expect(wren.locator('[data-station=PCT]')).toHaveValue('59.125')
  await expect(wren.locator('[data-station=IN]')).toHaveValue('50.26')
  await wren.locator('[data-station=CNT]').fill('5912')
  await expect(wren.locator('[data-station=MA]')).toHaveValue('13.459')
  await wren.locator('[data-station=IN]').fill('5026 kPa')
  await expect(wren.locator('[data-station=PCT]')).toHaveValue('59.129')
})

test('keys go to the quarter points; arrows go along the line', async ({ wren }) => {
  await wren.keyboard.press('3')
  await expect(wren.locator('[data-station=MA]')).toHaveValue('16.000')
  await wren.locator('[data-station=IN]').focus()
  await wren.keyboard.press('ArrowRight')
  await expect(wren.locator('[data-station=PV]')).toBeFocused()
})

test('a current outside the measuring range is named, and upstream only a bound is known', async ({
  wren,
}) => {
  await wren.locator('[data-station=MA]').fill('21.3')
  await expect(wren.getByText('The transmitter reports a failure by a high current.')).toBeVisible()
  await expect(wren.getByText('≥').first()).toBeVisible()
})

test('nonsense is told and changes nothing', async ({ wren }) => {
  await wren.locator('[data-station=V]').fill('three')
  await expect(wren.getByRole('alert').filter({ hasText: '“three” is not a number' })).toBeVisible()
  await expect(wren.locator('[data-station=MA]')).toHaveValue('12.000')
})

test('the receiver left behind on PDT-201 is found, mended with one key and saved', async ({ wren }) => {
  await wren.goto(wren.url().replace('PT-202', 'PDT-201'))
  await expect(
    wren.getByText('The controller is scaled 0 to 200 mbar, the transmitter -15 to 185 mbar.'),
  ).toBeVisible()
  await wren.getByRole('button', { name: 'Set the controller to -15 to 185 mbar' }).click()
  await expect(wren.getByText('Transmitter and receivers agree')).toBeVisible()
  await wren.getByRole('button', { name: 'Save revision' }).dblclick()
  await expect(wren.getByText(/revision 4, saved/)).toBeVisible()
  await wren.keyboard.press('r')
  await expect(wren.getByText(/Controller at 0 %: 0 mbar .*-15 mbar/)).toBeVisible()

  // What was there before can be the newest again, with its reason and under this name.
  await wren.getByRole('button', { name: 'Restore revision 3' }).click()
  await wren.getByLabel('Why it is made the newest again').fill('tried only')
  await wren.getByRole('button', { name: 'Save as the newest revision' }).click()
  await expect(wren.getByRole('heading', { name: 'Revision 5' })).toBeVisible()
  await expect(wren.getByText('As revision 3 again: tried only')).toBeVisible()
  await expect(wren.getByText(/Controller at 0 %: -15 mbar .*0 mbar/)).toBeVisible()
})
