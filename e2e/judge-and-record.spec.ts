import { readFileSync } from 'node:fs'
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate'
import { choose } from './setup/set-up.ts'
import { address, cell, expect, test } from './setup/technician.ts'

test('TT-205: begun with its instruments, the uncertainty follows and decides', async ({ wren }) => {
  await wren.goto(address('/loops/TT-205/verify'))
  const again = wren.getByRole('button', { name: 'New verification' })
  const heading = wren.getByRole('heading', { name: 'Begin a verification' })
  await again.or(heading).first().waitFor()
  if (await again.isVisible()) await again.click()
  await choose(wren, 'Test plan', '3 points up')
  await wren.locator('.v-select').filter({ hasText: 'Instruments' }).click()
  await wren.getByRole('option', { name: /Low pressure/ }).click()
  await wren.getByRole('option', { name: /Loop calibrator/ }).click()
  // A pressure calibrator knows nothing of degrees, and that is said.
  await expect(wren.getByText('No instrument was chosen for what is applied (°C).')).toBeVisible()
  await wren.getByRole('option', { name: /Dry-block/ }).click()
  await wren.keyboard.press('Escape')
  await expect(wren.getByText(/The comparison is known to/)).toContainText('±0.1')
  await wren.getByRole('button', { name: 'Prove it by trials' }).click()
  await expect(wren.getByText(/trials: .* in 95 of 100 cases/)).toBeVisible({ timeout: 30_000 })
  await choose(wren, 'Decision rule', 'Guard band: accepted only inside the tolerance less the uncertainty')
  await wren.getByRole('button', { name: 'Begin' }).click()
  // 0.45 % off: inside the tolerance of 0.5 %, not inside it less the uncertainty.
  await cell(wren, 'As found', 1, 'Applied').fill('5')
  await cell(wren, 'As found', 1, 'Controller').fill('5,18')
  await cell(wren, 'As found', 2, 'Applied').focus()
  await expect(wren.getByText(/In tolerance, but not for certain as found/)).toBeVisible()
  await expect(
    wren.getByText(/Not accepted by the guard band.*probability of being out of tolerance is/),
  ).toBeVisible()
})

test('ZS-306: counted behind its filter, forced both ways, recorded', async ({ wren }) => {
  await wren.goto(address('/loops/ZS-306/verify'))
  await wren.getByRole('button', { name: 'the last 1 h' }).click()
  await expect(wren.getByText(/\d+ counted, \d+ bounces taken away by the filter/)).toBeVisible()
  // Without the filter every bounce is a part.
  await wren.getByLabel(/^Filter/).fill('0')
  await wren.getByLabel(/^Good ones/).focus()
  await expect(wren.getByText(/parts counted twice/)).toBeVisible()
  await expect(wren.getByText('It does not do what it should')).toBeVisible()
  await wren.getByLabel(/^Filter/).fill('')
  await choose(wren, 'Input while it senses', '1')
  await choose(wren, 'Input while it does not', '0')
  await expect(wren.getByText('It does what it should')).toBeVisible()
  await wren.getByRole('button', { name: 'Record', exact: true }).click()
  await expect(wren.getByText('Recorded: it does what it should.')).toBeVisible()
  await wren.goto(address('/loops/ZS-306/record'))
  await expect(wren.getByRole('heading', { name: 'Input verified' })).toBeVisible()
})

test('FT-402: held against its baseline, which is not drawn out beyond its flows', async ({ wren }) => {
  await wren.goto(address('/loops/FT-402/verify'))
  await wren.getByRole('button', { name: 'Against a reference' }).click()
  const run = async (n: number, reference: string, meter: string) => {
    await wren.getByLabel(`Reference, run ${n}`).fill(reference)
    await wren.getByLabel(`Meter, run ${n}`).fill(meter)
  }
  await run(1, '600', '615')
  await run(2, '2,4 t/h', '2460')
  await wren.getByLabel('Note').focus()
  await expect(wren.getByText(/Since the baseline of 2024-11-05 it moved by \+1\.\d+ %/)).toBeVisible()
  await expect(wren.getByText(/1 run lies outside the flows of the baseline/)).toBeVisible()
  await wren.getByRole('button', { name: 'Record', exact: true }).click()
  await expect(wren.getByText('stored in the record')).toBeVisible()
  await expect(wren.getByRole('listitem').filter({ hasText: 'portable meter, 2 runs' })).toBeVisible()
})

test('a loop goes out as a package that proves itself, and a forged one is told by its event', async ({
  wren,
}) => {
  await wren.goto(address('/loops/LT-102/record'))
  const waiting = wren.waitForEvent('download')
  await wren.getByRole('button', { name: 'Package (ZIP)' }).click()
  const bytes = readFileSync(await (await waiting).path())
  const files = unzipSync(bytes)
  expect(Object.keys(files)).toContain('loop.schema.json')
  const forged = zipSync({
    ...files,
    'loop.json': strToU8(
      strFromU8(files['loop.json'] ?? new Uint8Array())
        .replace('"level": "', '"level": "x')
        .replace('"plan": "P5UD"', '"plan": "P5"'),
    ),
  })
  await wren.goto(address('/loops/import'))
  const file = wren.getByLabel('Package (ZIP)')
  await file.setInputFiles({ name: 'forged.zip', mimeType: 'application/zip', buffer: Buffer.from(forged) })
  await expect(wren.getByText(/Event \d+ \(run\.started\) was changed after it was recorded/)).toBeVisible()
  await file.setInputFiles({ name: 'LT-102.zip', mimeType: 'application/zip', buffer: bytes })
  await expect(wren.getByText('was here already, with the same record')).toBeVisible()
})

test('LT-102 drifts: told in the plant’s list and in its record', async ({ wren }) => {
  await wren.keyboard.press('d')
  await expect(wren.getByRole('heading', { name: 'Drift' })).toBeVisible()
  const row = wren.getByRole('row').filter({ hasText: 'LT-102' })
  await expect(row).toContainText(/may leave it on/)
  await row.getByRole('link').click()
  await expect(wren.getByText(/It drifts by 0\.0\d+ % of span a year/)).toBeVisible()
})

test('FT-206: a health check holds the output, can be waited for, and becomes the reference', async ({
  wren,
}) => {
  // The temperature of what stands in the pipe is read twice, a minute apart.
  test.setTimeout(240_000)
  await wren.goto(address('/loops/FT-206/trim'))
  await wren.getByRole('button', { name: 'Connect' }).click()
  await wren.getByLabel(/Passcode/).fill('2580')
  await wren.getByRole('button', { name: 'Unlock' }).click()
  await wren.getByText('Health, relays and what is applied by hand').click()
  await choose(wren, 'Time of the stand-in runs', '20 times as fast')
  await wren.getByRole('radio', { name: /Health check of the device/ }).check()
  const go = wren.locator('.next .bg-primary')
  const card = wren.locator('article.card')
  await go.click()
  for (let n = 0; n < 15; n++) {
    const title = await card.getByRole('heading').innerText()
    if (title === 'What it found') break
    for (const box of await card.getByRole('checkbox').all()) await box.check()
    const operator = card.getByLabel(/Name of the operator/)
    if ((await operator.count()) > 0) await operator.fill('Curlew')
    const valves = card.getByLabel(/Tags of the two valves/)
    if ((await valves.count()) > 0) await valves.fill('HV-1 and HV-2')
    const choice = card.getByRole('radio', { name: /recommended/ })
    if ((await choice.count()) > 0) await choice.check()
    const temperature = card.getByLabel('Temperature')
    if ((await temperature.count()) > 0) {
      await temperature.fill('18,4')
      await card.getByRole('button', { name: 'Note the first reading' }).click()
      await temperature.fill('18,6')
      await expect(go).toBeDisabled()
    }
    await expect(go).toBeEnabled({ timeout: 90_000 })
    await go.click()
    await expect(card.getByRole('heading', { name: title, exact: true })).toBeHidden()
  }
  await card.getByRole('button', { name: 'Take the reading' }).click()
  await expect(card.getByLabel('Largest change since the first check')).toHaveValue('0')
  await expect(wren.getByRole('row').filter({ hasText: 'Drive gain' })).not.toContainText('not yet')
})
