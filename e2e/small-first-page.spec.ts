import { address, expect, test } from './setup/technician.ts'

/** The most that one visit asks for and that comes over the wire, apart from the stream of news. */
const PAGES: readonly [name: string, path: string, ready: string, mostKilobytes: number][] = [
  ['the sign-in page', '/sign-in', 'Password', 250],
  ['the list of loops', '/loops', 'Due in 30 days', 250],
  ['the Wire bench', '/loops/PT-202/wire', 'What the circuit tells', 480],
  ['the Set up bench', '/loops/FT-101/set-up', 'What follows from it', 468],
  ['the Scale bench', '/loops/PT-103/scale', 'What the ranges tell', 418],
  ['the Trim bench', '/loops/PT-405/trim', 'What is to be done', 482],
  ['the Verify bench', '/loops/FT-402/verify', 'Out of tolerance as found', 384],
  ['the record', '/loops/FT-402/record', 'Prove the record', 520],
]
const MOST_REQUESTS = 30

test.describe.configure({ mode: 'parallel' })
for (const [name, path, ready, mostKilobytes] of PAGES)
  test(`${name}, opened for the first time, asks for at most ${MOST_REQUESTS} things and ${mostKilobytes} KB`, async ({
    wren,
  }) => {
    await wren.goto('about:blank')
    // The moment is taken in the page: what it fetches ahead after that is not part of the first view,
    // and on a busy machine this test would look too late to tell the two apart.
    await wren.addInitScript((text) => {
      const look = () => {
        if (document.querySelector('body')?.innerText.includes(text)) performance.mark('ready')
        else requestAnimationFrame(look)
      }
      requestAnimationFrame(look)
    }, ready)
    await wren.goto(address(path))
    await wren.waitForFunction(() => performance.getEntriesByName('ready').length > 0)
    await expect(wren.getByText(ready).first()).toBeVisible()
    // A font is asked for as the text is laid out: waited for, so that it is counted.
    const asked = await wren.evaluate(async () => {
      const until = performance.getEntriesByName('ready').at(-1)?.startTime ?? 0
      const parts = () =>
        performance
          .getEntries()
          .filter((e) => e instanceof PerformanceResourceTiming)
          .filter((e) => e.startTime <= until && !e.name.startsWith('data:'))
      await document.fonts.ready
      return parts().map((e) => [new URL(e.name).pathname, e.encodedBodySize] as const)
    })
    const told = asked.map((p) => p.join(' ')).join('\n')
    expect(asked.length, told).toBeLessThanOrEqual(MOST_REQUESTS)
    const bytes = asked.reduce((sum, [, size]) => sum + size, 0)
    expect(bytes, 'the sizes are told').toBeGreaterThan(10_000)
    expect(bytes / 1024, told).toBeLessThanOrEqual(mostKilobytes)
  })
