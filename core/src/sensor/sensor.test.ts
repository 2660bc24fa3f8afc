import { describe, expect, test } from 'vitest'
import { pairProblem } from './pair-serials.ts'
import { railPosition, type Rail } from './rail.ts'
import { SensorDescription, sensorName } from './sensor.ts'

describe('serials of a pair', () => {
  test.each([
    ['4471A', '4471B', null],
    ['4471 UP', '4471 DN', null],
    ['4471-A', '', null],
    ['4471A', '4472B', 'PAIR_MIXED'],
    ['4471A', '4471A', 'PAIR_SAME'],
    ['4471B', '4471A', 'PAIR_EXCHANGED'],
    ['4471DN', '4471UP', 'PAIR_EXCHANGED'],
  ])('%s and %s: %s', (a, b, code) => {
    expect(pairProblem(a, b)?.code ?? null).toBe(code)
  })
})

describe('where a sensor goes on its rail', () => {
  const index: Rail = { kind: 'index', first_mm: 10, step_mm: 2.5, last: 40 }
  test.each<[Rail, number, string, number, boolean]>([
    [{ kind: 'mm' }, 63.74, '63.7 mm', 63.74, true],
    [{ kind: 'mm' }, -12.3, '-12.3 mm', -12.3, true],
    [index, 10, 'index 1', 10, true],
    [index, 63.7, 'index 22', 62.5, true],
    [index, 63.8, 'index 23', 65, true],
    [index, 107.5, 'index 40', 107.5, true],
    // Half a step beyond its ends it is still the last hole.
    [index, 108.7, 'index 40', 107.5, true],
    [index, 109, 'index 40', 107.5, false],
    [index, 8, 'index 1', 10, false],
  ])('%j, %d mm: %s', (rail, spacing, says, at, there) => {
    const p = railPosition(rail, spacing)
    expect([p.says, p.spacing_mm, p.problem === null]).toEqual([says, at, there])
  })
})

const pair = (values: Record<string, unknown> = {}, more: Record<string, unknown> = {}) => ({
  kind: 'clamp-on-pair',
  values: { serialA: '4471A', serialB: '4471B', ...values },
  state: 'shelf',
  certificate: '',
  certifiedOn: null,
  dueOn: null,
  remark: '',
  ...more,
})
const wrong = (d: unknown) => {
  const r = SensorDescription.safeParse(d)
  return r.success ? [] : r.error.issues.map((i) => [i.path.join('.'), i.message])
}

describe('a sensor as a thing', () => {
  test('is known by what stands on it', () => {
    expect(wrong(pair())).toEqual([])
    expect(sensorName(pair())).toBe('4471A / 4471B')
    expect(sensorName({ kind: 'ph-sensor', values: { serial: ' E-1 ' } })).toBe('E-1')
  })
  test.each([
    [pair({}, { kind: 'flux' }), 'kind', 'There is no kind of sensor “flux”.'],
    [pair({ serialB: '' }), 'values.serialB', 'A pair is known by the serial of B.'],
    [
      pair({ serialB: '9B' }),
      'values.serialB',
      '4471A and 9B are not a pair: matched sensors carry the same number and A or B.',
    ],
    [pair({ wedge_deg: 91 }), 'values.wedge_deg', 'Wedge angle is 91 deg; possible is 5 to 80 deg.'],
    [pair({ colour: 'red' }), 'values.colour', 'A Clamp-on pair has no colour.'],
    [
      pair({ coldest_C: 60, hottest_C: 50 }),
      'values.hottest_C',
      'The hottest wall is above the coldest one.',
    ],
    [
      pair({}, { certifiedOn: '2026-02-01', dueOn: '2026-01-01' }),
      'dueOn',
      'The certificate ends before it begins. Check both dates.',
    ],
    [pair({}, { dueOn: 'soon' }), 'dueOn', 'Write the date as 2026-11-23.'],
    [
      {
        ...pair(),
        kind: 'insertion-probe',
        values: { serial: 'T', p0_list: '305 505', certified_list: '20' },
      },
      'values.certified_list',
      'There are 2 pressures and 1 readings; one belongs to each.',
    ],
    [
      { ...pair(), kind: 'insertion-probe', values: { serial: 'T', stem_mm: 20, head_mm: 19 } },
      'values.head_mm',
      'The widest part is not narrower than the stem.',
    ],
    [{ ...pair(), kind: 'ph-sensor', values: {} }, 'values.serial', 'A sensor is known by its serial.'],
    [{ ...pair(), kind: 'portable-kit', values: {} }, 'values.serial', 'A kit is known by its serial.'],
  ])('%#: refused at its place', (d, path, says) => {
    expect(wrong(d)).toEqual([[path, says]])
  })
})
