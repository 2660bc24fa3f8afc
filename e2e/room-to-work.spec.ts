import type { Page } from '@playwright/test'
import { address, another, expect, test } from './setup/technician.ts'

const BENCHES: readonly [bench: string, tag: string, least_px: number][] = [
  ['wire', 'PT-202', 640],
  ['set-up', 'FT-101', 560],
  ['scale', 'PT-103', 560],
  ['trim', 'PT-202', 560],
  ['verify', 'FT-402', 560],
  ['record', 'FT-402', 560],
]
const path = ([bench, tag]: (typeof BENCHES)[number]) => address(`/loops/${tag}/${bench}`)
const settled = async (page: Page) => {
  await expect(page.locator('[data-work-area]')).toBeVisible()
  await page.waitForLoadState('networkidle')
}

test('at 1280 by 800 the work has the room, on every bench', async ({ browser }) => {
  // Of a person who has changed no size anywhere.
  const heron = await another(browser, 'heron')
  for (const at of BENCHES) {
    await heron.goto(path(at))
    await settled(heron)
    const box = await heron.locator('[data-work-area]').boundingBox()
    expect(box?.height, at[0]).toBeGreaterThanOrEqual(at[2])
    const line = await heron.getByRole('region', { name: 'Signal path' }).boundingBox()
    expect(line?.height, `${at[0]}: the line`).toBeLessThanOrEqual(at[0] === 'scale' ? 240 : 76)
  }
  await heron.context().close()
})

test('the line opens at a touch and at a key, and stays so for the person at the next device', async ({
  browser,
}) => {
  const dunlin = await another(browser, 'dunlin')
  await dunlin.goto(address('/loops/PT-202/wire'))
  const slider = dunlin.getByRole('slider', { name: 'Process level, percent of range' })
  await expect(dunlin.getByRole('button', { name: 'Open the signal path' })).toBeVisible()
  await dunlin.keyboard.press('o')
  await expect(slider).toBeVisible()
  await dunlin.reload()
  await expect(slider).toBeVisible()
  const tablet = await another(browser, 'dunlin')
  await tablet.goto(address('/loops/PT-103/wire'))
  await expect(tablet.getByRole('slider', { name: 'Process level, percent of range' })).toBeVisible()
  await tablet.context().close()
  await dunlin.getByRole('button', { name: 'Make the signal path small' }).click()
  await expect(slider).toBeHidden()
  // Where readings are taken it never computes beside them.
  await dunlin.goto(address('/loops/FT-402/verify'))
  await dunlin.keyboard.press('o')
  await expect(dunlin.getByText('Read: as found, point 5.')).toBeVisible()
  await expect(slider).toHaveCount(0)
  await expect(dunlin.getByRole('region', { name: 'Signal path' }).getByRole('textbox')).toHaveCount(0)
  await dunlin.keyboard.press('o')
  // A loop that only switches shows no empty band.
  await dunlin.goto(address('/loops/ZS-305/wire'))
  await settled(dunlin)
  await expect(dunlin.getByRole('region', { name: 'Signal path' })).toHaveCount(0)
  await dunlin.context().close()
})

/** What lies over the middle of the element that has the focus, where it is not itself or a part of its own field. */
const stop = (page: Page) =>
  page.evaluate((): { begun: boolean; says: string | null } => {
    const el = document.activeElement
    if (!el || el === document.body) return { begun: false, says: null }
    const begun = el.classList.contains('skip')
    const r = el.getBoundingClientRect()
    if (r.width === 0 || r.height === 0) return { begun, says: null }
    const [x, y] = [r.left + r.width / 2, r.top + r.height / 2]
    const name = `${el.tagName} ${el.getAttribute('aria-label') ?? el.textContent.slice(0, 40)}`
    const top = document.elementFromPoint(x, y)
    if (!top) return { begun, says: `${name} is outside the screen` }
    const field = el.closest('.v-input, label, [role=button], .v-slider')
    const seen = el.contains(top) || top.contains(el) || field?.contains(top) === true
    return { begun, says: seen ? null : `${name} is under ${top.tagName}.${top.getAttribute('class') ?? ''}` }
  })
const MOST_STEPS = 220
/** Steps with the Tab key through all of a page; each stop that is covered. */
async function hidden(page: Page): Promise<string[]> {
  const found: string[] = []
  await page.evaluate(() => {
    ;(document.activeElement as HTMLElement | null)?.blur()
    window.scrollTo(0, 0)
  })
  for (let i = 0; i < MOST_STEPS; i++) {
    await page.keyboard.press('Tab')
    const { begun, says } = await stop(page)
    // Round once: the first place again.
    if (begun && i > 0) break
    if (says) found.push(says)
  }
  return found
}
const SIZES = [
  [1280, 800],
  [800, 1280],
  [390, 844],
  [390, 500],
] as const

test.describe.configure({ mode: 'parallel' })
for (const [width, height] of SIZES)
  test(`at ${width} by ${height} nothing that has the focus is under a bar`, async ({ wren }) => {
    test.setTimeout(240_000)
    await wren.setViewportSize({ width, height })
    for (const at of BENCHES) {
      await wren.goto(path(at))
      await settled(wren)
      expect({ bench: at[0], hidden: await hidden(wren) }).toEqual({ bench: at[0], hidden: [] })
    }
  })
