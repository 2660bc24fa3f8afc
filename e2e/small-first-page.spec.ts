import { address, expect, test } from './setup/technician.ts'

/** What one visit asked for and how much of it came over the wire, apart from the stream of news. */
const PAGES: readonly [name: string, path: string, ready: string, most?: number][] = [
  ['the sign-in page', '/sign-in', 'Password'],
  ['the list of loops', '/loops', 'Due in 30 days'],
  ['the Wire bench', '/loops/PT-202/wire', 'What the circuit tells'],
  ['the Set up bench', '/loops/FT-101/set-up', 'What follows from it'],
  ['the Scale bench', '/loops/PT-103/scale', 'What the ranges tell'],
  ['the Trim bench', '/loops/PT-405/trim', 'What is to be done', 36],
  ['the Verify bench', '/loops/FT-402/verify', 'Out of tolerance as found'],
  ['the record', '/loops/FT-402/record', 'Prove the record', 42],
]
const MOST_REQUESTS = 30

test.describe.configure({ mode: 'parallel' })
for (const [name, path, ready, most = MOST_REQUESTS] of PAGES)
  test(`${name}, opened for the first time, asks for at most ${most} things`, async ({ wren }) => {
    await wren.goto('about:blank')
    const asked: string[] = []
    wren.on('request', (r) => {
      if (!r.url().startsWith('data:')) asked.push(new URL(r.url()).pathname)
    })
    await wren.goto(address(path))
    await expect(wren.getByText(ready).first()).toBeVisible()
    expect(asked.length, asked.join('\n')).toBeLessThanOrEqual(most)
  })
