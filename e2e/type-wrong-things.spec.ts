import { readFileSync } from 'node:fs'
import { address, beginWithout, cell, expect, test } from './setup/technician.ts'
import type { Page } from '@playwright/test'

async function beginAt(page: Page, tag: string, instrument?: RegExp): Promise<void> {
  await page.goto(page.url().replace(/\/loops.*/, `/loops/${tag}/verify`))
  const again = page.getByRole('button', { name: 'New verification' })
  const begin = page.getByRole('button', { name: 'Begin' })
  await again.or(begin).first().waitFor()
  if (await again.isVisible()) await again.click()
  if (instrument) {
    await page.locator('.v-select').filter({ hasText: 'Instruments' }).click()
    await page.getByRole('option', { name: instrument }).click()
    await page.keyboard.press('Escape')
  }
  if (instrument) await begin.click()
  else await beginWithout(page)
  await expect(cell(page, 'As found', 1, 'Applied')).toBeVisible()
}

test('wrong readings say what is wrong, keep what was typed, and a reload loses nothing', async ({
  wren,
}) => {
  await beginAt(wren, 'PT-103')
  await expect(wren.getByText('As found: 9 of 9 points to read')).toBeVisible()
  await cell(wren, 'As found', 1, 'Applied').fill('0')
  await cell(wren, 'As found', 1, 'Transmitter').fill('abc')
  await cell(wren, 'As found', 2, 'Applied').fill('1,5')
  await expect(wren.getByText('Point 1, Transmitter: “abc” is not a number.')).toBeVisible()
  await cell(wren, 'As found', 2, 'Transmitter').fill('7 gallons')
  await expect(wren.getByText('“gallons” cannot be turned into bar g')).toBeVisible()
  await wren.reload()
  await expect(cell(wren, 'As found', 1, 'Transmitter')).toHaveValue('abc')
  await expect(cell(wren, 'As found', 2, 'Transmitter')).toHaveValue('7 gallons')
  await expect(cell(wren, 'As found', 2, 'Applied')).toHaveValue('1,5')
  await cell(wren, 'As found', 1, 'Transmitter').fill('0.003')
  await cell(wren, 'As found', 2, 'Transmitter').fill('21.8 psi')
  await cell(wren, 'As found', 3, 'Applied').focus()
  await expect(wren.getByText('typed 21.8 psi')).toBeVisible()
  await expect(cell(wren, 'As found', 2, 'Transmitter')).toHaveValue('1.503057')
  // A decimal dropped is asked about and kept.
  await cell(wren, 'As found', 3, 'Applied').fill('300')
  await cell(wren, 'As found', 4, 'Applied').focus()
  await expect(wren.getByText(/^300 bar g is far outside the range 0 to 6 bar g\./)).toBeVisible()
  await expect(cell(wren, 'As found', 3, 'Applied')).toHaveValue('300')
})

test('a pasted column fills downwards; a wrong line takes nothing', async ({ wren }) => {
  await beginAt(wren, 'LT-102')
  const paste = (text: string) =>
    cell(wren, 'As found', 1, 'Applied').evaluate((el, t) => {
      const data = new DataTransfer()
      data.setData('text', t)
      el.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }))
    }, text)
  await paste('0,35\n1.2875\nx\n')
  await expect(wren.getByText('Nothing was pasted. Line 3: “x” is not a number.')).toBeVisible()
  await expect(cell(wren, 'As found', 1, 'Applied')).toHaveValue('')
  await paste('0,35\t0,36\n1,2875\t1,29\n2,225\t2,23\n')
  await expect(cell(wren, 'As found', 3, 'Applied')).toHaveValue('2,225')
  await expect(cell(wren, 'As found', 2, 'Transmitter')).toHaveValue('1,29')
  await expect(wren.getByText('As found: 6 of 9 points to read')).toBeVisible()
})

test('nothing can be adjusted or signed before as-found is closed', async ({ wren }) => {
  await beginAt(wren, 'LT-301')
  await expect(wren.getByLabel('What was adjusted')).toHaveCount(0)
  await expect(wren.getByRole('button', { name: 'Look it through and sign' })).toHaveCount(0)
  await wren.getByRole('button', { name: 'Close as found' }).click()
  await expect(wren.getByText('Nothing has been read yet.')).toBeVisible()
  await cell(wren, 'As found', 1, 'Applied').fill('0.18')
  await cell(wren, 'As found', 1, 'Transmitter').fill('0.19')
  await wren.getByRole('button', { name: 'Close as found' }).click()
  // Closed readings are read-only; the record offers the two honest ways on.
  await expect(cell(wren, 'As found', 1, 'Applied')).toHaveAttribute('readonly', '')
  await wren.getByRole('button', { name: 'Nothing was adjusted' }).dblclick()
  // Without an instrument nothing is signed; it is named where the signature is.
  await expect(wren.getByText(/No instrument is named/).first()).toBeVisible()
  await expect(wren.getByRole('button', { name: 'Look it through and sign' })).toBeDisabled()
  await wren.locator('.v-select').filter({ hasText: 'Instruments that were used' }).click()
  await wren.getByRole('option', { name: /Loop calibrator/ }).click()
  await wren.keyboard.press('Escape')
  await wren.getByRole('button', { name: 'Name them' }).click()
  await expect(wren.getByText('All is read. Sign the record.')).toBeVisible()
  await wren.getByRole('button', { name: 'Look it through and sign' }).click()
  // The password is where the cursor goes first; faster than a hand, it would take what is typed beside it.
  await expect(wren.getByLabel('Your password')).toBeFocused()
  await wren.getByLabel('Statement').fill(' ')
  await expect(wren.getByText('a signature without a statement says nothing')).toBeVisible()
  await expect(wren.getByRole('button', { name: /^Sign as Wren/ })).toBeDisabled()
  // A password that is not theirs opens no key; what was typed stays, and nothing is signed.
  await wren.getByLabel('Statement').fill('Done in the rain.')
  await wren.getByRole('button', { name: /^Sign as Wren/ }).click()
  await expect(wren.getByText('Type your password: it opens your key')).toBeVisible()
  await wren.getByLabel('Your password').fill('salt-and-watre')
  await wren.getByRole('button', { name: /^Sign as Wren/ }).click()
  await expect(wren.getByText('This is not your password. Nothing was signed')).toBeVisible()
  await expect(wren.getByLabel('Statement')).toHaveValue('Done in the rain.')
  await wren.getByRole('button', { name: 'Not now' }).click()
  await expect(wren.getByText('All is read. Sign the record.')).toBeVisible()
})

test('a value nobody could have taken is signed only when somebody says that it was read so', async ({
  wren,
}) => {
  await wren.goto(wren.url().replace(/\/loops.*/, '/loops/FT-203/verify'))
  await beginAt(wren, 'FT-203', /Loop calibrator/)
  await cell(wren, 'As found', 1, 'Applied').fill('0')
  await cell(wren, 'As found', 1, 'Loop').fill('4')
  await cell(wren, 'As found', 2, 'Applied').fill('850')
  await cell(wren, 'As found', 3, 'Applied').focus()
  await expect(wren.getByText(/^850 m³\/h is far outside/)).toBeVisible()
  await wren.getByRole('button', { name: 'Close as found' }).click()
  await wren.getByRole('button', { name: 'Nothing was adjusted' }).click()
  await expect(wren.getByText(/As found, point 2: 850 m³\/h is far outside/).first()).toBeVisible()
  await expect(wren.getByRole('button', { name: 'Look it through and sign' })).toBeDisabled()
  await wren.getByRole('button', { name: 'Point 2: it was read so' }).click()
  await expect(wren.getByText('All is read. Sign the record.')).toBeVisible()
  await expect(wren.getByRole('button', { name: 'Look it through and sign' })).toBeEnabled()
})

test('an expired instrument is refused before anything is begun with it', async ({ wren }) => {
  await wren.goto(wren.url().replace(/\/loops.*/, '/loops/FT-403/verify'))
  await wren.getByRole('button', { name: 'New verification' }).click()
  await wren.locator('.v-select').filter({ hasText: 'Instruments' }).click()
  await wren.getByRole('option', { name: /Multimeter/ }).click()
  await wren.keyboard.press('Escape')
  await expect(wren.getByText(/Multimeter: the certificate ended on 30 Oct 2026/)).toBeVisible()
  await wren.getByRole('button', { name: 'Begin', exact: true }).click()
  await expect(wren.getByText(/Nothing is begun with it: choose another/)).toBeVisible()
  await expect(wren.getByRole('heading', { name: 'Begin a verification' })).toBeVisible()
})

test('a range without span is said at the field and the last good picture stays', async ({ wren }) => {
  await wren.goto(wren.url().replace(/\/loops.*/, '/loops/FT-206/scale'))
  const urv = wren.getByLabel('20 mA point (URV)')
  await urv.fill('0')
  await expect(wren.getByText('A range needs a span').first()).toBeVisible()
  await expect(wren.getByRole('button', { name: 'Save revision' })).toBeDisabled()
  await expect(wren.locator('[data-station=MA]')).toHaveValue('12.000')
  await urv.fill('62 t/h')
  await expect(wren.getByText('= 62000 kg/h')).toBeVisible()
  await urv.fill('sixty')
  await expect(wren.getByText('“sixty” is not a number')).toBeVisible()
  await wren.reload()
  await expect(urv).toHaveValue(/62 ?t\/h|62000/)
})

test('judged by another tolerance than recorded only with a reason, which stands on the papers', async ({
  wren,
}) => {
  await wren.goto(wren.url().replace(/\/loops.*/, '/loops/LT-302/verify'))
  const begin = wren.getByRole('button', { name: 'Begin' })
  await wren.getByRole('button', { name: 'New verification' }).click()
  await wren.getByRole('button', { name: 'Judge by another tolerance than recorded' }).click()
  await wren.getByLabel('Tolerance of this verification').fill('2')
  await begin.click()
  await expect(wren.getByText('Say why: it stands on every paper.')).toBeVisible()
  await wren.getByLabel('Why not the recorded one').fill('custody contract 7')
  await beginWithout(wren)
  await expect(
    wren.getByText(/Judged by 2 % of span, not by the recorded tolerance: custody contract 7/),
  ).toBeVisible()
  await cell(wren, 'As found', 1, 'Applied').fill('0')
  await cell(wren, 'As found', 1, 'Loop').fill('4.01')
  await cell(wren, 'As found', 2, 'Applied').focus()
  const download = wren.waitForEvent('download')
  await wren.getByRole('link', { name: 'Readings (CSV)' }).click()
  const text = readFileSync(await (await download).path(), 'utf8')
  expect(text).toMatch(/Judged by 2 % of span; revision \d+ of the loop says .*Reason: custody contract 7/)
})

test('over HTTP, too, what is wrong is said in plain words', async ({ wren }) => {
  const wrong = async (data: object) => {
    const answer = await wren.request.post(address('/api/calc/flow.water'), {
      data,
      headers: { origin: address('') },
    })
    expect(answer.status()).toBe(422)
    return ((await answer.json()) as { errors: { path: string; says: string }[] }).errors
  }
  expect(await wrong({ t: 20 })).toEqual([{ path: 'p', says: 'This is missing.', code: 'INPUT' }])
  expect((await wrong({ t: 20, p: 'x' }))[0]?.says).toBe('This must be a number.')
  expect((await wrong({ t: 20, p: 100, q: 1 }))[0]?.says).toMatch(/does not belong here/)
})
