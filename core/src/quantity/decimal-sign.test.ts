import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { asWritten, inSign } from './decimal-sign.ts'

describe('decimals as a plant writes them', () => {
  test.each([
    ['U = 0.12 % of span, k = 2.', 'U = 0,12 % of span, k = 2.'],
    ['The worst is -0.034 % at 12.000 mA.', 'The worst is -0,034 % at 12,000 mA.'],
    ['−1.5 and +2.25 and ±0.1', '−1,5 and +2,25 and ±0,1'],
    ['It ends at 7.5.', 'It ends at 7,5.'],
    ['(0.5)', '(0,5)'],
    ['1.5e-7 m²/s', '1,5e-7 m²/s'],
    ['0.5 to 1.2 bar; 10.5/2.5', '0,5 to 1,2 bar; 10,5/2,5'],
  ])('a number: %s', (said, paper) => {
    expect(inSign(said, 'comma')).toBe(paper)
    expect(inSign(said, 'point')).toBe(said)
  })
  test.each([
    'FT-101.5',
    'version 1.2.3',
    'JCGM 100, 7.2.6',
    'ISO 5167-2.1',
    '23.11.2026 14:02 UTC+1',
    'PT101.2',
    '12:30:01.5',
    '192.168.0.12',
    'page 2 of 3',
  ])('what is no number stays: %s', (said) => {
    expect(inSign(said, 'comma')).toBe(said)
  })
  test('what somebody typed stays in the midst of a sentence, and leaves no mark', () => {
    const said = `Off by 0.4 %. Reason: ${asWritten('set to 4.02 mA')} (${asWritten('R. 2.5')}), 1.5 h later`
    expect(inSign(said, 'comma')).toBe('Off by 0,4 %. Reason: set to 4.02 mA (R. 2.5), 1,5 h later')
    expect(inSign(said, 'point')).toBe('Off by 0.4 %. Reason: set to 4.02 mA (R. 2.5), 1.5 h later')
  })
  test('a typed text that was cut short stays too', () => {
    expect(inSign(`0.5 ${asWritten('flow 2.5 m').slice(0, 7)}`, 'comma')).toBe('0,5 flow 2')
  })
  test('whatever is typed comes back as it was, whoever put marks into it', () => {
    fc.assert(
      fc.property(
        fc.string(),
        fc.string({ unit: fc.constantFrom('\uE000', '\uE001', '1', '.', '5', ' ') }),
        (typed, odd) => {
          const clean = (odd + typed).replaceAll(/[\uE000\uE001]/g, '')
          expect(inSign(`${asWritten(odd + typed)} 0.5`, 'comma')).toBe(`${clean} 0,5`)
        },
      ),
    )
  })
  test('a number of the program keeps every digit', () => {
    fc.assert(
      fc.property(fc.double({ noNaN: true, noDefaultInfinity: true }), (x) => {
        expect(Number(inSign(String(x + 0), 'comma').replace(',', '.'))).toBe(x + 0)
      }),
    )
  })
})
