import { readFileSync } from 'node:fs'
import AxeBuilder from '@axe-core/playwright'
import { PDFParse } from 'pdf-parse'
import { address, expect, press, test } from './setup/technician.ts'
import { like } from './setup/own-loop.ts'
import type { Page } from '@playwright/test'

const START = Date.UTC(2026, 10, 9, 6, 30)
/** A flow that stands still for a while at each of a few levels. */
const flow = (s: number) => [18, 24, 21, 27][Math.floor(s / 1800) % 4] ?? 18
/** Noise that is the same every time. */
const noise = (i: number) => Math.sin(i * 12.9898) * 43_758.5453
const wobble = (i: number) => (noise(i) - Math.floor(noise(i)) - 0.5) * 0.1
const two = (n: number) => String(n).padStart(2, '0')
const european = (ms: number) => {
  const d = new Date(ms)
  return `${two(d.getUTCDate())}.${two(d.getUTCMonth() + 1)}.${d.getUTCFullYear()};${d.toISOString().slice(11, 19)}`
}
/** As a recorder of another country writes it: head lines, semicolons, decimal commas, the old code page. */
const file = (rows: number, gain: number, later_s: number, broken = -1) =>
  Buffer.from(
    [
      'Recorder 7',
      'Site;Membranes',
      '',
      'Datum;Uhr;Durchfluss [m³/h]',
      ...Array.from({ length: rows }, (_, i) =>
        i === broken
          ? `${european(START + i * 1000)};??`
          : `${european(START + i * 1000)};${(gain * flow(i - later_s) + wobble(i + 1000 * gain)).toFixed(2).replace('.', ',')}`,
      ),
    ].join('\r\n'),
    'latin1',
  )
const choose = async (page: Page, label: string, option: RegExp) => {
  await page.locator('.v-select').filter({ hasText: label }).click()
  await press(page.getByRole('option', { name: option }).first())
}

/** One of the things that the menu “Take out” offers. */
const takeOut = (page: Page, title: string | RegExp) =>
  page.locator('.v-list-item').filter({ hasText: title }).filter({ visible: true }).first()

test('a foreign file is read in, judged, compared with a reference, made a comparison, exported', async ({
  wren,
}) => {
  test.setTimeout(180_000)
  await like(wren, 'FT-956', 'FT-203')
  const readIn = async (name: string, buffer: Buffer) => {
    await wren.goto(address('/logs/read-in?loop=FT-956'))
    await wren.locator('input[type=file]').setInputFiles({ name, mimeType: 'text/csv', buffer })
    await expect(wren.getByText(/of the first \d+ lines can be read|lines can be read/)).toBeVisible()
  }
  await readIn('portable.csv', file(7200, 1, 0))
  await choose(wren, 'It is of', /a reference beside it/)
  await wren.getByRole('button', { name: 'Read in', exact: true }).click()
  await wren.waitForURL(/\/logs\/FT-956\//)
  // The next file of the same device is read as that one was.
  await readIn('installed.csv', file(7200, 1.03, 9, 4321))
  await expect(wren.getByText('Read as “portable” was')).toBeVisible()
  await expect(wren.getByLabel('Column 3')).toHaveValue('Durchfluss')
  await wren.getByRole('button', { name: 'Read in', exact: true }).click()
  await wren.waitForURL(/\/logs\/FT-956\//)
  await expect(wren.getByText('1 line could not be read')).toBeVisible()
  await wren.getByText('1 line could not be read').click()
  await expect(wren.getByText('installed.csv, line 4326: no number')).toBeVisible()
  await expect(wren.getByText(/findings in 7.199 samples; held against the range of the loop/)).toBeVisible()
  await expect(wren.getByText(/The level changed by \+6\.\d+ m³\/h/).first()).toBeVisible()
  // Several may be chosen: the list stays open until it is left.
  await wren.locator('.v-select').filter({ hasText: 'Beside it' }).click()
  await wren.getByRole('option', { name: /portable: Durchfluss/ }).click()
  await wren.keyboard.press('Escape')
  await wren.getByRole('button', { name: 'Compare', exact: true }).click()
  await expect(
    wren.getByText(/They do not agree in \d+ of \d+ stretches; the error is \+3(\.\d+)? % on average/),
  ).toBeVisible()
  await expect(wren.getByText(/“installed” comes 9(\.\d)? s later; taken out/)).toBeVisible()
  // A colleague's log comes in meanwhile, at the head of the list: the same two stay the ones that are compared.
  let lists = 0
  await wren.route(
    (url) => url.pathname === '/api/logs',
    async (route) => {
      const answer = await route.fetch()
      const known = (await answer.json()) as { id: string; title: string }[]
      const colleague = {
        ...known.find((l) => l.title === 'portable'),
        id: crypto.randomUUID(),
        title: 'of a colleague',
      }
      lists += 1
      await route.fulfill({ response: answer, json: [colleague, ...known] })
    },
  )
  await wren.getByRole('button', { name: 'Keep as a comparison' }).click()
  await expect(wren.getByText('In the record of')).toBeVisible()
  await expect.poll(() => lists).toBeGreaterThan(0)
  await expect(wren.getByText('“installed” against “portable” as the reference')).toBeVisible()
  await expect(wren.getByText(/“installed” comes 9(\.\d)? s later; taken out/)).toBeVisible()
  const csv = wren.waitForEvent('download')
  await wren.getByRole('button', { name: 'Take out' }).click()
  await takeOut(wren, 'Rows (CSV)').click()
  const text = readFileSync(await (await csv).path(), 'utf8')
  expect(text.trim().split('\r\n')).toHaveLength(7200)
  expect(text).toContain('"Durchfluss [m3/h]"')
  // A moment is marked, a counter held against the total.
  await wren.getByRole('button', { name: 'Mark', exact: true }).click()
  await wren.getByLabel('What was seen or done').fill('Second membrane in')
  await wren.getByRole('button', { name: 'Keep it' }).click()
  await expect(wren.getByRole('list', { name: 'Marks' })).toContainText('Second membrane in')
  await wren.getByText('Against a counter').click()
  await wren.getByRole('textbox', { name: 'At the beginning, m³' }).fill('100')
  await wren.getByRole('textbox', { name: 'At the end, m³' }).fill('160')
  await expect(wren.getByText(/nobody said how well the rate is known/)).toBeVisible()
  await wren.getByRole('textbox', { name: 'Rate, ± %' }).fill('1')
  await expect(wren.getByText(/they do not agree/)).toBeVisible()
  // Readings of these two ends say nothing of another stretch, and are not lost for it.
  await wren.getByRole('button', { name: 'Nearer', exact: true }).click()
  await expect(
    wren.getByText(/Not judged: the counter was read at the ends of another stretch/),
  ).toBeVisible()
  await expect(wren.getByText(/they do not agree/)).toHaveCount(0)
  // One of them typed anew is of this end; the other one is still of its own.
  await wren.getByRole('textbox', { name: 'At the end, m³' }).fill('161')
  await expect(
    wren.getByText(/Not judged: the counter was read at the ends of another stretch/),
  ).toBeVisible()
  await wren.getByRole('button', { name: 'Back to it' }).click()
  await expect(wren.getByText(/Not judged: the counter was read/)).toHaveCount(0)
  await wren.getByRole('button', { name: 'Whole', exact: true }).click()
  await expect(wren.getByText(/Not judged: the counter was read/)).toBeVisible()
  await wren.getByRole('textbox', { name: 'At the end, m³' }).fill('160')
  await expect(wren.getByText(/they do not agree/)).toBeVisible()
  const { violations } = await new AxeBuilder({ page: wren }).analyze()
  expect(violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.target.join(' ')).join(' | ')}`)).toEqual([])
  await wren.setViewportSize({ width: 390, height: 844 })
  await expect(async () => {
    expect(await wren.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390)
  }).toPass()
  await wren.setViewportSize({ width: 1280, height: 800 })
  const pdf = wren.waitForEvent('download')
  await wren.getByRole('button', { name: 'Take out' }).click()
  await takeOut(wren, 'Report (PDF)').click()
  const paper = await new PDFParse({ data: readFileSync(await (await pdf).path()) }).getText()
  expect(paper.text).not.toContain('SIMULATED')
  // What is drawn beside it is on the paper too, judged by itself.
  expect(paper.text).toContain('Beside it: portable')
  expect(paper.text.match(/held against the range of the loop/g)).toHaveLength(2)
  expect(paper.text.replace(/\s+/g, ' ')).toMatch(
    /findings in 7 199 samples; held against the range of the loop/,
  )
  expect(paper.text).toMatch(/Samples: SHA-256 [0-9a-f]{16}/)
  await wren.goto(address('/loops/FT-956/verify?view=reference'))
  await expect(
    wren
      .getByText(/Reads \+3 % against the portable meter|Reads \+3\.\d+ % against the portable meter/)
      .first(),
  ).toBeVisible()
  await wren.goto(address('/loops/FT-956/verify?view=logs'))
  await expect(wren.getByText('installed', { exact: true })).toBeVisible()
})

test('a sending that breaks off goes on where it stopped; given up, nothing of it stays', async ({
  wren,
}) => {
  test.setTimeout(120_000)
  await like(wren, 'FT-957', 'FT-203')
  const buffer = file(60_000, 1, 0)
  await wren.goto(address('/logs/read-in?loop=FT-957'))
  const take = () =>
    wren.locator('input[type=file]').setInputFiles({ name: 'night.csv', mimeType: 'text/csv', buffer })
  await take()
  let sent = 0
  await wren.route('**/pieces', (route) =>
    ++sent === 2 ? route.fulfill({ status: 500, body: '{}' }) : route.continue(),
  )
  await wren.getByRole('button', { name: 'Read in', exact: true }).click()
  await expect(wren.getByText('What came is kept: press again to go on.')).toBeVisible()
  // Another day, another page: the list knows it.
  await wren.goto(address('/logs'))
  await wren.getByRole('link', { name: 'night: not whole, go on' }).click()
  await take()
  await wren.getByRole('button', { name: 'Read in', exact: true }).click()
  await wren.waitForURL(/\/logs\/FT-957\//)
  await expect(wren.getByText(/in 60.000 samples/)).toBeVisible()
  const parts = wren.waitForEvent('download')
  await wren.getByRole('button', { name: 'Take out' }).click()
  await takeOut(wren, /10.000 rows a file/).click()
  expect((await parts).suggestedFilename()).toBe('FT-957 night.zip')
  // And one that nobody wants.
  await wren.goto(address('/logs/read-in?loop=FT-957'))
  await wren.locator('input[type=file]').setInputFiles({ name: 'other.csv', mimeType: 'text/csv', buffer })
  sent = 0
  await wren.getByRole('button', { name: 'Read in', exact: true }).click()
  await expect(wren.getByText('What came is kept: press again to go on.')).toBeVisible()
  await wren.getByRole('button', { name: 'Give up' }).click()
  await wren.goto(address('/logs'))
  await expect(wren.getByText('night', { exact: true })).toBeVisible()
  await expect(wren.getByText('other: not whole')).toHaveCount(0)
})

test('what a file does not tell is asked, what is no table is said', async ({ wren }) => {
  await wren.goto(address('/logs/read-in?loop=FT-203'))
  const take = (text: string) =>
    wren
      .locator('input[type=file]')
      .setInputFiles({ name: 'a.csv', mimeType: 'text/csv', buffer: Buffer.from(text) })
  await take('hello\nworld\n')
  await expect(wren.getByText('it is no table of measurements')).toBeVisible()
  await take('Time;Flow\n01/01/2026 10:00;1,234\n02/02/2026 10:00;2,345\n')
  await expect(wren.getByText('Nothing in this file tells whether day or month stands first')).toBeVisible()
  await expect(wren.getByText('What is 1,234?')).toBeVisible()
  await expect(wren.getByText('A column has no unit')).toBeVisible()
  // A guess would be a thousand times wrong: nothing is read in before both are answered.
  const readIn = wren.getByRole('button', { name: 'Read in', exact: true })
  await expect(readIn).toBeDisabled()
  await wren.getByRole('button', { name: '1234', exact: true }).click()
  await expect(wren.getByRole('cell', { name: '1234', exact: true })).toBeVisible()
  await expect(readIn).toBeDisabled()
  await wren.getByRole('button', { name: 'month, day' }).click()
  await expect(readIn).toBeEnabled()
  // A zone half typed is no zone yet: the rows stay as they were read, and nothing is begun by it.
  const zone = wren.getByLabel('Time zone of its clock')
  await zone.fill('Europe/Lis')
  await expect(wren.getByText('No time zone of this name is known')).toBeVisible()
  await expect(wren.getByRole('button', { name: 'Read in', exact: true })).toBeDisabled()
  await expect(wren.getByRole('table')).toBeVisible()
  await zone.fill('Europe/Lisbon')
  await expect(wren.getByText('No time zone of this name is known')).toHaveCount(0)
  await take('1;2\n3;4\n')
  await expect(wren.getByText('No column tells the time')).toBeVisible()
  await wren.getByRole('button', { name: 'Read in', exact: true }).click()
  await expect(wren.getByText(/No column tells the time: choose one/).first()).toBeVisible()
})

test('a file with the columns of a known one and another decimal sign is read as it says itself', async ({
  wren,
}) => {
  await wren.goto(address('/logs/read-in?loop=FT-304'))
  const choose = (name: string, value: string) =>
    wren.locator('input[type=file]').setInputFiles({
      name,
      mimeType: 'text/csv',
      buffer: Buffer.from(
        [
          'Time;Flow [m³/h]',
          ...Array.from(
            { length: 40 },
            (_, i) => `${new Date(START + i * 1000).toISOString().slice(0, 19).replace('T', ' ')};${value}`,
          ),
        ].join('\n'),
      ),
    })
  await choose('comma.csv', '18,25')
  await expect(wren.getByText('Read as “Wash water at full flow” was')).toBeVisible()
  await choose('point.csv', '18.25')
  await expect(wren.getByText('Read as “Wash water at full flow” was')).toBeHidden()
  await expect(wren.getByText('All of the first 40 lines can be read.')).toBeVisible()
})

test('before against after: the moment is touched, the mean moved by more than both sides scatter; its plot is a drawing', async ({
  wren,
}) => {
  const part = wren.getByRole('region', { name: 'Before against after' })
  /** Opens a log, goes to a finding, and touches the middle of what is seen then. */
  const touch = async (title: RegExp, finding: RegExp) => {
    await wren.goto(address('/logs'))
    await wren.getByRole('link', { name: title }).click()
    await wren.getByRole('button', { name: finding }).first().click()
    const chart = wren.locator('canvas').first()
    const box = await chart.boundingBox()
    await chart.click({ position: { x: (box?.width ?? 0) * 0.54, y: 100 } })
  }
  const press = async (left: string) => {
    await part.getByLabel('Left out on either side of it').fill(left)
    await part.getByRole('button', { name: 'Before against after' }).click()
  }
  await touch(/Portable meter beside it/, /The level changed by \+150/)
  await press('900')
  await expect(part.getByText(/The mean moved by \+150 ± 0\.\d+ m³\/h/)).toBeVisible()
  // Kept as a mark at that moment, in words that can be changed first.
  await part.getByRole('button', { name: 'Keep it at this moment' }).click()
  await expect(wren.getByLabel('What was seen or done')).toHaveValue(/moved by \+150 .* 900 s left out/)
  await wren.getByRole('button', { name: 'Keep it', exact: true }).click()
  await expect(wren.getByText(/Before against after\. The mean moved by \+150/)).toBeVisible()
  // More is left out than there is, and less than nothing.
  await press('60000')
  await expect(part.getByRole('alert')).toHaveText(/Nothing is left on one side/)
  await part.getByLabel('Left out on either side of it').fill('-5')
  await expect(part.getByText(/less than nothing cannot be left out/)).toBeVisible()
  await wren.getByRole('button', { name: 'Take out' }).click()
  const [file] = await Promise.all([wren.waitForEvent('download'), takeOut(wren, 'Drawing (SVG)').click()])
  expect(file.suggestedFilename()).toMatch(/^FT-101 .*\.svg$/)
  // Figures of two kinds, and of a value that stood still, are not held against each other.
  await touch(/Permeate flow, after the display was replaced/, /the unit was changed/)
  await press('0')
  await expect(part.getByText(/^Not judged: the unit was changed/)).toBeVisible()
  await touch(/Instrument air over a night/, /without its own noise/)
  await press('0')
  await expect(part.getByText(/^Not judged: .* without its own noise/)).toBeVisible()
})

test('a stretch is held between two touches: it stays the judged one while the drawing shows more, until it is let go', async ({
  wren,
}) => {
  await wren.goto(address('/logs'))
  await wren.getByRole('link', { name: /Discharge pressure, the week of the second pump/ }).click()
  const judged = wren.getByText(/in [\d\s]+ samples.*; held against the range/)
  await expect(judged).toContainText(/200.000 samples/)
  const choose = async (item: string) => {
    await wren.getByRole('button', { name: 'Stretch', exact: true }).click()
    await wren.getByRole('listitem').filter({ hasText: item }).or(wren.getByText(item)).first().click()
  }
  const touch = async (part: number) => {
    const chart = wren.locator('canvas').first()
    const box = await chart.boundingBox()
    await chart.click({ position: { x: (box?.width ?? 0) * part, y: 100 } })
  }
  await choose('Hold between two touches')
  await touch(0.7)
  await expect(wren.getByText('Touch the drawing where it ends.')).toBeVisible()
  // The earlier end may be touched last; the same moment again holds nothing.
  await touch(0.7)
  await expect(wren.getByText('Touch the drawing where it ends.')).toBeVisible()
  await touch(0.4)
  await expect(wren.getByText(/^Held, judged and taken out: /)).toBeVisible()
  await expect(judged).not.toContainText(/200.000 samples/)
  // The rest of what is drawn is not meant, and it is said so.
  await expect(judged).toContainText('samples of the held stretch alone')
  const held = (await judged.textContent()) ?? ''
  await wren.getByRole('button', { name: 'Nearer', exact: true }).click()
  await wren.getByRole('button', { name: 'Later' }).click()
  /** The stretch of what can be taken out, as its address has it. */
  const ends = async (name: string) => {
    const href = await takeOut(wren, name).getAttribute('href')
    return [/from=[\d.]+/, /to=[\d.]+/].map((e) => e.exec(href ?? '')?.[0])
  }
  await wren.getByRole('button', { name: 'Take out' }).click()
  expect(await ends('Report (PDF)')).not.toEqual(await ends('Drawing (SVG)'))
  await wren.keyboard.press('Escape')
  await expect(judged).toHaveText(held)
  await choose('Let go')
  await expect(judged).not.toHaveText(held)
  await wren.getByRole('button', { name: 'Take out' }).click()
  expect(await ends('Report (PDF)')).toEqual(await ends('Drawing (SVG)'))
})

test('what is too long to be judged at once is judged part by part when it is asked for, and can be given up', async ({
  wren,
}) => {
  // A log of more than a million rows as the server answers it, without reading one in.
  let wait: Promise<void> | null = null
  await wren.route('**/judgement?**', async (route) => {
    const isByParts = route.request().url().includes('byParts=true')
    if (isByParts && wait) await wait
    const answer = await route.fetch().catch(() => null)
    if (!answer) return
    const told = (await answer.json()) as Record<string, unknown>
    await route
      .fulfill({ response: answer, json: isByParts ? { ...told, parts: 3 } : { ...told, findings: null } })
      .catch(() => undefined)
  })
  await wren.goto(address('/logs'))
  await wren.getByRole('link', { name: /Wash water at full flow/ }).click()
  const ask = wren.getByRole('button', { name: 'Judge it part by part' })
  await expect(wren.getByText('summed up, not judged')).toBeVisible()
  let goOn = () => {}
  wait = new Promise((done) => (goOn = done))
  await ask.click()
  await wren.getByRole('button', { name: 'Give up' }).click()
  await expect(wren.getByText('summed up, not judged')).toBeVisible()
  goOn()
  wait = null
  await ask.click()
  await expect(wren.getByText(/\d+ findings? in .* samples, judged in 3 parts; held against/)).toBeVisible()
  await expect(ask).toHaveCount(0)
  // Another stretch is another question.
  await wren.getByRole('button', { name: 'Nearer', exact: true }).click()
  await expect(ask).toBeVisible()
})
