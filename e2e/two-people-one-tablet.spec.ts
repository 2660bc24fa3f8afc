import { address, another, beginWithout, cell, expect, signIn, test } from './setup/technician.ts'

test('what one person left unsent is never sent under another name', async ({ browser }) => {
  // A session of its own: it is signed out on the way.
  const page = await another(browser, 'wren')
  await page.goto(address('/loops/PT-405/verify'))
  const again = page.getByRole('button', { name: 'New verification' })
  const begin = page.getByRole('button', { name: 'Begin' })
  await again.or(begin).first().waitFor()
  if (await again.isVisible()) await again.click()
  await beginWithout(page)
  await cell(page, 'As found', 1, 'Applied').fill('0')
  await cell(page, 'As found', 1, 'Loop').fill('4.01')
  await cell(page, 'As found', 2, 'Applied').focus()
  await expect(page.getByText(/^stored \d\d:\d\d$/)).toBeVisible()

  // The server is not reached for events; a reading waits.
  await page.route('**/events', (route) =>
    route.request().method() === 'POST' ? route.abort() : route.continue(),
  )
  await cell(page, 'As found', 2, 'Loop').fill('8.02')
  await cell(page, 'As found', 3, 'Applied').focus()
  await expect(page.getByText('1 kept here, not stored yet.')).toBeVisible()

  // Signing out says so and keeps it.
  await page.getByRole('button', { name: /Sign out/ }).click()
  await expect(page.getByRole('alert').getByText('1 entry is not stored yet.')).toBeVisible()
  await page.getByRole('button', { name: 'Sign out here' }).click()
  await expect(page.getByText(/1 entry of Wren \(technician\) waits here/)).toBeVisible()

  // Another person at the same tablet: the network is back, and nothing of Wren's goes out.
  const sent: string[] = []
  await page.unroute('**/events')
  page.on('request', (r) => {
    if (r.method() === 'POST' && r.url().endsWith('/events')) sent.push(r.postData() ?? '')
  })
  await signIn(page, 'dunlin')
  await expect(page.getByText(/1 entry of Wren \(technician\) waits here/)).toBeVisible()
  await page.waitForTimeout(3_000)
  expect(sent).toEqual([])

  // Wren is back: it goes out, once, as Wren's.
  await page.getByRole('button', { name: /Sign out/ }).click()
  await expect(page.getByText('Everything you recorded is stored.')).toBeVisible()
  await page.getByRole('button', { name: 'Sign out here' }).click()
  await page.getByLabel('Sign-in name').fill('wren')
  await page.getByLabel('Password').fill('salt-and-water')
  await page.getByRole('button', { name: 'Sign in' }).click()
  await page.waitForURL(/\/loops$/)
  await expect.poll(() => sent.length).toBe(1)
  await expect(page.getByText(/waits here/)).toHaveCount(0)
  await page.goto(address('/loops/PT-405/verify'))
  await expect(cell(page, 'As found', 2, 'Loop')).toHaveValue('8.02')
})

test('another person signs in in another page: this page asks for its own person again', async ({
  browser,
}) => {
  const mine = await another(browser, 'wren')
  await mine.goto(address('/loops/FT-406/scale'))
  await expect(mine.getByRole('heading', { name: 'FT-406' })).toBeVisible()
  const theirs = await mine.context().newPage()
  await signIn(theirs, 'heron')
  // Typed on Wren's page while the cookie is Heron's: not stored under either name.
  await mine.getByLabel('Remark').fill('written by Wren')
  await mine.getByRole('button', { name: 'Save revision' }).click()
  await expect(mine.getByRole('heading', { name: 'Please sign in again' })).toBeVisible()
  await expect(mine.getByText('The session of Wren (technician) has ended here.')).toBeVisible()
  await mine.getByLabel('Sign-in name').fill('heron')
  await mine.getByLabel('Password').fill('salt-and-water')
  await mine.getByRole('button', { name: 'Sign in' }).click()
  await expect(mine.getByText(/This is the screen of Wren/)).toBeVisible()
  await mine.getByLabel('Sign-in name').fill('wren')
  await mine.getByRole('button', { name: 'Sign in' }).click()
  await expect(mine.getByRole('heading', { name: 'Please sign in again' })).toHaveCount(0)
  await expect(mine.getByLabel('Remark')).toHaveValue('written by Wren')
  await mine.getByRole('button', { name: 'Save revision' }).click()
  await expect(mine.getByText(/revision \d+, saved/)).toBeVisible()
})
