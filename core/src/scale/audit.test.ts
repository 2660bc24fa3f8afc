import { describe, expect, test } from 'vitest'
import { Chain, stagesOfChain } from '../signal/chain.ts'
import type { Stage } from '../signal/stage.ts'
import { auditPath } from './audit.ts'
import { predictedErrors } from './predicted-errors.ts'
import { CATALOGUE } from '../catalogue.ts'
import { answer } from '../calculation.ts'
import { WORKED_CODES } from '../signal/test/worked-codes.ts'

const base = { ...WORKED_CODES, lrv: 0, urv: 6, inUnit: 'bar(g)', lo: 0, hi: 6, unit: 'bar(g)' }
const codes = (chain: object, type: string) =>
  auditPath(stagesOfChain(Chain.parse({ ...base, ...chain })), type === 'flow, orifice').map((f) => f.code)

describe('what the ranges alone tell', () => {
  const rows: readonly [why: string, chain: object, type: string, codes: string[]][] = [
    ['all agree', {}, 'pressure', []],
    ['the same range in another unit', { hi: 600, unit: 'kPa' }, 'pressure', []],
    ['a receiver left behind', { hi: 8 }, 'pressure', ['RANGE_DIFFERS']],
    ['the same numbers in another unit', { unit: 'psi(g)' }, 'pressure', ['UNIT_DIFFERS']],
    ['normal taken for standard volume', { inUnit: 'Sm3/h', unit: 'Nm3/h' }, 'flow', ['UNIT_DIFFERS']],
    ['one end reversed', { lo: 6, hi: 0 }, 'pressure', ['ACTION_OPPOSED']],
    ['both ends reversed agree', { lrv: 6, urv: 0, lo: 6, hi: 0 }, 'pressure', []],
    [
      '145 psi for 10 bar is 0.026 % off',
      { urv: 10, hi: 145, unit: 'psi(g)' },
      'pressure',
      ['RANGE_DIFFERS'],
    ],
    ['percent of anything is nothing to compare', { lo: 0, hi: 100, unit: '%' }, 'level', []],
    ['metres shown as tonnes', { inUnit: 'm', hi: 148, unit: 't' }, 'level', ['QUANTITY_DIFFERS']],
    [
      'a display at half scale',
      { dsp: { lo: 0, hi: 3, unit: 'bar(g)' } },
      'pressure',
      ['DISPLAY_RANGE_DIFFERS'],
    ],
    ['dp flow without a root', {}, 'flow, orifice', ['SQRT_NEVER']],
    ['0-20 sent to a 4-20 card', { signal: '0-20' }, 'pressure', ['SIGNAL_DIFFERS']],
    ['a shunt of 125 Ω for 1-5 V', { shunt: 125, volts20: 5 }, 'pressure', ['SHUNT_VOLTAGE']],
    ['a shunt as the card wants it', { volts20: 5 }, 'pressure', []],
    ['another full-scale code', { m4: 0, m20: 32767 }, 'pressure', ['CODES_DIFFER']],
    ['a range beyond the sensor', { lsl: -1, usl: 5 }, 'pressure', ['RANGE_OUTSIDE_SENSOR']],
    ['a range within the sensor', { lsl: -1, usl: 10 }, 'pressure', []],
    [
      'two cutoffs that differ, on a root taken twice',
      { transfer: 'sqrt', cutoff: 0.05, sqrtRx: true, cutoffRx: 0.1 },
      'flow, orifice',
      ['CUTOFF_DIFFERS', 'SQRT_TWICE'],
    ],
    [
      'a root in the display as well',
      { transfer: 'sqrt', sqrtDsp: true, dsp: { lo: 0, hi: 6, unit: 'bar(g)' } },
      'flow, orifice',
      ['SQRT_TWICE'],
    ],
    ['a root where none belongs', { transfer: 'sqrt' }, 'pressure', ['SQRT_UNEXPECTED']],
    ['one root, where one belongs', { transfer: 'sqrt' }, 'flow, orifice', ['SQRT_ONCE']],
  ]
  test.each(rows)('%s', (_why, chain, type, expected) => expect(codes(chain, type)).toEqual(expected))
  test('the root taken twice is named with what half flow would read', () => {
    const stages = stagesOfChain(Chain.parse({ ...base, transfer: 'sqrt' })).map((s) =>
      s.kind === 'controller' ? { ...s, transfer: { kind: 'sqrt' as const } } : s,
    )
    const [finding] = auditPath(stages, true)
    expect(finding).toMatchObject({ code: 'SQRT_TWICE', severity: 'stop' })
    expect(finding?.says).toContain('71 %')
  })
  test('a root is not judged where nobody has told what the loop is', () => {
    const [f] = auditPath(stagesOfChain(Chain.parse({ ...base, transfer: 'sqrt' })), null)
    expect(f).toMatchObject({ code: 'SQRT_NOT_JUDGED', severity: 'note' })
    expect(auditPath(stagesOfChain(Chain.parse(base)), null)).toEqual([])
  })
  const told = (chain: object, tolerance_pct?: number) =>
    auditPath(
      stagesOfChain(Chain.parse({ ...base, ...chain })),
      false,
      tolerance_pct === undefined ? null : { mode: 'max', pctSpan: tolerance_pct, pctReading: 0, abs: 0 },
    ).map((f) => `${f.severity} ${f.code}`)
  const grave: readonly [why: string, chain: object, tolerance_pct: number | undefined, told: string[]][] = [
    ['145 psi for 10 bar, 0.026 % off', { urv: 10, hi: 145, unit: 'psi(g)' }, 0.5, ['note RANGE_DIFFERS']],
    ['the same where 0.05 % is allowed', { urv: 10, hi: 145, unit: 'psi(g)' }, 0.05, ['warn RANGE_DIFFERS']],
    ['the same where 0.02 % is allowed', { urv: 10, hi: 145, unit: 'psi(g)' }, 0.02, ['stop RANGE_DIFFERS']],
    [
      'the same where nobody told what is allowed',
      { urv: 10, hi: 145, unit: 'psi(g)' },
      undefined,
      ['note RANGE_DIFFERS'],
    ],
    ['a shunt that is 0.2 % low', { shunt: 249.5, volts20: 5 }, 0.5, ['warn SHUNT_VOLTAGE']],
    ['the same where 0.2 % is allowed', { shunt: 249.5, volts20: 5 }, 0.2, ['stop SHUNT_VOLTAGE']],
    ['an odd shunt, and nobody says what the card takes', { shunt: 125 }, 0.5, ['warn SHUNT_NOT_JUDGED']],
    [
      'codes that end one early',
      { n4: 0, n20: 27648, nmin: -500, nmax: 30000, m4: 0, m20: 27647 },
      0.5,
      ['note CODES_DIFFER'],
    ],
    [
      'a card that ends before its 20 mA',
      { n4: 0, n20: 10000, nmin: 0, nmax: 9999 },
      0.5,
      ['stop CODE_LIMIT'],
    ],
    ['percent left at 0 to 1', { hi: 1, unit: '%' }, 0.5, ['stop PERCENT_RANGE']],
    ['percent to 1000', { hi: 1000, unit: '%' }, 0.5, ['stop PERCENT_RANGE']],
    [
      'percent of a tank larger than the range',
      { inUnit: 'm', hi: 80, unit: '%' },
      0.5,
      ['warn PERCENT_RANGE'],
    ],
    ['percent the other way round', { lo: 100, hi: 0, unit: '%' }, 0.5, ['stop ACTION_OPPOSED']],
    ['percent of a falling range', { lrv: 6, urv: 0, lo: 100, hi: 0, unit: '%' }, 0.5, []],
    ['gauge at the transmitter, absolute at the controller', { unit: 'bara' }, 0.5, ['stop UNIT_DIFFERS']],
    ['the same, spelled otherwise', { inUnit: 'bar gauge', unit: 'bar abs' }, 0.5, ['stop UNIT_DIFFERS']],
    ['the same in kilopascal', { inUnit: 'barg', hi: 600, unit: 'kPa abs' }, 0.5, ['stop RANGE_DIFFERS']],
    ['absolute with the air added, rounded', { lo: 1, hi: 7, unit: 'bara' }, 0.5, ['warn RANGE_DIFFERS']],
    ['absolute with the air added', { lo: 1.01325, hi: 7.01325, unit: 'bara' }, 0.5, []],
    ['pressure read as temperature', { hi: 100, unit: 'degC' }, 0.5, ['stop QUANTITY_DIFFERS']],
    ['level shown in tonnes', { inUnit: 'm', hi: 148, unit: 't' }, 0.5, ['note QUANTITY_DIFFERS']],
    [
      'level shown in tonnes, 0 to 100 as delivered',
      { inUnit: 'm', hi: 100, unit: 't' },
      0.5,
      ['warn QUANTITY_DIFFERS'],
    ],
  ]
  test.each(grave)('%s', (_why, chain, tolerance_pct, expected) =>
    expect(told(chain, tolerance_pct)).toEqual(expected),
  )
  test('gauge for absolute is called that, and what a default is too', () => {
    const says = (chain: object) =>
      auditPath(stagesOfChain(Chain.parse({ ...base, ...chain })), false)[0]?.says
    expect(says({ unit: 'bara' })).toContain('wrong by the air pressure, about 1.013 bar a')
    expect(says({ hi: 100 })).toContain('0 to 100 looks like a default that nobody changed')
    expect(says({ urv: 100 })).toContain('0 to 100 in the transmitter looks like a default')
    expect(says({ urv: 10 })).not.toContain('default')
  })
  test('a finding names both cards, the error at the ends, and the fix', () => {
    const [finding] = auditPath(stagesOfChain(Chain.parse({ ...base, hi: 8 })), false)
    expect(finding?.where).toEqual(['transmitter', 'controller'])
    expect(finding?.evidence?.find((e) => e.label === 'error at 100 %')?.value).toBeCloseTo(100 / 3, 9)
    expect(finding?.evidence?.find((e) => e.label === 'error at 50 %')?.value).toBeCloseTo(50 / 3, 9)
    expect(finding?.fix?.set).toEqual([
      { path: 'path.controller.range.low', value: 0 },
      { path: 'path.controller.range.high', value: 6 },
    ])
  })
})

describe('what will be read', () => {
  const stages = (chain: object) => stagesOfChain(Chain.parse({ ...base, ...chain }))
  const errors = (chain: object, oneRoot = false) =>
    predictedErrors(stages(chain), oneRoot)[0]?.errors_pct.map((e) => Number(e.toFixed(2)))
  const rows: readonly [why: string, chain: object, oneRoot: boolean, errors: number[]][] = [
    ['a healthy loop', {}, false, [0, 0, 0, 0, 0]],
    ['4-20 read as 0-20', { inputSignal: '0-20' }, false, [20, 15, 10, 5, 0]],
    ['0-20 read as 4-20', { signal: '0-20' }, false, [-17.59, -18.75, -12.5, -6.25, 0]],
    ['half a shunt', { shunt: 125, volts20: 5 }, false, [-12.5, -25, -37.5, -50, -62.5]],
    ['32767 for 27648', { m4: 0, m20: 32767 }, false, [0, -3.91, -7.81, -11.72, -15.62]],
    ['reversed receiver', { lo: 6, hi: 0 }, false, [100, 50, 0, -50, -100]],
    ['root taken twice', { transfer: 'sqrt', sqrtRx: true }, true, [0, 25, 20.71, 11.6, 0]],
    ['root taken never', {}, true, [0, -18.75, -25, -18.75, 0]],
  ]
  test.each(rows)('%s', (_why, chain, oneRoot, expected) => {
    const told = errors(chain, oneRoot) ?? []
    told.forEach((e, i) => expect(Math.abs(e - (expected[i] ?? 0)), String(e)).toBeLessThan(0.02))
  })
  test('an isolator with its own scaling passes the fraction on, or shifts it', () => {
    const with_ = (isolator: object) =>
      stages({}).flatMap((s): Stage[] =>
        s.kind === 'output'
          ? [
              s,
              {
                kind: 'isolator' as const,
                inLow_mA: 4,
                inHigh_mA: 20,
                outLow_mA: 0,
                outHigh_mA: 20,
                ...isolator,
              },
            ]
          : [s.kind === 'input' ? { ...s, signal: '0-20' as const } : s],
      )
    const right = predictedErrors(with_({}), false)[0]?.errors_pct ?? []
    for (const e of right) expect(Math.abs(e)).toBeLessThan(0.01)
    expect(auditPath(with_({}), false)).toEqual([])
    expect(auditPath(with_({ inLow_mA: 0 }), false).map((f) => f.code)).toEqual(['ISOLATOR_DIFFERS'])
    expect(auditPath(with_({ outLow_mA: 4 }), false).map((f) => f.code)).toEqual(['SIGNAL_DIFFERS'])
  })
  test('pulses: too fast, too wide, another factor at the counter', () => {
    const pulses = (frequency: object, totalizer: object) =>
      auditPath(
        [
          ...stages({ inUnit: 'm3/h', unit: 'm3/h', urv: 100, hi: 100 }),
          {
            kind: 'frequency',
            atRate: 100,
            frequency_Hz: 1000,
            limit_Hz: 10_000,
            width_ms: 0.1,
            ...frequency,
          },
          { kind: 'totalizer', unitsPerPulse: 1 / 36_000, limit_Hz: 10_000, ...totalizer },
        ],
        false,
      ).map((f) => f.code)
    expect(pulses({}, {})).toEqual([])
    expect(pulses({}, { limit_Hz: 500 })).toEqual(['FREQUENCY_LIMIT'])
    expect(pulses({ width_ms: 5 }, {})).toEqual(['PULSE_WIDTH'])
    expect(pulses({}, { unitsPerPulse: 0.001 })).toEqual(['PULSE_FACTOR'])
  })
})

test('the pocket card lists every station at every level', () => {
  const card = CATALOGUE.find((c) => c.name === 'scale.pocketCard')
  if (!card) throw new Error('no card')
  const told = answer(card, { chain: base, levels: [0, 50] })
  expect(told).toMatchObject({
    kind: 'result',
    result: {
      rows: [
        { level: 0, IN: 0, MA: 4 },
        { level: 50, IN: 3, MA: 12, V: 3 },
      ],
    },
  })
})
