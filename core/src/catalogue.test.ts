import { describe, expect, test } from 'vitest'
import { answer } from './calculation.ts'
import { calculationNamed, CATALOGUE } from './catalogue.ts'
import { WORKED_CODES } from './signal/test/worked-codes.ts'

const ask = (name: string, input: unknown) => {
  const c = calculationNamed(name)
  if (!c) throw new Error(`no ${name}`)
  return answer(c, input)
}

test('every name is dotted by topic and stands once', () => {
  const names = CATALOGUE.map((c) => c.name)
  expect(new Set(names).size).toBe(names.length)
  for (const name of names) expect(name).toMatch(/^[a-z]+\.[a-z][A-Za-z0-9]*$/)
})

test.each(CATALOGUE.map((c) => [c.name, c] as const))(
  '%s answers its own example by its own output schema',
  (_name, c) => {
    const told = answer(c, c.example)
    expect(told.kind).toBe('result')
    expect(c.output.safeParse(told.kind === 'result' ? told.result : null).error).toBeUndefined()
  },
)

const PT202 = {
  ...WORKED_CODES,
  lrv: 0,
  urv: 80,
  inUnit: 'bar',
  lo: 0,
  hi: 80,
  unit: 'bar',
}
describe('worked examples asked by name', () => {
  const rows: readonly [name: string, input: unknown, result: Record<string, unknown>][] = [
    [
      'signal.forward',
      { chain: PT202, value: 47.3 },
      {
        PCT: expect.closeTo(59.125, 9),
        MA: expect.closeTo(13.46, 9),
        CNT: 16347,
        EU: expect.closeTo(47.30035, 5),
      },
    ],
    [
      'signal.inverse',
      { chain: PT202, from: 'CNT', value: 16347 },
      { MA: expect.objectContaining({ lo: expect.closeTo(13.45978, 5) as number }) as object },
    ],
    ['signal.currentState', { mA: 21.3 }, { state: 'FAIL_HIGH' }],
    ['signal.codeFormats', { format: 'bits15-live', mA: 3.55 }, { CNT: 5816 }],
    [
      'signal.resolution',
      { n4: 819, n20: 4095, span: 90, sqrtAt: 'rx', q: 0.05 },
      { EU: expect.closeTo(0.27485, 5) },
    ],
    [
      'verify.tolerance',
      { mode: 'sum', pctSpan: 0.1, pctReading: 0.25, abs: 0.02, span: 80, x: 64 },
      { T: expect.closeTo(0.26, 12) },
    ],
    [
      'verify.classify',
      { e: 0.21, T: 0.25, U: 0.06 },
      { class: 'CONDITIONAL_PASS', TUR: expect.closeTo(4.1667, 4) },
    ],
    ['numbers.withUncertainty', { y: 50.08338, U: 0.01247 }, { value: '50.083', uncertainty: '0.012' }],
    [
      'units.convert',
      { value: 6.2, from: 'bar g', to: 'psi(a)', p_baro: 99100 },
      { value: expect.closeTo(104.29664, 5) },
    ],
  ]
  test.each(rows)('%s %j', (name, input, result) => {
    expect(ask(name, input)).toMatchObject({ kind: 'result', result })
  })
})

describe('wrong input is told at its field', () => {
  const rows: readonly [why: string, name: string, input: unknown, path: string][] = [
    ['a word', 'units.convert', { value: 'x', from: 'bar', to: 'kPa' }, 'value'],
    ['an unknown unit', 'units.convert', { value: 1, from: 'stones', to: 'kg' }, 'from'],
    ['another dimension', 'units.convert', { value: 1, from: 'bar', to: 'kg' }, 'to'],
    ['no span', 'signal.forward', { chain: { ...PT202, urv: 0 }, value: 1 }, 'chain.urv'],
    [
      'a table that turns back',
      'signal.forward',
      {
        chain: {
          ...PT202,
          transfer: 'table',
          table: [
            [0, 0],
            [0.5, 1],
            [1, 0.5],
          ],
        },
        value: 1,
      },
      'chain.table',
    ],
    ['a station the chain has not', 'signal.forward', { chain: PT202, from: 'DSP', value: 1 }, 'from'],
    ['infinity', 'verify.classify', { e: Infinity, T: 1 }, 'e'],
    ['a field too many', 'signal.currentState', { mA: 4, volts: 1 }, ''],
    ['nothing at all', 'signal.currentState', null, ''],
    ['numbers beyond doubles', 'units.convert', { value: 1e308, from: 'Mimpgal/d', to: 'impgal/d' }, ''],
  ]
  test.each(rows)('%s', (_why, name, input, path) => {
    const told = ask(name, input)
    expect(told).toMatchObject({ kind: 'refused' })
    expect(told.kind === 'refused' && told.problems.map((p) => p.where)).toContain(path)
  })
})
