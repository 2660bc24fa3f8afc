import { readFileSync } from 'node:fs'
import { choose, newLoop, result } from './setup/set-up.ts'
import { address, expect, test } from './setup/technician.ts'

test('a brine tank on a probe from an empty loop: dead zones, the level on the line, the table for the device', async ({
  wren,
}) => {
  await newLoop(wren, 'LT-921', 'level, guided wave', '2,2', 'm')
  await wren.getByRole('button', { name: 'Begin with the loop’s range' }).click()
  await wren.getByLabel('Probe length').fill('2,4 m')
  await wren.getByLabel('Upper dead zone').fill('120 mm')
  await wren.getByLabel('Lower dead zone').fill('8 cm')
  await expect(result(wren, 'Span')).toContainText('2.2000 m')
  // The point inside the dead zone is told with what the output would do.
  await choose(wren, '4 and 20 mA points', 'as distances')
  await wren.getByLabel('Distance at 20 mA').fill('0,05')
  await expect(wren.getByText(/stops at 96.92 % \(19.507 mA\)/).first()).toBeVisible()
  await wren.getByLabel('Distance at 20 mA').fill('0.12')
  await expect(wren.getByText(/Both points are inside what the probe measures/)).toBeVisible()
  // The level follows the current on the line.
  await expect(wren.getByRole('img', { name: /surface at 1.22 m/ })).toBeVisible()
  await wren.getByRole('button', { name: 'Open the signal path' }).click()
  await wren.getByRole('button', { name: '100 %', exact: true }).click()
  await wren.getByRole('button', { name: 'Make the signal path small' }).click()
  await expect(wren.getByRole('img', { name: /surface at 0.12 m/ })).toBeVisible()
  // A tank taller than the probe is named; then the right one.
  await choose(wren, 'Shape', 'upright cylinder or silo')
  await wren.getByLabel('Straight shell').fill('2,1')
  await wren.getByLabel('0 % point above bottom').fill('1')
  await expect(wren.getByText(/deeper than the probe/).first()).toBeVisible()
  await wren.getByLabel('0 % point above bottom').fill('0,1')
  await expect(result(wren, 'Volume at 100 %')).toContainText('m³')

  await wren.getByRole('button', { name: 'Tank table' }).click()
  await expect(wren.getByText(/11 points leave at most/)).toBeVisible({ timeout: 20_000 })
  const download = wren.waitForEvent('download')
  await wren.getByRole('button', { name: 'Table (CSV)' }).click()
  expect(
    readFileSync(await (await download).path(), 'utf8')
      .trim()
      .split('\n'),
  ).toHaveLength(12)
})

test('a strapping table of ten thousand rows comes in from a file; a falling one takes nothing', async ({
  wren,
}) => {
  await newLoop(wren, 'LT-922', 'level, radar', '10', 'm')
  await wren.getByRole('button', { name: 'Begin with the loop’s range' }).click()
  await wren.getByLabel('Empty distance').fill('10,5')
  await wren.getByLabel('Full distance').fill('0,5')
  await choose(wren, 'Shape', 'strapping table')
  await wren.getByRole('button', { name: 'Bring in a table' }).click()
  await wren.getByLabel(/or paste it/).fill('0;0\n1;5\n2;4')
  await wren.getByRole('button', { name: 'Take these rows' }).click()
  await expect(wren.getByText(/Row 3: the volume 4 falls below 5. Nothing was taken/)).toBeVisible()
  await expect(wren.getByLabel(/or paste it/)).toHaveValue('0;0\n1;5\n2;4')
  const rows = Array.from({ length: 10_001 }, (_, i) =>
    `${i / 1000};${(i / 1000) * 7.5}`.replaceAll('.', ','),
  )
  await wren.getByLabel('Table (CSV)').setInputFiles({
    name: 'strapping.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(['level;volume', ...rows].join('\r\n')),
  })
  await expect(wren.getByText('10001 rows')).toBeVisible()
  await expect(result(wren, 'Volume at 100 %')).toContainText('75.000 m³')
  await wren.getByLabel('Why (goes into the record)').fill('strapped by the surveyor')
  await wren.getByRole('button', { name: 'Save revision' }).click()
  await expect(wren.getByText(/revision 2, saved/)).toBeVisible()
  await wren.reload()
  await expect(wren.getByText('10001 rows')).toBeVisible()
})

test('LT-404 in both schools: the same milliamps, and the set-up that runs the other way is named', async ({
  wren,
}) => {
  await wren.goto(address('/loops/LT-404/set-up'))
  await expect(wren.getByText(/the 4 mA and the 20 mA point are exchanged/).first()).toBeVisible()
  await choose(wren, 'Output', 'level: 4 mA empty, 20 mA full')
  await expect(wren.getByText(/the 4 mA and the 20 mA point are exchanged/)).toHaveCount(0)
  await wren.getByLabel('Distance read').fill('0,55')
  await expect(result(wren, 'Current of the reading')).toContainText('16.0000 mA')
  await choose(wren, 'Output', 'own points, as distances')
  await wren.getByLabel('Distance at 4 mA').fill('1,45')
  await wren.getByLabel('Distance at 20 mA').fill('0,25')
  await expect(result(wren, '4 mA point')).toContainText('distance 1.45 m = level 0 m')
  await expect(result(wren, 'Current of the reading')).toContainText('16.0000 mA')
  await wren.getByRole('button', { name: 'Discard' }).click()
})

test('PDT-201: two water columns told, and the manifold tried before the real one is touched', async ({
  wren,
}) => {
  await wren.goto(address('/loops/PDT-201/set-up'))
  await expect(wren.getByText(/a span error of -0.1793 %/).first()).toBeVisible()
  await wren
    .getByRole('group', { name: 'Views of this bench' })
    .getByRole('button', { name: 'Manifold' })
    .click()
  await wren.getByRole('button', { name: 'E shut' }).click()
  await expect(wren.getByText(/The process flows through the manifold/)).toBeVisible()
  await wren.getByRole('button', { name: 'Back in service' }).click()
  for (const move of ['L open', 'E shut', 'H open', 'VH shut', 'VL shut'])
    await wren.getByRole('button', { name: move, exact: true }).click()
  await expect(wren.getByText('open VL: all three rules hold.')).toBeVisible()
  await expect(wren.getByRole('img', { name: /Manifold: open are E, VH, VL/ })).toBeVisible()
})

test('AT-204: the wrong bottle is told by its voltage', async ({ wren }) => {
  await wren.goto(address('/loops/AT-204/set-up'))
  await expect(wren.getByText(/The electrode is good/)).toBeVisible()
  await wren.getByLabel('Stable reading 2').fill('-172')
  await expect(wren.getByText(/is not a reading of buffer T4.00/).first()).toBeVisible()
  await wren.getByRole('button', { name: 'Discard' }).click()
})
