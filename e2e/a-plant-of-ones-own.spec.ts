import { readFileSync } from 'node:fs'
import { PDFParse } from 'pdf-parse'
import type { Browser, Page } from '@playwright/test'
import { ownServer } from './setup/own-server.ts'
import { choose } from './setup/set-up.ts'
import { cell, expect, press, signRecord, test } from './setup/technician.ts'

const PASSWORD = 'the kettle is in the panel'
let url = ''
let stop: () => Promise<void> = () => Promise.resolve()

test.beforeAll(async () => {
  ;({ url, stop } = await ownServer({ CALM_DEMO: 'none' }))
})
test.afterAll(() => stop())

const screen = async (browser: Browser): Promise<Page> => {
  const context = await browser.newContext({
    viewport: { width: 1280, height: 800 },
    reducedMotion: 'reduce',
  })
  return context.newPage()
}
async function setPassword(page: Page, does: string): Promise<void> {
  await page.getByLabel('New password').fill(PASSWORD)
  await page.getByLabel('The same again').fill(PASSWORD)
  await page.getByRole('button', { name: does }).click()
  await page.waitForURL(/\/loops$/)
}
async function invited(admin: Page, browser: Browser, shownName: string, name: string, role: RegExp) {
  await admin.getByRole('button', { name: 'Invite somebody' }).click()
  await admin.getByLabel('Name as it stands on papers').fill(shownName)
  await admin.getByLabel('Sign-in name').fill(name)
  await admin.locator('.v-select').filter({ hasText: 'Role' }).click()
  await press(admin.getByRole('option', { name: role }))
  await admin.getByLabel('Because').fill('joins the crew')
  await admin.getByRole('button', { name: 'Make the invitation' }).click()
  const link = (await admin.getByLabel('The link').textContent())?.trim() ?? ''
  await admin.getByRole('button', { name: 'I have it' }).click()
  const page = await screen(browser)
  await page.goto(link)
  await expect(page.getByText(`Welcome, ${shownName}`)).toBeVisible()
  await setPassword(page, 'Set it and go in')
  return { page, link }
}
async function act(admin: Page, who: string, does: string, because: string): Promise<void> {
  await admin.getByRole('button', { name: `What can be done: ${who}` }).click()
  await press(admin.getByRole('listitem').filter({ hasText: new RegExp(`^\\s*${does}\\s*$`) }))
  await admin.getByLabel('Because').fill(because)
  await admin.getByRole('dialog').getByRole('button', { name: does, exact: true }).click()
  await expect(admin.getByRole('dialog')).toHaveCount(0)
}

test('from an empty folder to a countersigned certificate, with two people invited, one locked, one key revoked', async ({
  browser,
}) => {
  test.setTimeout(240_000)
  // Nobody works here: the page asks for who lets others in, and a password that is too short is told at its field.
  const admin = await screen(browser)
  await admin.goto(url)
  await expect(admin.getByText('Nobody works here yet')).toBeVisible()
  await expect(admin.getByText('This is the demo plant')).toHaveCount(0)
  await admin.getByLabel('Your name, as it stands on papers').fill('Quay Mason')
  await admin.getByLabel('Sign-in name').fill('quay')
  await admin.getByLabel('New password').fill('short')
  await admin.getByRole('button', { name: 'Begin this plant' }).click()
  await expect(
    admin.getByText('At least 12 characters. A sentence is easy to remember.').first(),
  ).toBeVisible()
  await admin.getByLabel('New password').fill('123qweasdzxc')
  await admin.getByLabel('The same again').fill('123qweasdzxc')
  await admin.getByRole('button', { name: 'Begin this plant' }).click()
  await expect(admin.getByText('one of the most common passwords')).toBeVisible()
  await setPassword(admin, 'Begin this plant')
  await expect(admin.getByRole('button', { name: 'New loop' })).toHaveCount(0)
  await admin.getByRole('link', { name: 'Plant' }).click()
  await admin.getByLabel('Name of the plant').fill('Marsh Works')
  await admin.getByLabel('Name of the plant').press('Tab')
  await admin.getByRole('button', { name: 'People' }).click()

  const ibis = await invited(admin, browser, 'Ibis Fen', 'ibis', /^technician/)
  const rook = await invited(admin, browser, 'Rook Weir', 'rook', /^reviewer/)
  // A link opens once.
  const late = await screen(browser)
  await late.goto(ibis.link)
  await expect(late.getByText('This link is over')).toBeVisible()

  // The technician enters an instrument and a loop, reads it, and signs with the own password.
  const { page } = ibis
  await page.goto(`${url}/instruments`)
  await page.getByRole('button', { name: 'Add an instrument' }).click()
  for (const [label, text] of [
    ['Instrument', 'Loop calibrator'],
    ['Serial number', 'LC-7'],
    ['Range', '0 to 24 mA; 0 to 10 bar'],
    ['Uncertainty', '0.02 % of reading + 0.002 mA'],
    ['Certificate number', 'C-1'],
    ['Certified on', '2026-01-10'],
    ['Valid until', '2027-12-31'],
  ] as const)
    await page.getByRole('textbox', { name: new RegExp(`^${label}`) }).fill(text)
  await page.getByRole('button', { name: 'Add', exact: true }).click()
  await expect(page.getByText('LC-7')).toBeVisible()
  await page.goto(`${url}/loops`)
  await page.getByRole('button', { name: 'New loop' }).click()
  for (const [label, text] of [
    ['Tag', 'PT-1'],
    ['Type', 'pressure'],
    ['LRV', '0'],
    ['URV', '10'],
    ['Unit', 'bar'],
    ['Tolerance (% span)', '0.5'],
  ] as const)
    await page.getByLabel(label, { exact: true }).fill(text)
  await page.getByRole('button', { name: 'Add the loop' }).click()
  await expect(page.getByRole('heading', { name: 'PT-1' })).toBeVisible()
  await page.goto(`${url}/loops/PT-1/verify`)
  await choose(page, 'Test plan', '3 points up')
  await page.locator('.v-select').filter({ hasText: 'Instruments' }).click()
  await page.getByRole('option', { name: /Loop calibrator/ }).click()
  await page.keyboard.press('Escape')
  await page.getByRole('button', { name: 'Begin', exact: true }).click()
  for (const [i, applied, current] of [
    [1, '0', '4.001'],
    [2, '5', '12.002'],
    [3, '10', '20.001'],
  ] as const) {
    await cell(page, 'As found', i, 'Applied').fill(applied)
    await cell(page, 'As found', i, 'Loop').fill(current)
  }
  await page.getByRole('button', { name: 'Close as found' }).click()
  await page.getByRole('button', { name: 'Nothing was adjusted' }).click()
  await page.getByRole('button', { name: 'Look it through and sign' }).click()
  await page.getByLabel('Your password').fill('something else')
  await page.getByRole('button', { name: 'Sign as Ibis Fen' }).click()
  await expect(page.getByText('This is not your password. Nothing was signed')).toBeVisible()
  await page.getByRole('button', { name: 'Not now' }).click()
  await signRecord(page, 'sign', PASSWORD)
  await expect(page.getByText('Signed. A reviewer countersigns.')).toBeVisible()

  await rook.page.goto(`${url}/loops/PT-1/verify`)
  await signRecord(rook.page, 'countersign', PASSWORD)
  await expect(page.getByText('The record is complete.')).toBeVisible()
  const download = page.waitForEvent('download')
  await page.getByRole('link', { name: 'Certificate (PDF)' }).click()
  const { text } = await new PDFParse({ data: readFileSync(await (await download).path()) }).getText()
  const words = text.replace(/\s+/g, ' ')
  expect(words).toContain('Marsh Works')
  expect(words).toMatch(/Performed by Ibis Fen .* Reviewed by Rook Weir/)

  // Locked, out at once; revoked, and what was signed stays signed.
  await act(admin, 'Ibis Fen', 'Lock', 'lost the tablet')
  await expect(admin.locator('tr').filter({ hasText: 'Ibis Fen' })).toContainText('locked')
  await page.reload()
  await expect(page.getByRole('button', { name: 'Sign in' })).toBeVisible()
  await page.getByLabel('Sign-in name').fill('ibis')
  await page.getByLabel('Password').fill(PASSWORD)
  await page.getByRole('button', { name: 'Sign in' }).click()
  await expect(page.getByText('This account is locked. Ask an administrator.')).toBeVisible()
  await act(admin, 'Rook Weir', 'Revoke the key', 'seen over the shoulder')
  await expect(admin.locator('tr').filter({ hasText: 'Rook Weir' })).toContainText('none')

  await admin.getByRole('button', { name: 'Log', exact: true }).click()
  for (const title of ['Signing key ended', 'Locked', 'Signature failed', 'Invitation taken up'])
    await expect(admin.getByRole('cell', { name: title, exact: true }).first()).toBeVisible()
  await expect(admin.getByRole('cell', { name: 'seen over the shoulder' })).toBeVisible()
  await admin.getByRole('button', { name: 'I have looked it through up to here' }).click()
  await expect(admin.getByText(/Looked through last on .* by Quay Mason/)).toBeVisible()
  await admin.getByRole('button', { name: 'Proof', exact: true }).click()
  await expect(admin.getByText('Not proved')).toBeVisible()
  await admin.getByRole('button', { name: 'Prove the whole plant' }).click()
  await expect(admin.getByText(/^Whole$/)).toBeVisible()
  await expect(admin.getByText(/whether an older backup was put back is not judged/)).toBeVisible()
  await expect(
    admin.getByText(/1 loop with \d+ events, \d+ entries of the log and 2 signatures/),
  ).toBeVisible()
})
