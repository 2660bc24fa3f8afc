// npm run screenshots: one current picture of each main view from the demo plant, into docs/screenshots.
import { chmodSync, mkdirSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { chromium } from '@playwright/test'
import { ensureBuilt } from './lib/build.mjs'
import { ensureChromium, ensurePackages, ensurePostgres, ROOT } from './lib/install.mjs'
import { freePort, startCluster } from './lib/postgres.mjs'
import { say } from './lib/say.mjs'
import { serve } from './lib/serve.mjs'

ensurePackages()
ensureChromium()
ensureBuilt()
const out = join(ROOT, 'docs/screenshots')
mkdirSync(out, { recursive: true })
const folder = mkdtempSync(join(tmpdir(), 'calm-shots-'))
chmodSync(folder, 0o755)
const cluster = await startCluster(ensurePostgres(), folder)
const port = await freePort()
const server = await serve({ url: cluster.url, port, env: { LOG_LEVEL: 'warn' } })
const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu', '--disable-dev-shm-usage'],
})

/** @type {readonly { name: string, path: string, ready: string, theme?: string, size?: { width: number, height: number }, before?: (page: import('@playwright/test').Page) => Promise<void> }[]} */
const VIEWS = [
  { name: 'loops', path: '/loops', ready: 'PT-202' },
  { name: 'scale', path: '/loops/PDT-201/scale', ready: 'What the ranges tell' },
  { name: 'verify', path: '/loops/PT-202/verify', ready: 'In tolerance as left' },
  {
    name: 'verify-phone-field',
    path: '/loops/FT-402/verify',
    ready: 'Out of tolerance',
    theme: 'field',
    size: { width: 390, height: 844 },
  },
  { name: 'record', path: '/loops/PT-202/record', ready: 'Prove the record' },
  {
    name: 'import',
    path: '/loops/import',
    ready: 'Import a loop list',
    before: async (page) => {
      await page.locator('input[type=file]').setInputFiles(join(ROOT, 'demo/loop-list.csv'))
      await page.getByText('to mend').first().waitFor()
    },
  },
  { name: 'quick-sums', path: '/quick-sums', ready: 'Signal path without a loop', theme: 'dark' },
  { name: 'equipment', path: '/equipment', ready: 'Resistance decade' },
]
try {
  const context = await browser.newContext({
    viewport: { width: 1280, height: 800 },
    reducedMotion: 'reduce',
  })
  const page = await context.newPage()
  const base = `http://127.0.0.1:${port}`
  await page.goto(`${base}/sign-in`)
  await page.getByLabel('Password').waitFor()
  await page.screenshot({ path: join(out, 'sign-in.png') })
  await page.getByLabel('Sign-in name').fill('wren')
  await page.getByLabel('Password').fill('salt-and-water')
  await page.getByRole('button', { name: 'Sign in' }).click()
  await page.waitForURL(/\/loops$/)
  for (const view of VIEWS) {
    await page.setViewportSize(view.size ?? { width: 1280, height: 800 })
    await page.evaluate(`localStorage.setItem('calm-theme', '${view.theme ?? 'light'}')`)
    await page.goto(base + view.path)
    await page.getByText(view.ready).first().waitFor()
    await view.before?.(page)
    await page.waitForTimeout(400)
    await page.screenshot({ path: join(out, `${view.name}.png`) })
    say(view.name)
  }
} finally {
  await browser.close()
  await server.stop()
  cluster.stop()
  rmSync(folder, { recursive: true, force: true })
}
