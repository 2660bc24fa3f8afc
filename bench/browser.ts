import { chromium, type Page } from '@playwright/test'
import { ensureChromium } from '../scripts/lib/install.mjs'

/** The machine's own browser, without a display. */
export const launched = () =>
  chromium.launch({
    executablePath: ensureChromium(),
    args: [
      '--no-sandbox',
      '--disable-gpu',
      '--disable-dev-shm-usage',
      '--no-first-run',
      '--disable-background-networking',
    ],
  })

/** Signs a technician in where the page stands. */
export async function signIn(page: Page): Promise<void> {
  await page.getByLabel('Sign-in name').fill('wren')
  await page.getByLabel('Password').fill('salt-and-water')
  await page.getByRole('button', { name: 'Sign in' }).click()
  await page.waitForURL(/\/loops$/)
}
