import { randomUUID } from 'node:crypto'
import { readFileSync } from 'node:fs'
import type { Page } from '@playwright/test'
import { address, another, expect, test } from './setup/technician.ts'

const card = (page: Page) => page.locator('article.card')
const go = (page: Page) => page.locator('.next .bg-primary')

async function link(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Connect' }).click()
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
  const hold = card(page).getByRole('button', { name: /^(Apply|Hold) / })
  if ((await hold.count()) > 0) {
    await hold.click()
    await expect(card(page).getByText('stands still')).toBeVisible({ timeout: 20_000 })
  }
  const take = card(page).getByRole('button', { name: 'Take the reading' })
  if ((await take.count()) > 0) await take.click()
  for (const [label, text] of Object.entries(typed)) {
    const field = card(page).getByLabel(label, { exact: true })
    if ((await field.count()) > 0) await field.fill(text)
  }
  await expect(go(page)).toBeEnabled({ timeout: 20_000 })
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
  await begin(wren, 'PDT-201', /Zero trim/, true)
  await expect(go(wren)).toBeDisabled()
  await until(wren, /Close as found/)
  await wren.reload()
  await expect(card(wren).getByRole('heading')).toHaveText('Close as found')
  await until(wren, /Zero trim, or not/)
  await expect(card(wren).getByText(/Zero trim: the error is the same everywhere/)).toBeVisible()
  await until(wren, /Tell the operators/)
  await expect(card(wren)).toContainText('PDT-201 is yours again')
  await step(wren)
  await expect(wren.getByText('Last: Zero trim')).toBeVisible()
  await expect(wren.getByRole('cell', { name: 'Zero trim' })).toBeVisible()
  await wren.goto(address('/loops/PDT-201/record'))
  await expect(wren.getByRole('heading', { name: 'Zero trim, done' })).toBeVisible()
})

test('PT-103: the current is off by typed readings: advised against the zero trim, the output trim done', async ({
  wren,
}) => {
  test.setTimeout(120_000)
  // A current 0,2 mA high, the reading right.
  const off = (applied: number, more: number) => ({
    Applied: String(applied),
    'Transmitter reads': String(applied),
    'Loop current': String(4 + (16 * applied) / 6 + more).replace('.', ','),
  })
  const at = (title: string) => Number(/Read at ([\d.]+)/.exec(title)?.[1] ?? 0)
  await begin(wren, 'PT-103', /Zero trim/, false)
  await until(wren, /Zero trim, or not/, (t) => off(at(t), 0.2))
  await expect(card(wren).getByText(/not the right one.*do output trim/)).toBeVisible()
  await until(wren, /Tell the operators/)
  await step(wren)
  await expect(wren.getByText('Last: Zero trim')).toBeVisible()

  await begin(wren, 'PT-103', /Output trim/, false)
  await until(wren, /Output trim at 4 mA/, (t) => off(at(t), 0.2))
  await card(wren).getByLabel('Meter reads').fill('4.9')
  await expect(card(wren).getByRole('alert')).toContainText('too far from what was asked for')
  await card(wren).getByLabel('Meter reads').fill('4,2')
  await go(wren).click()
  await expect(card(wren).getByRole('heading')).toHaveText('Output trim at 20 mA')
  await until(wren, /Close as left/, (t) => ({ ...off(at(t), 0), 'Meter reads': '20.2' }))
})

test('AT-204: a wrong buffer is caught before it becomes a slope', async ({ wren }) => {
  await begin(wren, 'AT-204', /pH in one to five buffers/, false)
  await until(wren, /Buffer 1/, () => ({ 'pH shown': '7.4' }))
  const type = async (buffer: string, mV: string) => {
    await card(wren).getByLabel('Buffer on the bottle, pH at 25 °C').fill(buffer)
    await card(wren).getByLabel('Stable reading').fill(mV)
    await card(wren).getByLabel('Temperature').fill('22,5')
    await go(wren).click()
  }
  await type('4,01', '-3')
  await expect(wren.getByText(/it is near pH 7/)).toBeVisible()
  await type('7', '-3')
  await until(wren, /Buffer 2/)
  await type('4,01', '171')
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
  await expect(wren.getByText('holds 4 mA')).toBeVisible()

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
  await expect(dunlin.getByText('holds 4 mA')).toBeHidden()
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
