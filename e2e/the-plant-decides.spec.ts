import type { Browser, Page } from '@playwright/test'
import { generate } from 'otplib'
import writeXlsxFile from 'write-excel-file/node'
import { ownServer } from './setup/own-server.ts'
import { choose } from './setup/set-up.ts'
import { expect, press, test } from './setup/technician.ts'

const PNG = 'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg=='
let url = ''
let stop: () => Promise<void> = () => Promise.resolve()
test.beforeAll(async () => {
  ;({ url, stop } = await ownServer())
})
test.afterAll(() => stop())

async function at(browser: Browser, name: string): Promise<Page> {
  const context = await browser.newContext({
    viewport: { width: 1280, height: 800 },
    reducedMotion: 'reduce',
  })
  const page = await context.newPage()
  await page.goto(`${url}/sign-in`)
  await page.getByLabel('Sign-in name').fill(name)
  await page.getByLabel('Password').fill('salt-and-water')
  await page.getByRole('button', { name: 'Sign in', exact: true }).click()
  await page.waitForURL(/\/loops$/)
  return page
}
const loopOf = async (page: Page, tag: string) => {
  const res = await page.request.get(`${url}/api/loops/${tag}`)
  return res.ok()
    ? ((await res.json()) as {
        area: string
        document: { tolerance: { pctSpan: number } | null; interval_months: number | null }
      })
    : null
}

test('what the plant asks of a kind of meter stands in the next new loop; a wrong figure is told at its place', async ({
  browser,
}) => {
  const admin = await at(browser, 'plover')
  await admin.getByRole('link', { name: 'Plant' }).click()
  const tolerance = admin.getByLabel('Tolerance, % of span of Pressure and differential pressure')
  await tolerance.fill('half a percent')
  await tolerance.press('Tab')
  await expect(admin.getByRole('row', { name: /^Pressure and diff/ }).getByRole('alert')).toContainText(
    'not a number',
  )
  await expect(tolerance).toHaveValue('half a percent')
  await tolerance.fill('0,5')
  await tolerance.press('Tab')
  await expect(
    admin
      .getByRole('region', { name: 'Decided so far' })
      .getByText('Pressure and differential pressure: tolerance, % of span: not said → 0.5'),
  ).toBeVisible()
  await admin.getByLabel('Records are kept for').fill('0')
  await admin.getByLabel('Records are kept for').press('Tab')
  await expect(admin.getByText('At least 1 year.').first()).toBeVisible()

  const wren = await at(browser, 'wren')
  await wren.getByRole('button', { name: 'New loop' }).click()
  for (const [label, text] of [
    ['Tag', 'PT-981'],
    ['Type', 'pressure'],
    ['LRV', '0'],
    ['URV', '10'],
    ['Unit', 'bar'],
  ] as const)
    await wren.getByLabel(label, { exact: true }).fill(text)
  await expect(wren.getByText('left empty, so the plant’s rule gives 0.5 % of span')).toBeVisible()
  await wren.getByRole('button', { name: 'Add the loop' }).click()
  await expect(wren.getByRole('heading', { name: 'PT-981' })).toBeVisible()
  expect((await loopOf(wren, 'PT-981'))?.document.tolerance?.pctSpan).toBe(0.5)
})

test('a loop gets another tag, another one like it, goes out of use and comes back', async ({ browser }) => {
  const wren = await at(browser, 'wren')
  const more = async (tag: string, does: string) => {
    await wren.getByRole('button', { name: `More about ${tag}` }).click()
    await press(wren.getByRole('listitem').filter({ hasText: does }))
  }
  await wren.goto(`${url}/loops/PT-103/scale`)
  await more('PT-103', 'A new loop like this one')
  const dialog = wren.getByRole('dialog')
  await dialog.getByLabel('New tag').fill('PT-202')
  await dialog.getByRole('button', { name: 'Add the loop' }).click()
  await expect(dialog.getByText('The tag PT-202 is in use.')).toBeVisible()
  await dialog.getByLabel('New tag').fill('PT-982')
  await dialog.getByRole('button', { name: 'Add the loop' }).click()
  await expect(wren.getByRole('heading', { name: 'PT-982' })).toBeVisible()
  // Nothing of it is good by the other's work.
  const copy = (await (await wren.request.get(`${url}/api/loops/PT-982`)).json()) as {
    summary: { parts: Record<string, string> }
  }
  expect(Object.values(copy.summary.parts)).not.toContain('good')
  await more('PT-982', 'Give it another tag')
  await dialog.getByLabel('New tag').fill('PT-983')
  await dialog.getByRole('button', { name: 'Rename' }).click()
  await expect(dialog.getByText('Say why: it stands with the revision.')).toBeVisible()
  await dialog.getByLabel('Because').fill('new numbering')
  await dialog.getByRole('button', { name: 'Rename' }).click()
  await expect(wren.getByRole('heading', { name: 'PT-983' })).toBeVisible()
  await more('PT-983', 'Take it out of use')
  await dialog.getByLabel('Because').fill('never built')
  await dialog.getByRole('button', { name: 'Take out of use' }).click()
  await expect(wren.getByRole('link', { name: /PT-983/ })).toContainText('out of use since')
  expect(await loopOf(wren, 'PT-983')).toBeNull()
  await wren.getByRole('link', { name: /PT-983/ }).click()
  await expect(wren.getByText('Its record can be read; nothing is recorded on it.')).toBeVisible()
  await expect(wren.getByRole('navigation', { name: 'Benches' }).getByRole('link')).toHaveCount(1)
  await wren.getByRole('button', { name: 'Bring it back' }).click()
  await dialog.getByLabel('Because').fill('built after all')
  await dialog.getByRole('button', { name: 'Bring it back' }).click()
  await expect(wren.getByRole('navigation', { name: 'Benches' }).getByRole('link')).toHaveCount(6)
  expect(await loopOf(wren, 'PT-983')).not.toBeNull()
})

test('several loops are changed at once', async ({ browser }) => {
  const wren = await at(browser, 'wren')
  await wren.getByRole('button', { name: 'More about the list' }).click()
  await press(wren.getByRole('listitem').filter({ hasText: 'Change several at once' }))
  for (const tag of ['FT-206', 'TT-205'])
    await wren.locator('label', { hasText: tag }).getByRole('checkbox').check()
  await wren.getByRole('button', { name: 'Change them' }).click()
  const dialog = wren.getByRole('dialog')
  await dialog.getByLabel('Interval, months').fill('0')
  await dialog.getByLabel('Because').fill('by the new list')
  await dialog.getByRole('button', { name: 'Change 2 loops' }).click()
  await expect(dialog.getByText('At least 1 month.')).toBeVisible()
  await dialog.getByLabel('Interval, months').fill('9')
  await dialog.getByRole('button', { name: 'Change 2 loops' }).click()
  await expect(wren.getByText('2 changed.')).toBeVisible()
  expect((await loopOf(wren, 'TT-205'))?.document.interval_months).toBe(9)
})

test('a spreadsheet is brought in, its dates asked once, and undone as a whole', async ({ browser }) => {
  const wren = await at(browser, 'wren')
  const text = (value: string | number) => ({ value })
  const buffer = await writeXlsxFile([
    [text('Loops of the new skid')],
    ['Tag', 'Type', 'LRV', 'URV', 'Unit', 'Signal', 'Last calibrated'].map(text),
    ['PT-984', 'pressure', 0, 16, 'bar g', '4-20 mA', '3/4/2026'].map(text),
    ['PT-985', 'pressure', 0, 2.5, 'bar g', '4-20 mA', '4/4/2026'].map(text),
  ]).toBuffer()
  await wren.goto(`${url}/loops/import`)
  await wren.getByLabel('Loop list (CSV or xlsx)').setInputFiles({
    name: 'skid.xlsx',
    mimeType: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
    buffer,
  })
  await expect(wren.getByText('2 to correct')).toBeVisible()
  await wren.getByRole('button', { name: 'day first' }).click()
  await wren.getByRole('button', { name: 'Import 2 rows' }).click()
  await expect(wren.getByText('2 loops added')).toBeVisible()
  expect(await loopOf(wren, 'PT-985')).toMatchObject({ lastCalibrated: '2026-04-04' })
  const done = wren.getByRole('region', { name: 'Lists brought in' })
  await done.getByRole('button', { name: 'Undo it' }).first().click()
  await wren.getByRole('dialog').getByLabel('Because').fill('the wrong skid')
  await wren.getByRole('dialog').getByRole('button', { name: 'Undo the import' }).click()
  await expect(done.getByText('the wrong skid')).toBeVisible()
  expect(await loopOf(wren, 'PT-984')).toBeNull()
})

test('a second factor: begun with a code, asked for at the next sign-in, a recovery code where the phone is lost', async ({
  browser,
}) => {
  const dunlin = await at(browser, 'dunlin')
  await dunlin.goto(`${url}/account`)
  const part = dunlin.getByRole('region', { name: 'Second factor' })
  await part.getByLabel('Your password').fill('not my password')
  await part.getByRole('button', { name: 'Begin with a second factor' }).click()
  await expect(part.getByText('This is not your password.')).toBeVisible()
  await part.getByLabel('Your password').fill('salt-and-water')
  await part.getByRole('button', { name: 'Begin with a second factor' }).click()
  const spelled = (await part.getByText('or type it there').locator('.mono').textContent()) ?? ''
  const secret = spelled.replace(/\s/g, '')
  await part.getByLabel('Code that the phone shows').fill('000000')
  await part.getByRole('button', { name: 'Ask for it from now on' }).click()
  await expect(part.getByText('This is not the code of now')).toBeVisible()
  await part.getByLabel('Code that the phone shows').fill(await generate({ secret }))
  await part.getByRole('button', { name: 'Ask for it from now on' }).click()
  await expect(part.getByText('From now on a code is asked for.')).toBeVisible()
  const recovery = (await part.getByRole('listitem').first().textContent()) ?? ''

  const elsewhere = await (await browser.newContext({ reducedMotion: 'reduce' })).newPage()
  await elsewhere.goto(`${url}/sign-in`)
  await elsewhere.getByLabel('Sign-in name').fill('dunlin')
  await elsewhere.getByLabel('Password').fill('salt-and-water')
  await elsewhere.getByRole('button', { name: 'Sign in', exact: true }).click()
  const code = elsewhere.getByLabel('Code of your phone, or a recovery code')
  await code.fill('123456')
  await elsewhere.getByRole('button', { name: 'Sign in', exact: true }).click()
  await expect(elsewhere.getByText('This is not a code of now')).toBeVisible()
  await code.fill(recovery)
  await elsewhere.getByRole('button', { name: 'Sign in', exact: true }).click()
  await elsewhere.waitForURL(/\/loops$/)
})

test('a program of the plant looks by a token, and no longer once it is ended', async ({ browser }) => {
  const admin = await at(browser, 'plover')
  await admin.goto(`${url}/plant`)
  await admin.getByRole('button', { name: 'Programs' }).click()
  await admin.getByLabel('What it is for').fill('historian')
  await admin.getByRole('button', { name: 'Make a token' }).click()
  const secret = await admin.getByLabel('The token').inputValue()
  const ask = () => fetch(`${url}/api/loops`, { headers: { Authorization: `Bearer ${secret}` } })
  expect((await ask()).status).toBe(200)
  await admin.getByRole('button', { name: 'End it' }).click()
  await expect(admin.getByText(/historian looks, ended/)).toBeVisible()
  expect((await ask()).status).toBe(401)
})

test('a photograph is kept from the head of the loop and stands in its record; a file that is none says so', async ({
  browser,
}) => {
  const wren = await at(browser, 'wren')
  await wren.goto(`${url}/loops/PT-202/verify`)
  await wren.getByRole('button', { name: 'More about PT-202' }).click()
  await press(wren.getByRole('listitem').filter({ hasText: 'Note or photograph' }))
  const dialog = wren.getByRole('dialog')
  await dialog.getByRole('button', { name: 'Keep it' }).click()
  await expect(dialog.getByText('Write something, or add a picture.')).toBeVisible()
  await dialog.getByLabel('What was seen or done').fill('Gland loose, tightened.')
  await dialog.getByLabel('Where: point 3, junction box').fill('junction box')
  await dialog
    .locator('input[type=file]')
    .setInputFiles({ name: 'notes.jpg', mimeType: 'image/jpeg', buffer: Buffer.from('no picture') })
  await expect(dialog.getByText('notes.jpg is no picture')).toBeVisible()
  await dialog
    .locator('input[type=file]')
    .setInputFiles({ name: 'gland.png', mimeType: 'image/png', buffer: Buffer.from(PNG, 'base64') })
  await expect(dialog.getByRole('img', { name: 'Picture 1' })).toBeVisible()
  await dialog.getByRole('button', { name: 'Keep it' }).click()
  await expect(dialog).toHaveCount(0)
  await wren.goto(`${url}/loops/PT-202/record`)
  await expect(wren.getByText('junction box: Gland loose, tightened. (1 picture)')).toBeVisible()
  const shown = wren.getByRole('img', { name: /^Picture 1 of the note/ })
  await expect(shown).toBeVisible()
  expect(await shown.evaluate((img) => (img as HTMLImageElement).naturalWidth)).toBe(1)
})

test('an instrument is photographed, and whoever opens it sees it', async ({ browser }) => {
  const wren = await at(browser, 'wren')
  await wren.goto(`${url}/instruments`)
  await wren.getByRole('button', { name: /Open .*GS-PC-011/ }).click()
  const photos = wren.getByRole('region', { name: 'Photographs' })
  await photos
    .locator('input[type=file]')
    .setInputFiles({ name: 'plate.png', mimeType: 'image/png', buffer: Buffer.from(PNG, 'base64') })
  await photos.getByLabel('What is to be seen').fill('Plate, and a crack beside the socket')
  await photos.getByRole('button', { name: 'Keep the photographs' }).click()
  const shown = photos.getByRole('img', { name: 'Plate, and a crack beside the socket, picture 1' })
  await expect(shown).toBeVisible()
  expect(await shown.evaluate((img) => (img as HTMLImageElement).naturalWidth)).toBe(1)
  await expect(photos.getByRole('button', { name: 'Keep the photographs' })).toHaveCount(0)
})

test('a note is kept at a reading, stands below it, and in the record with its place', async ({
  browser,
}) => {
  const wren = await at(browser, 'wren')
  await wren.goto(`${url}/loops/PT-202/verify`)
  await wren.getByRole('button', { name: 'Note at a reading' }).click()
  const dialog = wren.getByRole('dialog')
  // The last one that was read is meant; another is chosen.
  await expect(dialog.getByText('as left, point 9')).toBeVisible()
  await choose(wren, 'At which reading', 'as left, point 2')
  await dialog.getByLabel('What was seen or done').fill('Needle stuck, tapped free.')
  await dialog.getByRole('button', { name: 'Keep it' }).click()
  await expect(dialog).toHaveCount(0)
  const table = wren.getByRole('table', { name: 'As left' })
  await expect(table.getByText('Needle stuck, tapped free.')).toBeVisible()
  await wren.reload()
  await expect(table.getByText('Needle stuck, tapped free.')).toBeVisible()
  await wren.goto(`${url}/loops/PT-202/record`)
  await expect(wren.getByText('as left, point 2: Needle stuck, tapped free.')).toBeVisible()
})

test('loops are shared out: assigned in one act, found by one touch, and by nobody else', async ({
  browser,
}) => {
  const wren = await at(browser, 'wren')
  await wren.goto(`${url}/loops`)
  await expect(wren.getByRole('button', { name: /^Mine/ })).toHaveCount(0)
  await wren.getByLabel('Find a loop').fill('LT-30')
  await wren.getByRole('button', { name: 'More about the list' }).click()
  await press(wren.getByRole('listitem').filter({ hasText: 'Change several at once' }))
  await wren.getByRole('button', { name: /Choose all/ }).click()
  await wren.getByRole('button', { name: 'Change them' }).click()
  const dialog = wren.getByRole('dialog')
  await dialog.getByLabel('Floor').fill('2.5')
  await dialog.getByLabel('Assigned to').fill('Wren (technician)')
  await dialog.getByLabel('Because').fill('shared out')
  await dialog.getByRole('button', { name: /^Change \d/ }).click()
  await expect(dialog.getByText('A whole floor; ground is 0.')).toBeVisible()
  await dialog.getByLabel('Floor').fill('2')
  await dialog.getByRole('button', { name: /^Change \d/ }).click()
  await expect(dialog).toHaveCount(0)
  await wren.getByLabel('Find a loop').fill('')
  await wren.getByRole('button', { name: /^Mine/ }).click()
  const rows = wren.locator('.list .loop-row')
  await expect(rows.filter({ hasText: 'LT-301' })).toBeVisible()
  expect(await rows.count()).toBe(2)
  await wren.goto(`${url}/loops/LT-301`)
  await expect(wren.getByText('300 Brine and salt, floor 2')).toBeVisible()
})

test('an earlier decision about the rules is decided again, with a reason', async ({ browser }) => {
  const admin = await at(browser, 'plover')
  await admin.goto(`${url}/plant`)
  const decided = admin.getByRole('region', { name: 'Decided so far' })
  await choose(admin, 'Wire colours of a new wiring', 'North America')
  await expect(decided.getByText('Wire colours of a new wiring: IEC → North America')).toBeVisible()
  await decided.getByRole('button', { name: 'As the program ships' }).click()
  const dialog = admin.getByRole('dialog')
  await dialog.getByRole('button', { name: 'Decide so again' }).click()
  await expect(dialog.getByText('Say why: it stays on record.')).toBeVisible()
  await dialog.getByLabel('Because').fill('asked by the inspector')
  await dialog.getByRole('button', { name: 'Decide so again' }).click()
  await expect(dialog).toHaveCount(0)
  await expect(decided.getByText('As the program ships: asked by the inspector')).toBeVisible()
  await expect(decided.getByText('Wire colours of a new wiring: North America → IEC')).toBeVisible()
})

test('in one area a viewer works, in another a reviewer looks on', async ({ browser }) => {
  const admin = await at(browser, 'plover')
  await admin.goto(`${url}/plant?view=people`)
  const change = async (who: string, area: string, role: string) => {
    await admin.getByRole('button', { name: `What can be done: ${who}` }).click()
    await press(admin.getByRole('listitem').filter({ hasText: 'Change' }))
    const dialog = admin.getByRole('dialog')
    await dialog.getByText('Another role in some areas').click()
    await choose(admin, area, role)
    await dialog.getByRole('button', { name: 'Save', exact: true }).click()
    await expect(dialog.getByText('Say why: it stands in the log.')).toBeVisible()
    await dialog.getByLabel('Because').fill('trained there')
    await dialog.getByRole('button', { name: 'Save', exact: true }).click()
    await expect(dialog).toHaveCount(0)
  }
  await change('Tern (viewer)', '200 Membranes', 'technician')
  await change('Heron (reviewer)', '100 Intake', 'viewer')
  await expect(admin.getByText('everywhere; technician in 200 Membranes')).toBeVisible()

  const tern = await at(browser, 'tern')
  await tern.goto(`${url}/loops/PT-202/trim`)
  await expect(tern.getByRole('button', { name: 'More about PT-202' })).toBeVisible()
  await expect(tern.getByRole('button', { name: 'Begin', exact: true })).toBeVisible()
  await tern.goto(`${url}/loops/PT-103/trim`)
  await expect(tern.getByText('You may look; technicians do the work.')).toBeVisible()
  await expect(tern.getByRole('button', { name: 'Begin', exact: true })).toHaveCount(0)
  const heron = await at(browser, 'heron')
  await heron.goto(`${url}/loops/PT-103/trim`)
  await expect(heron.getByText('you look on here')).toBeVisible()
  await expect(heron.getByRole('button', { name: 'Begin', exact: true })).toHaveCount(0)
  await heron.goto(`${url}/loops/PT-202/trim`)
  await expect(heron.getByRole('button', { name: 'Begin', exact: true })).toBeVisible()
})

test('a procedure is looked through and signed by who did it, then countersigned', async ({ browser }) => {
  const wren = await at(browser, 'wren')
  await wren.goto(`${url}/loops/PT-202/trim`)
  await wren.getByRole('checkbox', { name: /Read and write over the link/ }).uncheck()
  await wren.getByRole('radio', { name: /Loop check by held current/ }).check()
  await wren.getByLabel('Why it is done without').fill('the calibrator is away')
  await wren.getByRole('button', { name: 'Begin', exact: true }).click()
  await wren.getByRole('button', { name: 'Stop here and make it safe' }).click()
  await wren.getByLabel('Why it is stopped').fill('thunderstorm')
  await wren.getByRole('button', { name: 'Lead me back' }).click()
  const signatures = wren.getByRole('region', { name: 'Signatures' })
  await signatures.getByRole('button', { name: 'Look it through and sign' }).click()
  const dialog = wren.getByRole('dialog')
  await expect(dialog.getByText('Stopped: thunderstorm')).toBeVisible()
  // What was done without, and that it was not done, is not signed away.
  await expect(dialog.getByText('the calibrator is away')).toBeVisible()
  await expect(dialog.getByLabel('Statement')).toHaveValue('Recorded as it happened.')
  await dialog.getByLabel('Your password').fill('not my password')
  await dialog.getByRole('button', { name: /^Sign as Wren/ }).click()
  await expect(dialog.getByText('This is not your password. Nothing was signed')).toBeVisible()
  await dialog.getByLabel('Your password').fill('salt-and-water')
  await dialog.getByRole('button', { name: /^Sign as Wren/ }).click()
  await expect(dialog).toHaveCount(0)
  await expect(signatures.getByText(/Technician: Wren/)).toBeVisible()

  const heron = await at(browser, 'heron')
  await heron.goto(`${url}/loops/PT-202/trim`)
  const second = heron.getByRole('region', { name: 'Signatures' })
  await second.getByRole('button', { name: 'Look it through and countersign' }).click()
  const other = heron.getByRole('dialog')
  await other.getByLabel('Your password').fill('salt-and-water')
  await other.getByRole('button', { name: /^Sign as Heron/ }).click()
  await expect(other).toHaveCount(0)
  await expect(second.getByText(/Reviewer: Heron/)).toBeVisible()
  // It reaches who did it without asking.
  await expect(signatures.getByText(/Reviewer: Heron/)).toBeVisible()
})
