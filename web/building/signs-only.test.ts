import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, expect, test } from 'vitest'
import { sheetOfStyles, signsAsked } from './signs-only.ts'

const root = join(import.meta.dirname, '../..')
/** Every text that can reach a page. */
const texts = ['core/src', 'contract/src', 'server/src', 'web/src'].flatMap((folder) =>
  readdirSync(join(root, folder), { recursive: true, encoding: 'utf8' })
    .filter((name) => /\.(ts|vue|md)$/.test(name) && !name.endsWith('.test.ts'))
    .map((name) => readFileSync(join(root, folder, name), 'utf8')),
)
/** Greek, small figures, arrows and mathematics: what no face of text is sure to have. */
const SIGN = /[\u0370-\u03ff\u2070-\u209f\u2126\u2190-\u22ff]/gu

describe('the face of signs', () => {
  test('holds every sign that a text of the product has', () => {
    const used = new Set(texts.flatMap((text) => text.match(SIGN) ?? []))
    expect(used).toContain('Ω')
    const signs = signsAsked(sheetOfStyles())
    expect([...used].filter((sign) => !signs.includes(sign))).toEqual([])
  })
  test('is read out of the sheet of styles, single signs and ranges', () => {
    const css = "@font-face { font-family: 'Calm Signs'; unicode-range: U+00B5, U+0391-0393; src: x }"
    expect(signsAsked(css)).toBe('µΑΒΓ')
    expect(() => signsAsked('@font-face { }')).toThrow('names no signs')
  })
})
