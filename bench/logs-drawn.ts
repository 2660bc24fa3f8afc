import type { Page } from '@playwright/test'
import { percentile, type Figure } from './report.ts'

const LOOKS = 40
/** A display shows a new picture so often. */
const FRAME_MS = 1000 / 60

/**
 * From the data of a look that is here to the drawing that shows it: the page is panned by keys, and each time the first
 * drawing after the data is the look that came.
 */
export async function drawnFigure(page: Page, address: string): Promise<Figure> {
  await page.addInitScript(() => {
    const seen = { came: [] as number[], drawn: [] as number[] }
    Object.assign(window, { seen })
    const fetched = window.fetch.bind(window)
    window.fetch = async (...asked) => {
      const answer = await fetched(...asked)
      const [what] = asked
      const url = what instanceof Request ? what.url : String(what)
      if (!url.includes('/view?')) return answer
      // Whole, as the page gets it: what is measured begins with the data.
      const text = await answer.text()
      seen.came.push(performance.now())
      return new Response(text, answer)
    }
    // eslint-disable-next-line @typescript-eslint/unbound-method -- it is called on its own canvas
    const wipe = CanvasRenderingContext2D.prototype.clearRect
    CanvasRenderingContext2D.prototype.clearRect = function (...at) {
      wipe.apply(this, at)
      // Once all of this drawing is done.
      queueMicrotask(() => seen.drawn.push(performance.now()))
    }
  })
  await page.goto(address)
  const board = page.getByRole('group', { name: /Drawing of the log/ })
  await board.waitFor()
  await page.waitForTimeout(1500)
  await board.focus()
  // A quarter of the whole: it can be panned.
  for (let i = 0; i < 4; i++) await page.keyboard.press('+')
  await page.waitForTimeout(1500)
  const times: number[] = []
  for (let i = 0; i < LOOKS; i++) {
    await page.evaluate(() => {
      const { seen } = window as unknown as { seen: { came: number[]; drawn: number[] } }
      seen.came = []
      seen.drawn = []
    })
    await page.keyboard.press(i % 8 < 4 ? 'ArrowRight' : 'ArrowLeft')
    await page.waitForTimeout(500)
    const ms = await page.evaluate(() => {
      const { seen } = window as unknown as { seen: { came: number[]; drawn: number[] } }
      const came = seen.came[0]
      const drawn = came === undefined ? undefined : seen.drawn.find((t) => t >= came)
      return came === undefined || drawn === undefined ? null : drawn - came
    })
    if (ms !== null) times.push(ms)
  }
  const p95 = percentile(times, 95)
  return {
    title: `a look is drawn, from its data on (${times.length} looks, p95)`,
    measured: `${p95.toFixed(0)} ms`,
    against: 'two frames of a display, 33 ms',
    ratio: p95 / (2 * FRAME_MS),
    wanted: 'at most 1',
  }
}
