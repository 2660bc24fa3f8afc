import type { Page } from '@playwright/test'
import { address, expect, signIn, test } from './setup/technician.ts'

const wires = (page: Page) => page.locator('[data-wire]')

test('by keys alone: found, opened, a wire drawn, taken back and drawn again', async ({ wren }) => {
  await expect(wren.getByRole('link', { name: /^PT-202/ })).toBeVisible()
  await wren.keyboard.press('/')
  await expect(wren.getByLabel(/^A tag/)).toBeFocused()
  await wren.keyboard.type('tt407 wir')
  await expect(wren.getByRole('option', { name: /TT-407 Wire/ })).toBeVisible()
  await wren.keyboard.press('Enter')
  await expect(wren.getByText('Nothing is wired here yet')).toBeVisible()
  await expect(wren).toHaveTitle('Wire TT-407 · Calm Loop')

  await wren.getByRole('button', { name: 'Begin with the usual parts' }).focus()
  await wren.keyboard.press('Enter')
  await expect(wires(wren)).toHaveCount(0)
  // Focus goes where the work goes on; from there n finds the first terminal.
  await wren.locator('#work').focus()
  await wren.keyboard.press('n')
  const first = wren.locator('[data-terminal]').first()
  await expect(first).toBeFocused()
  await wren.keyboard.press('Enter')
  await expect(first).toHaveAttribute('aria-pressed', 'true')
  await wren.keyboard.press('ArrowRight')
  await wren.keyboard.press('Enter')
  await expect(wires(wren)).toHaveCount(1)
  await wren.keyboard.press('Control+z')
  await expect(wires(wren)).toHaveCount(0)
  await wren.keyboard.press('Control+y')
  await expect(wires(wren)).toHaveCount(1)

  // A letter typed into a field is never taken for a key, nor one behind a dialog.
  await wren.getByLabel('Why (goes into the record)').fill('')
  await wren.getByLabel('Why (goes into the record)').press('v')
  await expect(wren).toHaveURL(/wire$/)
  await wren.getByRole('button', { name: 'Correct wiring' }).click()
  await expect(wren.getByRole('dialog')).toBeVisible()
  await wren.keyboard.press('v')
  await expect(wren).toHaveURL(/wire$/)
  await wren.keyboard.press('Escape')
  await wren.getByRole('button', { name: 'Discard' }).click()
})

test('by touch alone: a wire is dragged from ring to ring; one let go beside them says so', async ({
  browser,
}) => {
  const context = await browser.newContext({
    viewport: { width: 1280, height: 800 },
    hasTouch: true,
    reducedMotion: 'reduce',
  })
  const page = await context.newPage()
  await signIn(page, 'dunlin')
  await page.goto(address('/loops/TT-407/wire'))
  await page.getByRole('button', { name: 'Begin with the usual parts' }).tap()
  await expect(page.locator('[data-terminal]').first()).toBeVisible()
  const rings = await page.locator('[data-terminal] circle').all()
  const boxes = await Promise.all(rings.map((r) => r.boundingBox()))
  const [from, to] = [boxes[0], boxes.findLast((b) => b !== null && b.x > (boxes[0]?.x ?? 0) + 60)]
  if (!from || !to) throw new Error('terminals are not drawn')
  const touch = await context.newCDPSession(page)
  const drag = async (...way: [number, number][]) => {
    const at = ([x, y]: [number, number]) => [{ x, y }]
    const [begin, ...rest] = way
    if (!begin) return
    await touch.send('Input.dispatchTouchEvent', { type: 'touchStart', touchPoints: at(begin) })
    for (const p of rest)
      await touch.send('Input.dispatchTouchEvent', { type: 'touchMove', touchPoints: at(p) })
    await touch.send('Input.dispatchTouchEvent', { type: 'touchEnd', touchPoints: [] })
  }
  const middle = (b: { x: number; y: number; width: number; height: number }): [number, number] => [
    b.x + b.width / 2,
    b.y + b.height / 2,
  ]
  const [a, b] = [middle(from), middle(to)]
  // Beside a ring, not on it: a glove is wide.
  await drag(a, [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2], [b[0] + 9, b[1] + 9])
  await expect(wires(page)).toHaveCount(1)
  await drag(a, [a[0] + 60, a[1] + 200], [a[0] + 90, a[1] + 330])
  await expect(page.getByText('No terminal there: the wire was let go.')).toBeVisible()
  await expect(wires(page)).toHaveCount(1)
  // At the edge of the board, what lies beyond it comes into view while the wire is drawn to it.
  const board = await page.locator('svg:has([data-terminal])').boundingBox()
  const before = await rings[0]?.boundingBox()
  if (!board || !before) throw new Error('the board is not drawn')
  const edge: [number, number] = [board.x + board.width - 6, a[1] + 30]
  await drag(
    a,
    [a[0] + 60, a[1] + 20],
    ...Array.from({ length: 6 }, (_, i): [number, number] => [edge[0], edge[1] + i]),
  )
  expect((await rings[0]?.boundingBox())?.x).toBeLessThan(before.x - 20)
  await page.getByRole('button', { name: 'Discard' }).tap()
  await context.close()
})
