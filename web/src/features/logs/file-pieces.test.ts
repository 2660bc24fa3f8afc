import { describe, expect, test } from 'vitest'
import { encodingOf, headOf, piecesOf, rowsIn } from './file-pieces.ts'

const all = async (file: Blob, most?: number) => {
  const pieces: string[] = []
  for await (const p of piecesOf(file, most)) pieces.push(p)
  return pieces
}

describe('a file in pieces of whole lines', () => {
  const text = Array.from({ length: 500 }, (_, i) => `2026-03-01 10:00:0${i % 10};${i},5`).join('\r\n')
  test.each([37, 100, 5000, 1_000_000])('none is lost, none is cut, at %d signs', async (most) => {
    const pieces = await all(new Blob([text]), most)
    expect(pieces.join('')).toBe(text.replace(/\r\n/g, '\n'))
    expect(pieces.slice(0, -1).every((p) => p.endsWith('\n') && p.length <= most + 1)).toBe(true)
  })
  test('lines of old machines and letters of old code pages', async () => {
    expect(await all(new Blob(['a\rb\rc']))).toEqual(['a\nb\nc'])
    expect(await all(new Blob([new Uint8Array([0xb0, 0x43, 0x0a])]))).toEqual(['°C\n'])
    const wide = new Uint8Array([0xff, 0xfe, 0x6d, 0, 0xb3, 0, 0x0a, 0])
    expect((await all(new Blob([wide]))).join('')).toBe('m³\n')
  })
  test('a letter cut by the first bytes is still one', () => {
    expect(encodingOf(new Uint8Array([0x6d, 0xc2]))).toBe('utf-8')
    expect(encodingOf(new Uint8Array([0xfe, 0xff, 0, 0x41]))).toBe('utf-16be')
  })
  test('the head has whole lines only', async () => {
    const long = new Blob([`${'x'.repeat(399_000)}\n${'y'.repeat(5000)}\nend`])
    expect((await headOf(long)).map((l) => l.length)).toEqual([399_000])
    expect(await headOf(new Blob(['a\nb']))).toEqual(['a', 'b'])
  })
})

describe('how many rows a file has', () => {
  const counted = Array.from({ length: 200_000 }, (_, i) => `${i};${(i * 7) % 13}\n`).join('')
  test.each([
    ['a small one', '1;2\n'.repeat(30), 30],
    ['without an end behind the last', '1;2\n3;4', 1],
    ['rows that grow longer, within two of a hundred', counted, 200_000],
    ['nothing', '', 0],
  ])('%s', async (_, text, rows) => {
    expect(Math.abs((await rowsIn(new Blob([text]))) - rows)).toBeLessThanOrEqual(rows / 50)
  })
  test('two bytes a sign', async () => {
    const text = `\ufeff${'1;2\n'.repeat(60_000)}`
    const wide = new Uint8Array(new Uint16Array([...text].map((s) => s.charCodeAt(0))).buffer)
    expect(await rowsIn(new Blob([wide]))).toBeCloseTo(60_000, -2)
  })
})
