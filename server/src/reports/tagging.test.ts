import { inflateSync } from 'node:zlib'
import { beforeAll, describe, expect, test } from 'vitest'
import { pdfLibrary } from './fonts.ts'
import { facts, figure, heading, mono, printed, rule } from './sheet-parts.ts'
import { stationery } from '../test/stationery.ts'

const SVG =
  '<svg xmlns="http://www.w3.org/2000/svg" width="10" height="10"><rect width="9" height="9" stroke="black" fill="none"/><text x="1" y="8" font-size="4">t</text></svg>'
const long = 'So many words that they do not stand in one line of this paper. '.repeat(4)

/** The streams of a file that are drawn: those with operators that show text or paint. */
function drawn(pdf: Buffer): string[] {
  const text = pdf.toString('latin1')
  return [...text.matchAll(/<<[^>]*>>\s*stream\r?\n/g)].flatMap((m) => {
    const from = m.index + m[0].length
    const to = text.indexOf('endstream', from)
    try {
      const stream = inflateSync(pdf.subarray(from, to)).toString('latin1')
      return /\bBT\b/.test(stream) ? [stream] : []
    } catch {
      return []
    }
  })
}
/** How deep each text stands in marked content; and what was opened there. */
function marks(stream: string): {
  readonly depths: readonly number[]
  readonly roles: readonly string[]
  readonly end: number
} {
  let depth = 0
  const depths: number[] = []
  const roles: string[] = []
  for (const [word, role] of stream.matchAll(/\/(\w+) (?:<<[^>]*>> )?B(?:DC|MC)|\bEMC\b|\bBT\b/g)) {
    if (word === 'EMC') depth -= 1
    else if (word === 'BT') depths.push(depth)
    else {
      depth += 1
      roles.push(role ?? '')
    }
  }
  return { depths, roles, end: depth }
}

describe('a paper says what stands on it', () => {
  let pdf: Buffer
  let text: string
  beforeAll(async () => {
    pdf = await pdfLibrary()
      .createPdf(
        printed(
          { stationery: stationery('A4'), runId: 'r', document: { tag: 'PT-1', service: 'Test' } },
          'PT-1',
          null,
          [
            { text: 'Certificate', fontSize: 17, bold: true },
            heading('As found'),
            { text: long },
            facts([['Loop', 'PT-1']]),
            {
              layout: rule,
              table: {
                headerRows: 1,
                body: [
                  [
                    { text: 'Point', bold: true },
                    { text: 'Error', bold: true },
                  ],
                  ...Array.from({ length: 90 }, (_, i) => [String(i), mono('0.01')]),
                ],
              },
            },
            figure(SVG, 50, 'What the picture shows'),
          ],
        ),
      )
      .getBuffer()
    text = pdf.toString('latin1')
  })
  const count = (what: RegExp) => [...text.matchAll(what)].length
  test('it is tagged, in a language, and shows its title', () => {
    expect(text).toMatch(/\/MarkInfo \d+ 0 R/)
    expect(text).toMatch(/\/Marked true/)
    expect(text).toMatch(/\/Type \/StructTreeRoot[^>]*>>[^>]*\/K \[/)
    expect(text).toMatch(/\/Lang \(en\)/)
    expect(text).toMatch(/\/DisplayDocTitle true/)
  })
  test('headings, paragraphs, tables with their rows and head cells, a figure in words', () => {
    expect(
      ['H1', 'H2', 'P', 'Figure', 'Table', 'TR'].map((s) => count(new RegExp(`/S /${s}\\b`, 'g'))),
    ).toEqual([1, 1, 1, 1, 2, 92])
    // Two columns: a head row and ninety; a row of facts has its name as head.
    expect([count(/\/S \/TH\b/g), count(/\/S \/TD\b/g)]).toEqual([3, 181])
    expect([count(/\/Scope \/Column/g), count(/\/Scope \/Row/g)]).toEqual([2, 1])
    expect(text).toContain('/Alt (What the picture shows)')
  })
  test('every text stands in one mark, on every page; head and foot are decoration', () => {
    const pages = drawn(pdf).map(marks)
    expect(pages.length).toBeGreaterThan(1)
    for (const page of pages) {
      expect(new Set(page.depths)).toEqual(new Set([1]))
      expect(page.end).toBe(0)
      expect(page.roles).toContain('Artifact')
      expect(page.roles).toContain('TD')
    }
    // A paragraph of several lines is one element with all of them.
    expect(pages[0]?.roles.filter((r) => r === 'P').length).toBeGreaterThan(1)
  })
  test('no name in it leads nowhere', () => {
    expect(text).toMatch(/\/Dests <<\s*\/Names \[\s*\]/)
  })
})
