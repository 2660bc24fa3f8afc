import type { Locator, Page } from '@playwright/test'
import { percentile, type Figure } from './report.ts'

const FRAME_MS = 16

/** Marks what is typed into and what follows, so that one measurement serves every bench. */
async function mark(input: Locator, result: Locator): Promise<void> {
  await input.evaluate((e) => e.setAttribute('data-bench', 'typed'))
  await result.evaluate((e) => e.setAttribute('data-bench', 'follows'))
}

/**
 * Time of the page's thread from a number typed into one field to the changed text elsewhere, laid out.
 * @param from - the least number typed; they run 16 further in tenths.
 */
const typedUntil = (page: Page, from: number): Promise<number[]> =>
  page.evaluate(async (least) => {
    const input = document.querySelector<HTMLInputElement>('[data-bench=typed]')
    const last = document.querySelector<HTMLElement>('[data-bench=follows]')
    if (!input || !last) throw new Error('nothing to type into')
    input.focus()
    const times: number[] = []
    for (let i = 0; i < 200; i++) {
      await new Promise((r) => requestAnimationFrame(r))
      const before = last instanceof HTMLInputElement ? last.value : last.textContent
      const begun = performance.now()
      input.value = (least + (i % 160) / 10).toFixed(2)
      input.dispatchEvent(new Event('input', { bubbles: true }))
      // Vue repaints in the microtasks that follow; reading the layout forces the rest of the work.
      while ((last instanceof HTMLInputElement ? last.value : last.textContent) === before)
        await Promise.resolve()
      document.body.getBoundingClientRect()
      times.push(performance.now() - begun)
    }
    return times
  }, from)

/** The same for eight bare text nodes: the floor. */
const bareNodes = (page: Page): Promise<number[]> =>
  page.evaluate(async () => {
    const box = document.createElement('div')
    const nodes = Array.from({ length: 8 }, () => box.appendChild(document.createElement('span')))
    document.body.append(box)
    const times: number[] = []
    for (let i = 0; i < 200; i++) {
      await new Promise((r) => requestAnimationFrame(r))
      const begun = performance.now()
      for (const n of nodes) n.textContent = String(i)
      document.body.getBoundingClientRect()
      times.push(performance.now() - begun)
    }
    return times
  })

const TASK_MS = 50
/** The page's thread while a worker tries a million times. */
async function longestTaskOfTrials(page: Page): Promise<Figure> {
  await page.getByRole('button', { name: 'How sure' }).click()
  await page.evaluate(() => {
    const w = window as unknown as { longest: number }
    w.longest = 0
    new PerformanceObserver((list) => {
      for (const e of list.getEntries()) w.longest = Math.max(w.longest, e.duration)
    }).observe({ type: 'longtask' })
  })
  await page.getByRole('button', { name: 'Try a million times' }).click()
  await page.getByText(/1,000,000 trials: the reading/).waitFor({ timeout: 120_000 })
  const longest = await page.evaluate(() => (window as unknown as { longest: number }).longest)
  return {
    title: 'longest task of the page while a million trials run',
    measured: longest === 0 ? 'none over 50 ms' : `${longest.toFixed(0)} ms`,
    against: `${TASK_MS} ms`,
    ratio: longest / TASK_MS,
    wanted: 'below 1',
  }
}

export async function repaintFigures(page: Page, base: string): Promise<Figure[]> {
  const figure = (title: string, times: number[], bare: number[]): Figure => {
    const ms = percentile(times, 95)
    return {
      title,
      measured: `${ms.toFixed(2)} ms`,
      against: `${FRAME_MS} ms, one frame (eight bare text nodes: ${percentile(bare, 95).toFixed(2)} ms)`,
      ratio: ms / FRAME_MS,
      wanted: 'below 1',
    }
  }
  await page.goto(`${base}/loops/PT-202/scale`)
  await page.locator('[data-station=MA]').waitFor()
  await mark(page.locator('[data-station=MA]'), page.locator('[data-station=EU]'))
  const line = await typedUntil(page, 4)
  const bare = await bareNodes(page)
  await page.goto(`${base}/loops/PT-202/wire`)
  await page.locator('[data-terminal="AI-202:in"] .volts').waitFor()
  await mark(page.locator('[data-station=MA]'), page.locator('[data-terminal="AI-202:in"] .volts'))
  const wiring = await typedUntil(page, 4)
  await page.goto(`${base}/loops/FT-101/set-up`)
  const follows = page.getByRole('row', { name: /^Sound speed expected/ }).locator('td')
  await follows.waitFor()
  await mark(page.getByLabel('Temperature', { exact: true }), follows)
  const setUp = await typedUntil(page, 10)
  return [
    figure('typed value to all stations, 95th percentile', line, bare),
    figure('typed current to the wiring solved and redrawn, 95th percentile', wiring, bare),
    figure('typed temperature to a clamp-on set-up and its drawing, 95th percentile', setUp, bare),
    await longestTaskOfTrials(page),
  ]
}
