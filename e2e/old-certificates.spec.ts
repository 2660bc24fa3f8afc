import { like } from './setup/own-loop.ts'
import { address, expect, test } from './setup/technician.ts'

test('ten years of old papers pasted, a wrong one held back, the drift judged and its interval taken', async ({
  wren,
}) => {
  await like(wren, 'PT-953', 'PT-103')
  await wren.goto(address('/loops/PT-953/record'))
  await wren.getByRole('button', { name: 'Earlier certificates' }).click()
  const dialog = wren.getByRole('dialog')
  // 0 to 6 bar; it rises by 0.06 % of span a year, and was put back in 2020. One day is none of the calendar.
  const rises = (y: number) => 6 * 0.0006 * (y <= 2020 ? y - 2014 : y - 2020) + (y % 2 ? 0.0006 : -0.0006)
  const lines = Array.from({ length: 10 }, (_, i) => 2015 + i).flatMap((y) => [
    `${y === 2017 ? '2017-02-30' : `${y}-05-14`};C-${y};0;${rises(y).toFixed(4)};${y === 2020 ? '0' : ''}`,
    `;;6;${(6 + rises(y)).toFixed(4)};${y === 2020 ? '6' : ''}`,
  ])
  await dialog
    .getByLabel('or paste them here, heading row first')
    .fill(['Date;Paper;Applied [bar];As found;As left', ...lines].join('\n'))
  await expect(dialog.getByText(/Line 6: “2017-02-30” is not a date of the calendar/)).toBeVisible()
  // What the program did not know a person says.
  await dialog.getByRole('combobox', { name: 'Paper' }).press('ArrowDown')
  await wren.getByRole('option', { name: 'Certificate', exact: true }).click()
  await dialog.getByRole('button', { name: 'Look at them' }).click()
  await expect(dialog.getByText(/9 certificates of 1 loop can be kept/)).toBeVisible()
  await dialog.getByRole('button', { name: 'Keep 9 certificates' }).click()
  await expect(dialog.getByText(/9 certificates of 1 loop are in the record/)).toBeVisible()
  await dialog.getByRole('button', { name: 'Close' }).click()
  const drift = wren.getByRole('region', { name: 'Drift' })
  await expect(drift.getByText(/It drifts by 0\.0\d+ % of span a year/)).toBeVisible()
  await expect(drift.getByText('9 of 9 come from certificates that were entered later.')).toBeVisible()
  await expect(drift.getByText(/chance of finding it out/)).toBeVisible()
  // A paper that was found later is typed off.
  await wren.getByRole('button', { name: 'Earlier certificates' }).click()
  await dialog.getByText('Type one off its paper').click()
  await dialog.getByLabel('Day of the certificate').fill('2017-05-14')
  await dialog.getByLabel('Its number').fill('C-2017')
  await dialog.getByLabel('As found, point 1').fill('0,0102')
  await dialog.getByLabel('As found, point 5').fill('6.0102')
  await dialog.getByRole('button', { name: 'Add it to the table' }).click()
  await dialog.getByRole('button', { name: 'Look at them' }).click()
  await dialog.getByRole('button', { name: 'Keep 1 certificate' }).click()
  await expect(dialog.getByText(/1 certificate of 1 loop is in the record/)).toBeVisible()
  await dialog.getByRole('button', { name: 'Close' }).click()
  await expect(drift.getByText('10 of 10 come from certificates that were entered later.')).toBeVisible()
  await drift.getByRole('button', { name: /^Take \d+ months/ }).click()
  await expect(wren.getByText(/by drift and use over 10 verifications/).first()).toBeVisible()
  await expect(wren.getByText(/9 certificates from 2015-05-14 to 2024-05-14, entered later/)).toBeVisible()
})
