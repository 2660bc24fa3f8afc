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
const cluster = await startCluster(ensurePostgres(), folder, undefined, true)
const port = await freePort()
const server = await serve({ url: cluster.url, port, env: { LOG_LEVEL: 'warn' } })
const browser = await chromium.launch({
  executablePath: ensureChromium(),
  args: ['--no-sandbox', '--disable-gpu', '--disable-dev-shm-usage'],
})

/** @type {readonly { name: string, path: string, ready: string, who?: string, theme?: string, size?: { width: number, height: number }, before?: (page: import('@playwright/test').Page) => Promise<void> }[]} */
const VIEWS = [
  { name: 'loops', path: '/loops', ready: 'PT-202' },
  { name: 'wire', path: '/loops/ZS-307/wire', ready: 'nothing supplies +24 V' },
  {
    name: 'wire-meter',
    path: '/loops/PT-202/wire',
    ready: 'The wiring is right',
    size: { width: 1280, height: 1000 },
    before: async (page) => {
      await page.getByLabel('Power on').click()
      await page.locator('[data-wire="5"] rect').click()
      await page.getByRole('button', { name: 'Open it and put the meter in series' }).click()
      await page.getByLabel('Power off').click()
      await page.mouse.wheel(0, 300)
    },
  },
  {
    name: 'wire-relays',
    path: '/loops/LT-102/wire?view=trips',
    ready: 'Keyed in at the controller',
    size: { width: 1280, height: 1000 },
    before: async (page) => {
      await page.getByLabel('Value at the start').fill('3.4')
      await page.getByLabel('By itself, of span a second').fill('1')
      await page.getByRole('button', { name: 'Let it run' }).click()
      await page.getByText('Simulated, two minutes').scrollIntoViewIfNeeded()
    },
  },
  {
    name: 'set-up',
    path: '/loops/FT-101/set-up',
    ready: 'What follows from it',
    before: async (page) => {
      await page.mouse.wheel(0, 190)
    },
  },
  {
    name: 'today',
    path: '/today?view=plan',
    ready: 'Not planned',
    before: async (page) => {
      await page.getByRole('button', { name: 'Plan it', exact: true }).click()
      // On some days the best is proved, on others it is the best of the tries.
      await page
        .getByText(/^Proved: |tries; not proved/)
        .first()
        .waitFor()
    },
  },
  {
    name: 'locate',
    path: '/loops/PT-103/scale',
    ready: 'What the ranges tell',
    before: async (page) => {
      await page.getByRole('button', { name: 'Locate an error' }).click()
      for (const [station, i, text] of [
        ['Loop', 1, '6.667'],
        ['Shunt', 1, '1.650'],
        ['Loop', 2, '17.333'],
        ['Shunt', 2, '4.290'],
      ])
        await page.getByLabel(`${station}, level ${i}`, { exact: true }).fill(String(text))
      await page.mouse.wheel(0, 190)
    },
  },
  { name: 'trim', path: '/loops/PDT-201/trim', ready: 'The last two minutes' },
  { name: 'scale', path: '/loops/PDT-201/scale', ready: 'What the ranges tell' },
  { name: 'verify', path: '/loops/PT-202/verify', ready: 'In tolerance as left' },
  {
    name: 'verify-phone-field',
    path: '/loops/FT-402/verify',
    ready: 'Out of tolerance',
    theme: 'field',
    size: { width: 390, height: 844 },
  },
  {
    name: 'verify-reference',
    path: '/loops/FT-402/verify',
    ready: 'Against a reference',
    before: async (page) => {
      await page.getByRole('button', { name: 'Against a reference' }).click()
      await page.getByLabel('Reference, run 1').fill('600')
      await page.getByLabel('Meter, run 1').fill('615')
      await page.getByLabel('Reference, run 2').fill('1500')
      await page.getByLabel('Meter, run 2').fill('1541')
      await page.keyboard.press('Tab')
      await page.mouse.wheel(0, 190)
    },
  },
  { name: 'drift', path: '/drift', ready: 'LT-102' },
  { name: 'record', path: '/loops/PT-202/record', ready: 'Prove the record' },
  {
    name: 'log',
    path: '/logs',
    ready: 'Intake main',
    before: async (page) => {
      await page.getByRole('link', { name: /Intake main/ }).click()
      await page.getByText('findings in').waitFor()
      await page.locator('.v-select').filter({ hasText: 'Beside it' }).click()
      await page.getByRole('option', { name: /Portable meter beside it/ }).click()
      await page.getByRole('button', { name: 'Compare' }).click()
      await page.getByText('They do not agree').waitFor()
      await page.mouse.wheel(0, -2000)
      await page.waitForTimeout(500)
    },
  },
  {
    name: 'survey',
    path: '/surveys',
    ready: 'Intake and feed',
    before: async (page) => {
      await page.getByRole('link', { name: /Intake and feed/ }).click()
      await page.getByRole('link', { name: 'SEA MAIN' }).click()
      await page.getByText('the best of 5 tries').waitFor()
      await page.getByText('Position', { exact: true }).last().scrollIntoViewIfNeeded()
      await page.waitForTimeout(500)
    },
  },
  { name: 'quick-sums', path: '/quick-sums', ready: 'Signal path without a loop', theme: 'dark' },
  { name: 'sensors', path: '/instruments?view=sensors', ready: '4471A / 4471B' },
  {
    name: 'plant',
    path: '/plant?view=proof',
    ready: 'The newest head',
    who: 'heron',
    before: async (page) => {
      await page.getByRole('button', { name: 'Prove the whole plant' }).click()
      await page.getByText('Whole', { exact: true }).waitFor()
    },
  },
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
  await page.getByLabel('Sign-in name').fill('wren')
  await page.getByLabel('Password').fill('salt-and-water')
  await page.getByRole('button', { name: 'Sign in' }).click()
  await page.waitForURL(/\/loops$/)
  for (const view of VIEWS) {
    await page.setViewportSize(view.size ?? { width: 1280, height: 800 })
    await page.evaluate(`localStorage.setItem('calm-theme', '${view.theme ?? 'light'}')`)
    if (view.who)
      await page.request.post(`${base}/api/session`, {
        data: { name: view.who, password: 'salt-and-water' },
        headers: { origin: base },
      })
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
