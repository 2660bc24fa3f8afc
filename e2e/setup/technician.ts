import { test as base, expect, type Browser, type Locator, type Page } from '@playwright/test'

export const address = (path: string): string => `${process.env['CALM_E2E_URL'] ?? ''}${path}`

/** Signs a person in through the page. */
export async function signIn(page: Page, name: string): Promise<void> {
  await page.goto(address('/sign-in'))
  await page.getByLabel('Sign-in name').fill(name)
  await page.getByLabel('Password').fill('salt-and-water')
  await page.getByRole('button', { name: 'Sign in' }).click()
  await page.waitForURL(/\/loops$/)
}

/** Another person at another screen. */
export async function another(browser: Browser, name: string): Promise<Page> {
  const context = await browser.newContext({
    viewport: { width: 1280, height: 800 },
    reducedMotion: 'reduce',
  })
  const page = await context.newPage()
  await signIn(page, name)
  return page
}

/**
 * Presses an option, and again where the list did not take it: one that is just opening loses a press that is faster
 * than a hand's.
 */
export async function press(option: Locator): Promise<void> {
  await expect(option).toBeVisible()
  await expect(async () => {
    if (await option.isVisible()) await option.click({ timeout: 3_000 })
    await expect(option).toBeHidden({ timeout: 3_000 })
  }).toPass()
}

/** Begins a verification without an instrument: asked for once, gone on without at the second press. */
export async function beginWithout(page: Page): Promise<void> {
  const begin = page.getByRole('button', { name: 'Begin', exact: true })
  await begin.click()
  await expect(page.getByText(/No instrument is chosen: no uncertainty can be claimed/)).toBeVisible()
  await begin.click()
}
/** Looks a record through and signs it, with the password that opens the key. */
export async function signRecord(
  page: Page,
  does: 'sign' | 'countersign' = 'sign',
  password = 'salt-and-water',
) {
  await page.getByRole('button', { name: `Look it through and ${does}`, exact: true }).click()
  const dialog = page.getByRole('dialog')
  await dialog.getByLabel('Your password').fill(password)
  await dialog.getByRole('button', { name: /^Sign as/ }).click()
  // What is against it would stand in the dialog. The key is opened by 600 000 rounds: long on a busy machine.
  await expect(dialog).toHaveCount(0, { timeout: 60_000 })
}
export const cell = (page: Page, phase: string, point: number, column: string) =>
  page.getByRole('textbox', { name: new RegExp(`^${phase}, point ${point} .*${column}`) })

/** A technician, signed in; any error of the page or the content policy fails the test. */
export const test = base.extend<{ wren: Page }>({
  wren: async ({ page }, use) => {
    const errors: string[] = []
    // Where it was, and what was there: an error that comes once in fifty times is told whole.
    const keep = (says: string) => errors.push(`${page.url()}: ${says}`)
    page.on('pageerror', (e) => keep(e.stack ?? e.message))
    page.on('console', (m) => {
      if (m.type() === 'error' && !/Failed to load resource/.test(m.text())) keep(m.text())
    })
    const [, name = '', value = ''] = /^([^=]+)=(.*)$/.exec(process.env['CALM_E2E_COOKIE'] ?? '') ?? []
    await page.context().addCookies([{ name, value, url: address('/') }])
    await page.goto(address('/loops'))
    await use(page)
    expect(errors).toEqual([])
  },
})
export { expect }
