import { describe, expect, test } from 'vitest'
import { familyOf } from '../family/index.ts'
import { rankSensors } from '../family/sensor-choice.ts'
import { judgeBaseline } from './pair-baseline.ts'
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

describe('a clamp-on pair against itself on its block', () => {
  const at = (newSignal_pct: number, lastSignal_pct: number, newGain_dB = 0, lastGain_dB = 0) => ({
    newSignal_pct,
    lastSignal_pct,
    newGain_dB,
    lastGain_dB,
  })
  test.each<[string, ReturnType<typeof at>, string | null]>([
    ['nobody has checked it since', at(80, 0), null],
    ['nobody knows what it was', at(0, 80), null],
    ['as it was', at(80, 79), 'PAIR_AS_NEW'],
    // 20·log10(80/56) = 3.1 dB, 20·log10(80/39.8) = 6.06 dB.
    ['3.1 dB less', at(80, 56), 'PAIR_WEAKER'],
    ['half of the amplitude', at(80, 39.8), 'PAIR_WORN'],
    ['the gain decides where it is known', at(80, 79, 50, 43), 'PAIR_WORN'],
    ['figures exchanged', at(40, 80), 'PAIR_STRONGER'],
  ])('%s', (_, b, code) => expect(judgeBaseline(b)?.code ?? null).toBe(code))
  test('a worn pair is second choice where sensors are picked', () => {
    const stock = [
      { description: { ...pair({ newGain_dB: 50, lastGain_dB: 40 }), state: 'shelf' as const } },
      { description: { ...pair({ serialA: '4472A', serialB: '4472B' }), state: 'shelf' as const } },
    ] as { description: SensorDescription }[]
    const family = familyOf('clamp-on')
    const ranked = family ? rankSensors(family, { by: 'od', od_mm: 219.1, wall_mm: 8.18 }, stock) : []
    expect(ranked.map((r) => sensorName(r.sensor.description))).toEqual(['4472A / 4472B', '4471A / 4471B'])
    expect(ranked[1]?.but.join()).toMatch(/10 dB less/)
  })
})
