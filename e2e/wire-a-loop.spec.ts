import { readFileSync } from 'node:fs'
import type { Page } from '@playwright/test'
import { address, expect, test, press } from './setup/technician.ts'

interface NewLoop {
  readonly Tag: string
  readonly Type: string
  readonly Signal: string
  readonly LRV?: string
  readonly URV?: string
  readonly Unit?: string
}
async function newLoop(page: Page, cells: NewLoop): Promise<void> {
  await page.goto(address('/loops'))
  await page.getByRole('button', { name: 'New loop' }).click()
  for (const [label, text] of Object.entries<string>({ ...cells }))
    await page.getByLabel(label, { exact: true }).fill(text)
  await page.getByRole('button', { name: 'Add the loop' }).dblclick()
  await expect(page.getByRole('heading', { name: cells.Tag })).toBeVisible()
  await expect(page.getByText('Nothing is wired here yet')).toBeVisible()
}
async function addPart(page: Page, title: string): Promise<void> {
  await page.getByLabel('Add a part').fill(title)
  await press(page.getByRole('option', { name: title }).first())
  await page.getByRole('button', { name: 'Add', exact: true }).click()
}
/** Joins two terminals by pointer. */
async function join(page: Page, from: string, to: string): Promise<void> {
  for (const at of [from, to]) await page.locator(`[data-terminal="${at}"] circle`).click()
}
/** Joins two terminals by keyboard. */
async function joinByKeys(page: Page, from: string, to: string): Promise<void> {
  for (const at of [from, to]) {
    await page.locator(`[data-terminal="${at}"]`).focus()
    await page.keyboard.press('Enter')
  }
}
/** Joins two terminals in the list of connections. */
async function joinInList(page: Page, from: string, to: string): Promise<void> {
  for (const [label, text] of [
    ['From terminal', from],
    ['To terminal', to],
  ] as const) {
    await page.getByLabel(label).fill(text)
    await press(page.getByRole('option', { name: text, exact: true }))
  }
  await page.getByRole('button', { name: 'Connect', exact: true }).click()
}
const view = (page: Page, name: string) => page.getByRole('button', { name, exact: true }).click()
const tells = (page: Page, text: string | RegExp) =>
  expect(page.locator('.finding').filter({ hasText: text }).first()).toBeVisible()

test('a 2-wire loop by hand, with the meter in series, and the meter’s worst mistake', async ({ wren }) => {
  await newLoop(wren, {
    Tag: 'PT-901',
    Type: 'pressure',
    Signal: '4-20 mA',
    LRV: '0',
    URV: '10',
    Unit: 'bar g',
  })
  await wren.getByRole('button', { name: 'Begin with the usual parts' }).click()
  await join(wren, 'PS-901:plus', 'F-901:a')
  await join(wren, 'F-901:b', 'W-901:p1')
  await join(wren, 'W-901:f1', 'PT-901:plus')
  await join(wren, 'W-901:p2', 'AI-901:in')
  await join(wren, 'AI-901:com', 'PS-901:minus')
  await tells(wren, /No path back from terminal PT-901 −/)
  // The last wire is dragged.
  const [a, b] = await Promise.all(
    ['PT-901:minus', 'W-901:f2'].map((t) => wren.locator(`[data-terminal="${t}"] circle`).boundingBox()),
  )
  if (!a || !b) throw new Error('terminals are not drawn')
  await wren.mouse.move(a.x + a.width / 2, a.y + a.height / 2)
  await wren.mouse.down()
  await wren.mouse.move((a.x + b.x) / 2, a.y + 20, { steps: 4 })
  await wren.mouse.move(b.x + b.width / 2, b.y + b.height / 2, { steps: 4 })
  await wren.mouse.up()
  await tells(wren, 'The wiring is right: PT-901 holds 12 mA and AI-901 reads 50 %.')

  // Meter in series with the power on: it works, and the safe order is told.
  await wren.locator('[data-wire="6"] rect').click()
  await wren.getByRole('button', { name: 'Open it and put the meter in series' }).click()
  await expect(wren.locator('output')).toHaveText('+12.000 mA')
  await expect(wren.getByText(/A loop was opened or closed with the power on/)).toBeVisible()
  await wren.getByRole('button', { name: 'Open the signal path' }).click()
  await wren.getByRole('button', { name: '100 %' }).click()
  await wren.getByRole('button', { name: 'Make the signal path small' }).click()
  await expect(wren.locator('output')).toHaveText('+20.000 mA')

  // The worst mistake: leads still in the mA jack, then across the supply.
  await wren.getByRole('button', { name: 'Take the leads off' }).click()
  for (const [lead, at] of [
    ['Red lead on', 'PS-901 +'],
    ['Black lead on', 'PS-901 −'],
  ] as const) {
    await wren.getByLabel(lead).fill(at)
    await press(wren.getByRole('option', { name: at, exact: true }))
  }
  await expect(wren.getByText(/The mA fuse has blown/)).toBeVisible()
  await wren.getByRole('button', { name: 'Take the leads off' }).click()
  await wren.getByRole('button', { name: 'Replace blown fuses' }).click()
  await expect(wren.getByRole('button', { name: 'Replace blown fuses' })).toHaveCount(0)

  // A fault, found and mended; undo; saved, and there after a reload.
  await wren.locator('[data-wire="1"] rect').click()
  await wren.getByRole('button', { name: 'Wire broken' }).click()
  await tells(wren, /No path back from terminal PT-901 \+/)
  await wren.getByRole('button', { name: 'Mend' }).click()
  await wren.getByLabel('Why (goes into the record)').fill('wired as built')
  await wren.getByRole('button', { name: 'Save revision' }).dblclick()
  await expect(wren.getByText('revision 2, saved')).toBeVisible()
  await wren.reload()
  await tells(wren, /The wiring is right: PT-901 holds/)

  await wren.getByRole('button', { name: 'What to read' }).click()
  await expect(wren.getByRole('row', { name: /AI-901, across the input/ })).toContainText('5.00 V')
  await wren.getByRole('button', { name: 'Lists' }).click()
  const download = wren.waitForEvent('download')
  await wren.getByRole('button', { name: 'Termination list (CSV)' }).click()
  const csv = readFileSync(await (await download).path(), 'utf8')
  expect(csv).toContain('PT-901,1,PS-901 +,F-901 1,RD')
})

test('a passive 4-wire output: dead, then by its own jumper, then from an outside supply', async ({
  wren,
}) => {
  await newLoop(wren, { Tag: 'FT-902', Type: 'flow', Signal: '4-20 mA', LRV: '0', URV: '50', Unit: 'm3/h' })
  for (const part of ['4-wire transmitter, passive output', 'Mains circuit', '4-20 mA input'])
    await addPart(wren, part)
  await wren.getByRole('button', { name: 'Part TX-902', exact: false }).first().click()
  await wren.locator('.v-select').filter({ hasText: 'Own supply' }).click()
  await press(wren.getByRole('option', { name: 'mains' }))
  for (const t of ['L', 'N', 'PE']) await join(wren, `Q-902:${t}`, `TX-902:${t}`)
  await join(wren, 'TX-902:minus', 'AI-902:in')
  await join(wren, 'TX-902:plus', 'AI-902:com')
  await tells(wren, /No current at TX-902: no loop power/)

  // The school with the jumper.
  await wren.keyboard.press('Control+z')
  await joinByKeys(wren, 'TX-902:auxP', 'TX-902:plus')
  await joinByKeys(wren, 'AI-902:com', 'TX-902:auxN')
  await tells(wren, 'The wiring is right: TX-902 holds 12 mA and AI-902 reads 50 %.')

  // The school with an outside supply.
  await wren.keyboard.press('Control+z')
  await wren.keyboard.press('Control+z')
  await addPart(wren, 'DC supply')
  await join(wren, 'PS-902:plus', 'TX-902:plus')
  await join(wren, 'AI-902:com', 'PS-902:minus')
  await tells(wren, 'The wiring is right: TX-902 holds 12 mA and AI-902 reads 50 %.')
})

test('a PNP sensor on a sinking card, by keyboard', async ({ wren }) => {
  await newLoop(wren, { Tag: 'ZS-903', Type: 'switch, inductive', Signal: 'PNP NO' })
  await wren.getByRole('button', { name: 'Begin with the usual parts' }).click()
  for (const [from, to] of [
    ['ZS-903:bn', 'W-903:f1'],
    ['ZS-903:bk', 'W-903:f2'],
    ['ZS-903:bu', 'W-903:f3'],
    ['W-903:p1', 'PS-903:plus'],
    ['W-903:p2', 'DI-903:in'],
    ['W-903:p3', 'PS-903:minus'],
    ['DI-903:com', 'PS-903:minus'],
  ] as const)
    await joinByKeys(wren, from, to)
  await tells(wren, 'The wiring is right: DI-903 is 0.')
  await wren.getByLabel('ZS-903: no target').click()
  await tells(wren, 'The wiring is right: DI-903 is 1.')
  await wren.getByRole('button', { name: 'Sensing' }).click()
  await expect(wren.getByText('DI-903 reads 0 without and 1 with target')).toBeVisible()
})

test('ZS-307, an NPN sensor on a sinking card: explained, mended by a relay, then by a resistor', async ({
  wren,
}) => {
  await wren.goto(address('/loops/ZS-307/wire'))
  await tells(
    wren,
    /No current: the input DI-307 and the sensor ZS-307 both switch to 0 V, so nothing supplies \+24 V/,
  )
  const bit = wren.getByRole('button', { name: /^Part DI-307/ })
  await wren.getByLabel('ZS-307: no target').click()
  await expect(bit).toContainText('bit 0')

  await wren.getByRole('button', { name: 'Correct wiring' }).click()
  await wren.getByRole('button', { name: 'Draw it with: Put a relay between them' }).click()
  await tells(wren, 'The wiring is right: DI-307 is 1.')
  await expect(wren.getByRole('button', { name: /^Part K-307/ })).toContainText('pulled in')
  await wren.getByLabel('ZS-307: target present').click()
  await expect(bit).toContainText('bit 0')

  await wren.getByRole('button', { name: 'Undo' }).click()
  await tells(wren, /both switch to 0 V/)
  await wren.getByRole('button', { name: 'Correct wiring' }).click()
  await wren.getByRole('button', { name: /Draw it with: Pull-up of 2700 Ω/ }).click()
  // It inverts, as it was said.
  await tells(wren, 'The wiring is right: DI-307 is 1.')
  await wren.getByLabel('ZS-307: no target').click()
  await tells(wren, 'The wiring is right: DI-307 is 0.')
  await wren.getByRole('button', { name: 'Discard' }).click()
  await tells(wren, /both switch to 0 V/)
})

test('a float NC, joined in the list of connections', async ({ wren }) => {
  await newLoop(wren, { Tag: 'LSH-905', Type: 'switch, float', Signal: 'dry contact NC' })
  await wren.getByRole('button', { name: 'Begin with the usual parts' }).click()
  await view(wren, 'Connections')
  for (const [from, to] of [
    ['LSH-905 1', 'W-905 1 field'],
    ['LSH-905 2', 'W-905 2 field'],
  ] as const)
    await joinInList(wren, from, to)
  await joinInList(wren, 'DI-905 com', 'PS-905 −')
  await view(wren, 'Wiring')
  await join(wren, 'W-905:p1', 'PS-905:plus')
  await join(wren, 'W-905:p2', 'DI-905:in')
  await tells(wren, 'The wiring is right: DI-905 is 1.')
  await wren.getByLabel('LSH-905: float hangs').click()
  await tells(wren, 'The wiring is right: DI-905 is 0.')
  // A broken wire looks like a high level: that is what NC is for.
  await wren.getByLabel('LSH-905: float up').click()
  await wren.locator('[data-wire="1"] rect').click()
  await wren.getByRole('button', { name: 'Wire broken' }).click()
  await expect(wren.getByRole('button', { name: /^Part DI-905/ })).toContainText('bit 0')
})

test('impossible label data are told at the field and lose nothing', async ({ wren }) => {
  await wren.goto(address('/loops/PT-103/wire'))
  await wren.getByRole('button', { name: /^Part PT-103/ }).click()
  const lift = wren.getByLabel('Lift-off voltage, V')
  await lift.fill('-3')
  await expect(wren.getByText('Lift-off voltage is -3 V; possible is 1 to 40 V.').first()).toBeVisible()
  await expect(wren.getByRole('button', { name: 'Save revision' })).toBeDisabled()
  await lift.fill('11,5')
  await tells(wren, /The wiring is right/)
  await wren.getByRole('button', { name: 'Discard' }).click()
  await expect(lift).toHaveValue('10.5')
})

test('a wire at the wrong terminal is named, and moved by one act; then the wiring is proved', async ({
  wren,
}) => {
  await newLoop(wren, {
    Tag: 'PT-911',
    Type: 'pressure',
    Signal: '4-20 mA',
    LRV: '0',
    URV: '10',
    Unit: 'bar g',
  })
  for (const part of ['2-wire transmitter', 'DC supply', '4-20 mA input']) await addPart(wren, part)
  await join(wren, 'TX-911:plus', 'PS-911:plus')
  await join(wren, 'TX-911:minus', 'AI-911:com')
  await join(wren, 'AI-911:in', 'PS-911:minus')
  // Swapped at the card: it reads below its range, and the wires are named.
  await tells(wren, /Wires 2 and 3 are exchanged, at AI-911/)
  await expect(wren.getByText(/What has to hold: \d of \d do/)).toBeVisible()
  await wren.getByRole('button', { name: /^Exchange the wires at/ }).click()
  await tells(wren, 'The wiring is right: TX-911 holds 12 mA and AI-911 reads 50 %.')
  await wren.getByText(/What has to hold/).click()
  await expect(wren.getByText('AI-911 reads the current that is sent')).toBeVisible()

  // A wire that is missing.
  await wren.keyboard.press('Control+z')
  await wren.keyboard.press('Control+z')
  await tells(wren, /a wire is missing or open/)
})

test('what was read in the field is held against the circuit, and what explains it is named', async ({
  wren,
}) => {
  await wren.goto(address('/loops/PT-202/wire?view=read'))
  const row = (name: RegExp) => wren.getByRole('row', { name })
  const type = (name: RegExp, text: string) => row(name).getByRole('textbox').fill(text)
  await type(/PS-200, supply/, '24,1')
  await expect(wren.getByText('It is as it should be.')).toBeVisible()
  await type(/PT-202, at the transmitter/, '0')
  await type(/AI-202, across the input/, '0')
  await expect(wren.getByText('Not as it should be')).toBeVisible()
  await expect(wren.getByText(/broken \(/).first()).toBeVisible()
  // The other view and back: what was typed is still there.
  await wren.getByRole('button', { name: 'Lists', exact: true }).click()
  await expect(wren.getByRole('heading', { name: 'Before landing wires' })).toBeVisible()
  await wren.getByRole('button', { name: 'What to read', exact: true }).click()
  await expect(row(/AI-202, across the input/).getByRole('textbox')).toHaveValue('0')
})
