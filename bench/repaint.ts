import type { Page } from '@playwright/test'
import { percentile, type Figure } from './report.ts'

const FRAME_MS = 16

/** Time of the page's thread from a typed key to all stations laid out again, and the same for eight bare text nodes. */
export async function repaintFigures(page: Page, base: string): Promise<Figure[]> {
  await page.goto(`${base}/loops/PT-202/scale`)
  await page.locator('[data-station=MA]').waitFor()
  const { ours, bare } = await page.evaluate(async () => {
    const input = document.querySelector<HTMLInputElement>('[data-station=MA]')
    const last = document.querySelector<HTMLInputElement>('[data-station=EU]')
    if (!input || !last) throw new Error('no path')
    input.focus()
    const ours: number[] = []
    for (let i = 0; i < 200; i++) {
      await new Promise((r) => requestAnimationFrame(r))
      const before = last.value
      const begun = performance.now()
      input.value = (4 + (i % 160) / 10).toFixed(2)
      input.dispatchEvent(new Event('input', { bubbles: true }))
      // Vue repaints in the microtasks that follow; reading the layout forces the rest of the work.
      await Promise.resolve()
      await new Promise((r) => queueMicrotask(() => r(null)))
      while (last.value === before) await Promise.resolve()
      void document.body.offsetHeight
      ours.push(performance.now() - begun)
    }
    const box = document.createElement('div')
    const nodes = Array.from({ length: 8 }, () => box.appendChild(document.createElement('span')))
    document.body.append(box)
    const bare: number[] = []
    for (let i = 0; i < 200; i++) {
      await new Promise((r) => requestAnimationFrame(r))
      const begun = performance.now()
      for (const n of nodes) n.textContent = String(i)
      void document.body.offsetHeight
      bare.push(performance.now() - begun)
    }
    return { ours, bare }
  })
  const ms = percentile(ours, 95)
  return [
    {
      title: 'typed value to all stations, 95th percentile',
      measured: `${ms.toFixed(2)} ms`,
      against: `${FRAME_MS} ms, one frame (eight bare text nodes: ${percentile(bare, 95).toFixed(2)} ms)`,
      ratio: ms / FRAME_MS,
      wanted: 'below 1',
    },
  ]
}
