import { chromium } from 'playwright'
const [out, size, path, who, ...acts] = process.argv.slice(2)
const [width, height] = size.split('x').map(Number)
const b = await chromium.launch({ executablePath: '/usr/bin/chromium-headless-shell' })
const ctx = await b.newContext({ viewport: { width, height }, hasTouch: width < 900 })
const page = await ctx.newPage()
const base = 'http://127.0.0.1:4555'
await page.goto(base + '/sign-in')
await page.getByLabel('Sign-in name').fill(who)
await page.getByLabel('Password', { exact: true }).fill('salt-and-water')
await page.keyboard.press('Enter')
await page.waitForURL((u) => !u.pathname.startsWith('/sign-in'))
await page.goto(base + path)
await page.waitForLoadState('networkidle').catch(() => {})
await page.waitForTimeout(900)
for (const a of acts) {
  const [, kind, rest] = /^(\w+):(.*)$/s.exec(a)
  try {
  if (kind === 'click') await page.getByRole('button', { name: rest }).first().click({ timeout: 4000 })
  else if (kind === 'text') await page.getByText(rest).first().click({ timeout: 4000 })
  else if (kind === 'type') { const [l, v] = rest.split('='); await page.getByLabel(l).first().fill(v) }
  else if (kind === 'pick') { const [l, v] = rest.split('='); await page.locator('.v-select').filter({ has: page.getByLabel(l, { exact: true }) }).first().click(); await page.getByRole('option', { name: v }).first().click() }
  else if (kind === 'key') await page.keyboard.press(rest)
  else if (kind === 'goto') await page.goto(base + rest)
  else if (kind === 'wait') await page.waitForTimeout(Number(rest))
  else if (kind === 'scroll') await page.getByText(rest).first().scrollIntoViewIfNeeded()
  } catch (e) { console.log('ACT', a, String(e).split('\n')[0]) }
  await page.waitForTimeout(500)
}
await page.screenshot({ path: out })
await b.close()
