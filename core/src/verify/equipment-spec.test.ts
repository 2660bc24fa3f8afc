import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { amountAt, equipmentU, readEquipment, suits, type EquipmentWords } from './equipment-spec.ts'

const words = (more: Partial<EquipmentWords>): EquipmentWords => ({
  range: '',
  uncertainty: '',
  drift: '',
  resolution: '',
  ...more,
})
function functions(more: Partial<EquipmentWords>) {
  const read = readEquipment(words(more))
  if (read.kind === 'refused') throw new Error(read.says)
  return read.functions
}

describe('what stands on an instrument', () => {
  test.each([
    ['0 to 24 mA', [[0, 24, 'mA']]],
    [
      '0 to 400 mA, 0 to 300 V',
      [
        [0, 400, 'mA'],
        [0, 300, 'V'],
      ],
    ],
    ['-1 to 2 bar g', [[-1, 2, 'bar(g)']]],
    [
      '−0,5 … 2,5 bar g; 1 to 11 111 Ω',
      [
        [-0.5, 2.5, 'bar(g)'],
        [1, 11111, 'ohm'],
      ],
    ],
    ['1 to 4000 m3/h (DN50 to DN600)', [[1, 4000, 'm3/h']]],
    ['', []],
  ] as const)('range %s', (range, expected) => {
    expect(functions({ range }).map((f) => [f.low, f.high, f.unit])).toEqual(expected)
  })
  test.each([
    // words, value, expanded uncertainty in the range's unit
    ['0.002 mA', 12, 0.002],
    ['±0.002 mA', 12, 0.002],
    ['0,02 % of reading + 0,002 mA', 12, 0.0044],
    ['0.05 % of range', 12, 0.012],
    ['2 uA', 12, 0.002],
    ['0.1 % rdg + 0.01 % fs', -10, 0.0124],
  ])('uncertainty %s at %d mA is %d', (uncertainty, value, U) => {
    const f = functions({ range: '0 to 24 mA', uncertainty })[0]
    if (!f?.uncertainty) throw new Error('none')
    expect(amountAt(f.uncertainty, f, value)).toBeCloseTo(U, 12)
  })
  test('each range takes what is stated in its own kind; a percentage alone is for every range', () => {
    const two = functions({ range: '0 to 400 mA, 0 to 300 V', uncertainty: '3 uA; 20 mV' })
    expect(two.map((f) => f.uncertainty?.absolute)).toEqual([0.003, 0.02])
    const pct = functions({ range: '0 to 400 mA, 0 to 300 V', uncertainty: '0.1 % of reading' })
    expect(pct.map((f) => f.uncertainty?.pctReading)).toEqual([0.1, 0.1])
    const one = functions({ range: '0 to 400 mA, 0 to 300 V', uncertainty: '3 uA' })
    expect(one.map((f) => f.uncertainty?.absolute ?? null)).toEqual([0.003, null])
  })
  test('a pressure difference needs no zero point', () => {
    expect(
      functions({ range: '-1 to 2 bar g', uncertainty: '0.2 mbar' })[0]?.uncertainty?.absolute,
    ).toBeCloseTo(2e-4, 12)
  })
  test.each([
    [{ range: 'DN50 to DN600' }, 'range', /is not a range/],
    [{ range: '24 to 0 mA' }, 'range', /ends before it begins/],
    [{ range: '0 to 24 gallons per moon' }, 'range', /not a unit/],
    [{ range: '0 V to 24 mA' }, 'range', /two units/],
    [{ range: '0 to 24 mA', uncertainty: 'good' }, 'uncertainty', /cannot be read/],
    [{ range: '0 to 24 mA', uncertainty: '0.02' }, 'uncertainty', /needs a unit/],
    [{ range: '0 to 24 mA', uncertainty: '-1 mA' }, 'uncertainty', /cannot be read/],
    [{ range: '0 to 24 mA', drift: '1 bar' }, 'drift', /No range is in bar/],
  ] as const)('%j is refused at its field', (more, field, says) => {
    const read = readEquipment(words(more))
    expect(read).toMatchObject({ kind: 'refused', field, says: expect.stringMatching(says) as string })
  })
})

describe('what an instrument is good for', () => {
  const pc = functions({
    range: '0 to 100 bar g',
    uncertainty: '0.012 bar',
    drift: '0.006 bar',
    resolution: '0.001 bar',
  })
  test.each([
    [0, 80, 'bar(g)', 'suits'],
    [0, 8000, 'kPa(g)', 'suits'],
    [0, 160, 'bar(g)', 'outside'],
    [-1, 80, 'bar(g)', 'outside'],
    [4, 20, 'mA', 'other'],
  ] as const)('%d to %d %s: %s', (low, high, unit, kind) => {
    expect(suits(pc, 'The calibrator', low, high, unit).kind).toBe(kind)
  })
  test('the narrowest of several ranges is taken', () => {
    const two = functions({ range: '0 to 400 mA; 0 to 24 mA', uncertainty: '0.003 mA' })
    expect(suits(two, 'It', 4, 20, 'mA')).toMatchObject({ function: { high: 24 } })
  })
  test('certificate, drift and step add as squares', () => {
    // The standard of the loop at 50 bar: u .006, .0034641, .00028868 bar.
    expect(equipmentU(pc[0] as (typeof pc)[number], 50)).toBeCloseTo(
      Math.sqrt(0.006 ** 2 + 0.006 ** 2 / 3 + 0.001 ** 2 / 12),
      12,
    )
  })
  test('more of the reading is never less uncertain', () => {
    const f = functions({ range: '0 to 100 bar g', uncertainty: '0.05 % of reading + 1 mbar' })[0]
    if (!f) throw new Error('none')
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 100, noNaN: true }),
        fc.double({ min: 0, max: 100, noNaN: true }),
        (a, b) => {
          expect(equipmentU(f, Math.max(a, b))).toBeGreaterThanOrEqual(equipmentU(f, Math.min(a, b)))
        },
      ),
    )
  })
})
