import type { Page } from '@playwright/test'
import { address, expect, press, test } from './setup/technician.ts'

const view = (page: Page, name: string) => page.getByRole('button', { name, exact: true }).click()
const tells = (page: Page, text: string | RegExp) =>
  expect(page.locator('.finding').filter({ hasText: text }).first()).toBeVisible()
async function addPart(page: Page, title: string, many = 1): Promise<void> {
  await page.getByLabel('Add a part').fill(title)
  await press(page.getByRole('option', { name: title }).first())
  if (many > 1) {
    await page.locator('.v-select').filter({ hasText: 'How many' }).click()
    await press(page.getByRole('option', { name: String(many), exact: true }))
  }
  await page.getByRole('button', { name: 'Add', exact: true }).click()
}
const part = (page: Page, id: string) =>
  page.locator('section[aria-label=Parts] button').filter({ has: page.getByText(id, { exact: true }) })
async function choose(page: Page, label: string, option: string): Promise<void> {
  await page.locator('.v-select').filter({ hasText: label }).click()
  await press(page.getByRole('option', { name: option, exact: true }))
}
async function points(page: Page, on: string, off: string): Promise<void> {
  await page.getByLabel('Switches on at').fill(on)
  await page.getByLabel('Switches off at').fill(off)
  await page.getByLabel('Waves or noise').focus()
}

test('a target goes to and fro between 4 and 9 ft by two motors, and a plan the wrong way round is told', async ({
  wren,
}) => {
  await wren.goto(address('/loops'))
  await wren.getByRole('button', { name: 'New loop' }).click()
  for (const [label, text] of Object.entries({
    Tag: 'LT-930',
    Type: 'level, ultrasonic',
    Signal: '4-20 mA',
    LRV: '0',
    URV: '12',
    Unit: 'ft',
  }))
    await wren.getByLabel(label, { exact: true }).fill(text)
  await wren.getByRole('button', { name: 'Add the loop' }).click()
  await expect(wren.getByText('Nothing is wired here yet')).toBeVisible()

  await addPart(wren, '2-wire transmitter')
  await addPart(wren, 'Controller with relays')
  await addPart(wren, 'Motor, DC', 2)
  await addPart(wren, 'DC supply')
  await addPart(wren, '4-20 mA input')
  for (const [id, way] of [
    ['M-930', 'rises'],
    ['M-930-2', 'falls'],
  ] as const) {
    await part(wren, id).click()
    await choose(wren, 'While it runs', way)
  }
  await wren.getByRole('button', { name: 'Correct wiring' }).click()
  await wren.getByRole('button', { name: 'Draw it', exact: true }).click()
  // Both relays are wired and nobody has planned them: that is no proof.
  await tells(wren, /K1 of LC-930 has a plan/)

  await view(wren, 'Relays')
  await wren.getByRole('button', { name: 'Add a relay' }).click()
  await points(wren, '4', '9')
  await expect(wren.getByText('K1: on at 4 ft falling, off at 9 ft')).toBeVisible()
  await wren.getByRole('button', { name: 'Add a relay' }).click()
  await points(wren, '9', '4')
  await wren.getByLabel('Value at the start').fill('3')
  await wren.getByRole('button', { name: 'Let it run' }).click()
  await expect(wren.getByText(/The value goes to and fro\. Started: M-930 \d ×, M-930-2 \d ×/)).toBeVisible()
  await view(wren, 'Wiring')
  await tells(wren, 'The wiring is right')

  // Both points of the first relay exchanged: its motor drives the target on.
  await view(wren, 'Relays')
  await wren.getByRole('button', { name: /^K1: on at 4 ft/ }).click()
  await points(wren, '9', '4')
  await wren.getByRole('button', { name: 'Let it run' }).click()
  await expect(wren.getByText(/can both be closed/)).toBeVisible()
  await view(wren, 'Wiring')
  await tells(wren, /makes the value rise, and so runs only while it is too low/)
  await view(wren, 'Relays')
  await points(wren, '4', '9')

  await wren.getByLabel('Why (goes into the record)').fill('Two motors on one controller')
  await wren.getByRole('button', { name: 'Save revision' }).click()
  await expect(wren.getByText('revision 2, saved')).toBeVisible()
  // The same plan stands on Scale, and in the record in words.
  await wren.goto(address('/loops/LT-930/scale'))
  await expect(wren.getByText('K1: on at 4 ft falling, off at 9 ft')).toBeVisible()
  await wren.goto(address('/loops/LT-930/record'))
  await expect(
    wren.getByText(/K1: on at 4 ft falling, off at 9 ft; K2: on at 9 ft rising/).first(),
  ).toBeVisible()
})

test('a part from its plate is kept for the plant, and what was read at its points goes to the record', async ({
  wren,
}) => {
  await wren.goto(address('/loops/PT-405/wire'))
  await part(wren, 'PT-405').click()
  await wren.getByText('Name, place and nameplate').click()
  await wren.getByLabel('It is a').fill('Air transmitter of the works')
  await wren.getByLabel('Terminal +, printed').fill('71')
  await wren.getByRole('button', { name: 'Keep as a part of the plant’s own' }).click()
  await expect(wren.getByText('Kept: “Air transmitter of the works”')).toBeVisible()
  await expect(wren.getByRole('button', { name: /Terminal PT-405 71/ })).toBeVisible()
  await wren.getByRole('button', { name: 'Discard' }).click()
  await addPart(wren, 'Air transmitter of the works')
  await expect(wren.getByRole('button', { name: /^Part TX-405/ })).toBeVisible()
  await wren.getByRole('button', { name: 'Discard' }).click()

  await view(wren, 'What to read')
  await wren.getByLabel('Measured, V').first().fill('18')
  await expect(wren.getByText(/Not as it should be|As it should be/)).toBeVisible()
  await wren.getByRole('button', { name: 'Record what was read' }).click()
  await expect(wren.getByText('Stored in the record.')).toBeVisible()
  // What was typed is still there after another view.
  await view(wren, 'Lists')
  await view(wren, 'What to read')
  await expect(wren.getByLabel('Measured, V').first()).toHaveValue('18')
  await wren.goto(address('/loops/PT-405/record'))
  await expect(wren.getByText('Circuit read').first()).toBeVisible()
})
