import AxeBuilder from '@axe-core/playwright'
import { address, expect, test } from './setup/technician.ts'

const VIEWS: readonly [name: string, path: string, ready: string][] = [
  ['loops', '/loops', 'PT-202'],
  ['import', '/loops/import', 'Import a loop list'],
  ['scale', '/loops/FT-401/scale', 'What the ranges tell'],
  ['verify', '/loops/FT-402/verify', 'Out of tolerance as found'],
  ['record', '/loops/FT-402/record', 'Prove the record'],
  ['a switch', '/loops/ZS-305/scale', 'no measuring range'],
  ['quick sums', '/quick-sums', 'Signal path without a loop'],
  ['one sum', '/quick-sums/units.convert', 'Convert between units'],
  ['equipment', '/equipment', 'Resistance decade'],
  ['nowhere', '/not/here', 'nothing at this address'],
]

for (const theme of ['light', 'dark', 'field'])
  test(`axe finds nothing on any view, ${theme}`, async ({ wren }) => {
    test.setTimeout(120_000)
    await wren.evaluate((t) => localStorage.setItem('calm-theme', t), theme)
    for (const [name, path, ready] of VIEWS) {
      await wren.goto(address(path))
      await expect(wren.getByText(ready).first()).toBeVisible()
      const { violations } = await new AxeBuilder({ page: wren }).analyze()
      expect({
        view: name,
        violations: violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.target.join(' ')).join(' | ')}`),
      }).toEqual({ view: name, violations: [] })
    }
    await wren.keyboard.press('?')
    await expect(wren.getByText('Keys on this screen')).toBeVisible()
    expect((await new AxeBuilder({ page: wren }).analyze()).violations.map((v) => v.id)).toEqual([])
  })

test('the sign-in page passes too', async ({ page }) => {
  await page.goto(address('/sign-in'))
  await expect(page.getByLabel('Password')).toBeVisible()
  expect((await new AxeBuilder({ page }).analyze()).violations.map((v) => v.id)).toEqual([])
})

for (const [device, width, height] of [
  ['tablet upright', 800, 1280],
  ['tablet on its side', 1280, 800],
  ['phone', 390, 844],
] as const)
  test(`no view is wider than a ${device}`, async ({ wren }) => {
    await wren.setViewportSize({ width, height })
    for (const [name, path, ready] of VIEWS) {
      await wren.goto(address(path))
      await expect(wren.getByText(ready).first()).toBeVisible()
      const over = await wren.evaluate(
        () => document.documentElement.scrollWidth - document.documentElement.clientWidth,
      )
      expect({ name, over }).toEqual({ name, over: 0 })
    }
  })

test('a viewer sees everything and is offered no change', async ({ browser }) => {
  const { another } = await import('./setup/technician.ts')
  const tern = await another(browser, 'tern')
  await expect(tern.getByRole('link', { name: 'Import list' })).toHaveCount(0)
  await tern.goto(address('/loops/FT-402/verify'))
  await expect(tern.getByText('Out of tolerance as found')).toBeVisible()
  await expect(tern.getByRole('button', { name: 'New verification' })).toHaveCount(0)
  await tern.goto(address('/loops/FT-402/scale'))
  await expect(tern.getByLabel('20 mA point (URV)')).toHaveAttribute('readonly', '')
})
