import { randomUUID } from 'node:crypto'
import { readFileSync } from 'node:fs'
import type { Page } from '@playwright/test'
import { address, another, expect, test } from './setup/technician.ts'

const card = (page: Page) => page.locator('article.card')
const go = (page: Page) => page.locator('.next .bg-primary')

async function link(page: Page): Promise<void> {
  const connect = page.getByRole('button', { name: 'Connect' })
  await expect(connect.or(page.getByText('linked, unlocked')).first()).toBeVisible()
  // A journey before may have left it open.
  if (!(await connect.isVisible())) return
  await connect.click()
  await page.getByLabel(/Passcode/).fill('2580')
  await page.getByRole('button', { name: 'Unlock' }).click()
  await expect(page.getByText('linked, unlocked')).toBeVisible()
}
async function begin(page: Page, loop: string, procedure: RegExp, linked: boolean): Promise<void> {
  // Nobody waits for a pump here: the stand-in's time runs faster.
  await page.request.post(address(`/api/loops/${loop}/device/commands`), {
    data: { id: randomUUID(), command: { kind: 'speed', factor: 20 } },
  })
  await page.goto(address(`/loops/${loop}/trim`))
  if (linked) await link(page)
  else await page.getByLabel(/over the link/).uncheck()
  await page.getByRole('radio', { name: procedure }).check()
  await go(page).click()
  await expect(card(page)).toBeVisible()
}
/** Does what a careful technician does at the step that is on screen; typed values by the field's label. */
async function step(page: Page, typed: Readonly<Record<string, string>> = {}): Promise<string> {
  const title = await card(page).getByRole('heading').innerText()
  const operator = card(page).getByLabel(/Name of the operator/)
  if ((await operator.count()) > 0) await operator.fill('Curlew')
  for (const box of await card(page).getByRole('checkbox').all()) await box.check()
  const choice = card(page).getByRole('radio', { name: /recommended|It agrees/ })
  if ((await choice.count()) > 0) await choice.check()
  const valves = card(page).getByLabel(/Tags of the two valves/)
  if ((await valves.count()) > 0) await valves.fill('HV-1 and HV-2')
  const fill = async () => {
    for (const [label, text] of Object.entries(typed)) {
      const field = card(page).getByLabel(label, { exact: true })
      if ((await field.count()) > 0) await field.fill(text)
    }
  }
  await fill()
  const first = card(page).getByRole('button', { name: 'Note the first reading' })
  if ((await first.count()) > 0) {
    // A typed reading stands once the second one, a quarter of a minute later, agrees.
    await first.click()
    await expect(go(page)).toBeDisabled()
    await fill()
  }
  await expect(go(page)).toBeEnabled({ timeout: 30_000 })
  await go(page).click()
  return title
}
async function until(
  page: Page,
  title: RegExp,
  typed: (title: string) => Readonly<Record<string, string>> = () => ({}),
): Promise<void> {
  for (let n = 0; n < 45; n++) {
    const now = await card(page).getByRole('heading').innerText()
    if (title.test(now)) return
    await step(page, typed(now))
    await expect(card(page).getByRole('heading', { name: now, exact: true })).toBeHidden()
  }
  throw new Error(`never came to ${title.source}`)
}

test('PDT-201: zero trim over the link, from radio call to radio call, with a reload midway', async ({
  wren,
}) => {
  test.setTimeout(180_000)
  await begin(wren, 'PDT-201', /^Zero trim/, true)
  await expect(go(wren)).toBeDisabled()
  await until(wren, /^Read at -15 mbar/)
  // A hasty hand: the pump was worked a moment ago, and time runs as it does.
  const order = (command: object) =>
    wren.request.post(address('/api/loops/PDT-201/device/commands'), {
      data: { id: randomUUID(), command },
    })
  await order({ kind: 'speed', factor: 1 })
  await order({ kind: 'apply', value: -15 })
  await expect(card(wren).locator('[data-gate=still]')).toContainText(/waits for/)
  await expect(go(wren)).toBeDisabled()
  await order({ kind: 'speed', factor: 20 })
  await until(wren, /Close as found/)
  await wren.reload()
  await expect(card(wren).getByRole('heading')).toHaveText('Close as found')
  await until(wren, /Zero trim, or not/)
  await expect(card(wren).getByText(/Zero trim: the error is the same everywhere/)).toBeVisible()
  await until(wren, /Tell the operators/)
  await expect(card(wren)).toContainText('PDT-201 is yours again: adjusted, good.')
  await step(wren)
  await expect(wren.getByText('Last: Zero trim')).toBeVisible()
  await expect(wren.getByText(/Largest error as left .* at 5 points, allowed/)).toBeVisible()
  await expect(wren.getByText(/tolerance, before the trim/)).toBeVisible()
  await expect(wren.getByRole('cell', { name: 'adjusted, good, simulated' })).toBeVisible()
  await wren.goto(address('/loops/PDT-201/record'))
  await expect(wren.getByRole('heading', { name: 'Zero trim, adjusted, good' })).toBeVisible()
})

test('PT-103: a field zero by typed readings, each read twice, ends as adjusted and not verified', async ({
  wren,
}) => {
  test.setTimeout(180_000)
  await begin(wren, 'PT-103', /^Field zero/, false)
  const at = (pv: string) => () => ({ 'Transmitter reads': pv, 'Applied, by the standard': '0' })
  await until(wren, /^Read at zero$/, at('5,3'))
  await until(wren, /Zero, or leave it/, at('0,04'))
  await expect(card(wren).getByText(/At zero it reads 0\.04 bar/)).toBeVisible()
  await until(wren, /^Read at zero again$/, at('0,04'))
  // Against the gate: only with a reason, and never good.
  await card(wren).getByLabel('Transmitter reads').fill('0')
  await card(wren).getByLabel('Applied, by the standard').fill('0')
  await expect(go(wren)).toBeDisabled()
  await card(wren).getByRole('button', { name: 'Go on against it, with a reason' }).click()
  await expect(go(wren)).toBeDisabled()
  await card(wren).getByLabel('Why it is done against the gate').fill('rain in the box')
  await go(wren).click()
  await until(wren, /In automatic, operators told/)
  await expect(card(wren)).toContainText('PT-103 is yours again: adjusted, not verified.')
  await step(wren)
  await expect(wren.getByText('Last: Field zero')).toBeVisible()
  await wren.goto(address('/loops/PT-103/record'))
  await expect(wren.getByRole('heading', { name: 'Field zero, adjusted, not verified' })).toBeVisible()
  await expect(wren.getByText(/AGAINST THE GATE \(still\): rain in the box/)).toHaveCount(1)
})

test('PT-103: an output trim is not begun without a meter, and a meter left on volts is refused', async ({
  wren,
}) => {
  test.setTimeout(180_000)
  await wren.goto(address('/loops/PT-103/trim'))
  await wren.getByLabel(/over the link/).uncheck()
  await wren.getByRole('radio', { name: /Output trim/ }).check()
  await expect(wren.getByText(/Missing: a meter for the loop current, 4 to 20 mA/)).toBeVisible()
  await expect(go(wren)).toBeDisabled()
  await wren.getByLabel('Why it is done without').fill('borrowed, not in the register yet')
  await go(wren).click()
  await expect(card(wren)).toBeVisible()
  const reads = (title: string) => ({ 'Meter reads': / 4\.000 mA/.test(title) ? '4,2' : '20,2' })
  await until(wren, /Output trim at 4 mA/, reads)
  await card(wren).getByLabel('Meter reads').fill('4.9')
  await expect(card(wren).getByRole('alert')).toContainText('too far from what was asked for')
})

test('a real loop has no device standing on it, and no procedure that does not fit', async ({ wren }) => {
  const tag = `PT-${String(Date.now()).slice(-6)}`
  const like = (await (await wren.request.get(address('/api/loops/PT-103'))).json()) as {
    document: Record<string, unknown> & { setUp: { values: Record<string, unknown> } }
  }
  const setUp = { ...like.document.setUp, values: { ...like.document.setUp.values, duty: 'absolute' } }
  const made = await wren.request.post(address('/api/loops'), {
    data: { id: randomUUID(), document: { ...like.document, tag, setUp } },
  })
  expect(made.status()).toBe(201)
  await wren.goto(address(`/loops/${tag}/trim`))
  await expect(wren.getByRole('heading', { name: 'What is to be done' })).toBeVisible()
  await expect(wren.getByText('Stand-in')).toHaveCount(0)
  await expect(wren.getByLabel(/over the link/)).toHaveCount(0)
  await wren.getByRole('radio', { name: /^Zero trim/ }).check()
  await expect(wren.getByRole('alert')).toContainText(/absolute transmitter is never zeroed/)
  await expect(go(wren)).toBeDisabled()
  await wren.getByRole('button', { name: 'Lower and upper sensor trim' }).click()
  await expect(wren.getByText(/Missing: a standard over the whole range/)).toBeVisible()
})

test('AT-204: a wrong buffer is caught before it becomes a slope', async ({ wren }) => {
  test.setTimeout(120_000)
  await begin(wren, 'AT-204', /pH in one to five buffers/, false)
  await until(wren, /Buffer 1/, () => ({ 'pH shown': '7.4' }))
  const type = async (buffer: string, mV: string) => {
    await card(wren).getByLabel('Buffer on the bottle, pH at 25 °C').fill(buffer)
    await card(wren).getByLabel('Stable reading').fill(mV)
    await card(wren).getByLabel('Temperature').fill('22,5')
    await card(wren).getByLabel('pH shown there').fill(buffer)
  }
  const record = async (buffer: string, mV: string) => {
    await type(buffer, mV)
    await card(wren).getByRole('button', { name: 'Note the first reading' }).click()
    await type(buffer, mV)
    await expect(go(wren)).toBeEnabled({ timeout: 30_000 })
    await go(wren).click()
  }
  await record('4,01', '-3')
  await expect(wren.getByText(/it is near pH 7/)).toBeVisible()
  await type('7', '-3')
  await expect(go(wren)).toBeEnabled({ timeout: 30_000 })
  await go(wren).click()
  await until(wren, /Buffer 2/)
  await record('4,01', '171')
  await until(wren, /Take the new offset/)
  await expect(card(wren).getByText('Offset -2.42 mV, slope 98.62 %')).toBeVisible()
  await expect(card(wren).getByLabel('Adjust (recommended)')).toBeVisible()
})

test('PT-202: stopped while a current is held: led back, and taken over by another', async ({
  wren,
  browser,
}) => {
  await begin(wren, 'PT-202', /Loop check/, true)
  await until(wren, /Read at 4.000 mA/)
  await expect(wren.getByText('holds 4 mA', { exact: true })).toBeVisible()

  const dunlin = await another(browser, 'dunlin')
  await dunlin.goto(address('/loops/PT-202/trim'))
  await expect(dunlin.getByText(/is working at it\. Take it over/)).toBeVisible()
  await dunlin.getByRole('button', { name: 'Take it over' }).click()
  await expect(card(dunlin)).toBeVisible()
  await expect(wren.getByText(/is working at it\. Take it over/)).toBeVisible()

  await dunlin.getByRole('button', { name: 'Stop here and make it safe' }).click()
  await dunlin.getByLabel('Why it is stopped').fill('called to the pump house')
  await dunlin.getByRole('button', { name: 'Lead me back' }).click()
  await expect(card(dunlin).getByRole('heading')).toHaveText('Release the held current')
  await step(dunlin)
  await expect(dunlin.getByText('holds 4 mA', { exact: true })).toBeHidden()
  await until(dunlin, /Tell the operators/)
  await step(dunlin)
  await expect(dunlin.getByText('Last: Loop check by held current')).toBeVisible()
  await dunlin.context().close()
})

test('a configuration is copied without the characterization, and another sensor’s is never written', async ({
  wren,
}) => {
  const save = async (loop: string, button: string) => {
    await wren.goto(address(`/loops/${loop}/trim`))
    await wren.getByText('Configuration and link').click()
    const [download] = await Promise.all([
      wren.waitForEvent('download'),
      wren.getByRole('link', { name: button }).click(),
    ])
    return await download.path()
  }
  const copy = readFileSync(await save('PT-405', 'Copy for others'), 'utf8')
  expect(copy).not.toContain('characterization')
  const backup = await save('PT-405', 'Backup of this sensor')
  await wren.goto(address('/loops/LT-301/trim'))
  await link(wren)
  await wren.getByText('Configuration and link').click()
  await wren.locator('input[type=file]').setInputFiles({
    name: 'other.json',
    mimeType: 'application/json',
    buffer: readFileSync(backup),
  })
  await expect(wren.getByText(/another sensor’s, will not be written/)).toBeVisible()
  await wren
    .locator('input[type=file]')
    .setInputFiles({ name: 'x.json', mimeType: 'application/json', buffer: Buffer.from('{"kind":1}') })
  await expect(wren.getByText(/is not a configuration/)).toBeVisible()
})

test('PDT-201: an output that is right, a reading that is not: the sensor trim goes on without another call', async ({
  wren,
}) => {
  test.setTimeout(180_000)
  await begin(wren, 'PDT-201', /^Output trim/, true)
  await until(wren, /Measure at 4\.000 mA/)
  await expect(wren.getByRole('img', { name: /meter in series; the output holds 4 mA/ })).toBeVisible()
  await until(wren, /Output trim, or not/)
  const right = wren.getByRole('region', { name: 'The right procedure' })
  await right.getByRole('button', { name: 'Go on with: Lower and upper sensor trim' }).click()
  await expect(wren.getByRole('heading', { name: 'Lower and upper sensor trim' })).toBeVisible()
  await expect(card(wren).getByRole('heading')).toHaveText('Release the held current')
  await step(wren)
  // Its own cautions, and then the valves: the operators know, manual and bypass stand.
  await expect(card(wren).getByRole('heading')).toHaveText('Before you begin')
  await step(wren)
  await expect(card(wren).getByRole('heading')).toHaveText('Isolate from the process')
  await wren.reload()
  await expect(card(wren).getByRole('heading')).toHaveText('Isolate from the process')
  // Stopped here, it is led back to automatic by what the procedure before had put in manual.
  await wren.getByRole('button', { name: 'Stop here and make it safe' }).click()
  await wren.getByLabel('Why it is stopped').fill('storm')
  await wren.getByRole('button', { name: 'Lead me back' }).click()
  await expect(card(wren).getByRole('heading')).toHaveText('Trips active again')
  await step(wren)
  await expect(card(wren).getByRole('heading')).toHaveText('Back to automatic')
  await step(wren)
  await expect(card(wren).getByRole('heading')).toHaveText('Tell the operators')
  await step(wren)
  await expect(wren.getByText('What is to be done').first()).toBeVisible()
  await wren.goto(address('/loops/PDT-201/record'))
  await wren.locator('summary').nth(1).click()
  await expect(wren.getByText(/The work goes on by Lower and upper sensor trim/)).toBeVisible()
  await expect(wren.getByText('Output trim at 4 and 20 mA, good, untouched')).toBeVisible()
})
