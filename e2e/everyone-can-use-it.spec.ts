import AxeBuilder from '@axe-core/playwright'
import type { Page } from '@playwright/test'
import { address, expect, test } from './setup/technician.ts'

const VIEWS: readonly [name: string, path: string, ready: string][] = [
  ['loops', '/loops', 'Due in 30 days'],
  ['import', '/loops/import', 'Import a loop list'],
  ['wire', '/loops/PT-202/wire', 'The wiring is right'],
  ['a wrong wiring', '/loops/ZS-307/wire', 'nothing supplies +24 V'],
  ['nothing wired', '/loops/TT-407/wire', 'Nothing is wired here yet'],
  ['set up', '/loops/FT-101/set-up', 'What follows from it'],
  ['set up, compared', '/loops/FT-403/set-up', 'memory is lost'],
  ['set up, a level', '/loops/LT-301/set-up', 'What follows from it'],
  ['set up, pH', '/loops/AT-204/set-up', 'The electrode is good'],
  ['nothing set up', '/loops/LI-303/set-up', 'Nothing is set up here yet'],
  ['scale', '/loops/FT-401/scale', 'What the ranges tell'],
  ['trim', '/loops/PT-405/trim', 'The last two minutes, simulated'],
  ['verify', '/loops/FT-402/verify', 'Out of tolerance as found'],
  ['as found, quickly', '/loops/FT-402/verify?view=quickly', 'As found, quickly'],
  ['record', '/loops/FT-402/record', 'Prove the record'],
  ['a switch', '/loops/ZS-305/scale', 'no measuring range'],
  ['quick sums', '/quick-sums', 'Signal path without a loop'],
  ['one sum', '/quick-sums/units.convert', 'Convert between units'],
  ['instruments', '/instruments', 'Resistance decade'],
  ['sensors', '/instruments?view=sensors', 'Insertion probes with their nozzles'],
  ['a settings sheet', '/loops/FT-403/set-up?view=sheet', 'From the plate'],
  ['help', '/help', 'What the product leaves to others'],
  ['help on a bench', '/help/verify', 'rests on'],
  ['help on words', '/help/words', 'Zero stability'],
  ['about', '/about', 'Daily backup'],
  ['a day not planned', '/today?view=plan&day=2027-03-02', 'Not planned'],
  ['jobs', '/today?view=jobs', 'Enter a job'],
  ['my day', '/today?view=mine&day=2027-03-02', 'This day is not planned yet'],
  ['what waits to be signed', '/today?view=sign', 'To sign'],
  ['logs', '/logs', 'Brine tank, an hour of filling'],
  ['surveys', '/surveys', 'Intake and feed with the portable meter'],
  ['reading in a log', '/logs/read-in?loop=FT-101', 'Files of one log'],
  ['recording a log', '/logs/record?loop=FT-101', 'What nobody saw stays a gap'],
  ['logs of a loop', '/loops/FT-101/verify?view=logs', 'Portable meter beside it'],
  ['the plant', '/plant', 'What is usually asked'],
  ['one’s account', '/account', 'Where you are signed in'],
  ['nowhere', '/not/here', 'nothing at this address'],
]

const SIZES = [
  ['tablet upright', 800, 1280],
  ['tablet on its side', 1280, 800],
  ['phone', 390, 844],
  ['narrow phone', 360, 740],
  ['400 % of 1280', 320, 640],
] as const
/** With 1280 x 800 in every theme, the sizes at which everything is judged once more. */
const LOOKED_AT: readonly string[] = ['tablet upright', 'phone', 'narrow phone']
/** Another theme without another visit: as when it was changed in another window. */
const wear = (page: Page, theme: string) =>
  page.evaluate((newValue) => {
    localStorage.setItem('calm-theme', newValue)
    window.dispatchEvent(
      new StorageEvent('storage', { key: 'calm-theme', newValue, storageArea: localStorage }),
    )
  }, theme)

test.describe.configure({ mode: 'parallel' })
const PARTS = 5
for (let part = 0; part < PARTS; part++)
  test(`views, part ${part + 1}: axe finds nothing in any theme, and none is wider than its screen`, async ({
    wren,
  }) => {
    test.setTimeout(900_000)
    for (const [name, path, ready] of VIEWS.filter((_, i) => i % PARTS === part)) {
      await wren.setViewportSize({ width: 1280, height: 800 })
      await wren.goto(address(path))
      await expect(wren.getByText(ready).first()).toBeVisible()
      for (const theme of ['light', 'dark', 'field']) {
        await wear(wren, theme)
        // The themes differ in colours only; everything else is looked at once.
        const builder = new AxeBuilder({ page: wren })
        const { violations } = await (
          theme === 'light' ? builder : builder.withRules(['color-contrast'])
        ).analyze()
        expect({
          view: name,
          theme,
          violations: violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.target.join(' ')).join(' | ')}`),
        }).toEqual({ view: name, theme, violations: [] })
      }
      await wear(wren, 'light')
      for (const [device, width, height] of SIZES) {
        await wren.setViewportSize({ width, height })
        await expect
          .poll(
            () =>
              wren.evaluate(
                () => document.documentElement.scrollWidth - document.documentElement.clientWidth,
              ),
            { message: `${name} on a ${device}` },
          )
          .toBeLessThanOrEqual(0)
        if (!LOOKED_AT.includes(device)) continue
        const { violations } = await new AxeBuilder({ page: wren }).analyze()
        expect([
          name,
          device,
          violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.target.join(' ')).join(' | ')}`),
        ]).toEqual([name, device, []])
      }
    }
  })

test('axe finds nothing on the help for keys', async ({ wren }) => {
  await wren.keyboard.press('?')
  await expect(wren.getByText('Keys on this screen')).toBeVisible()
  // It fades in: judged when it has. What lies dimmed behind it is judged on its own page.
  const dialog = () => new AxeBuilder({ page: wren }).include('[role=dialog]').analyze()
  await expect.poll(async () => (await dialog()).violations.map((v) => v.id)).toEqual([])
})

test('axe finds nothing on signing out', async ({ wren }) => {
  await wren.getByRole('button', { name: /Sign out/ }).click()
  await expect(wren.getByText('Everything you recorded is stored.')).toBeVisible()
  const dialog = () => new AxeBuilder({ page: wren }).include('[role=dialog]').analyze()
  await expect.poll(async () => (await dialog()).violations.map((v) => v.id)).toEqual([])
  await wren.getByRole('button', { name: 'Stay' }).click()
})

test('axe finds nothing on the views of the Wire bench', async ({ wren }) => {
  test.setTimeout(120_000)
  for (const [tag, views] of [
    ['PT-202', ['What to read', 'Loop budget', 'Relays', 'Connections', 'Lists']],
    ['ZS-307', ['Sensing']],
  ] as const) {
    await wren.goto(address(`/loops/${tag}/wire`))
    for (const view of views) {
      await wren.getByRole('button', { name: view, exact: true }).click()
      const { violations } = await new AxeBuilder({ page: wren }).analyze()
      expect([
        view,
        violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.target.join(' ')).join(' | ')}`),
      ]).toEqual([view, []])
    }
  }
  await wren.getByRole('button', { name: 'Wiring', exact: true }).click()
  await wren.getByRole('button', { name: 'Correct wiring' }).click()
  await expect(wren.getByText('What helps, the best first')).toBeVisible()
  expect((await new AxeBuilder({ page: wren }).analyze()).violations.map((v) => v.id)).toEqual([])
})

test('the sign-in page passes too', async ({ page }) => {
  await page.goto(address('/sign-in'))
  await expect(page.getByLabel('Password')).toBeVisible()
  expect((await new AxeBuilder({ page }).analyze()).violations.map((v) => v.id)).toEqual([])
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
