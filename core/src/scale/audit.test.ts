import { describe, expect, test } from 'vitest'
import { Chain, stagesOfChain } from '../signal/chain.ts'
import { auditPath } from './audit.ts'
import { CATALOGUE } from '../catalogue.ts'
import { answer } from '../calculation.ts'

const base = { lrv: 0, urv: 6, inUnit: 'bar(g)', lo: 0, hi: 6, unit: 'bar(g)' }
const codes = (chain: object, type = 'pressure') =>
  auditPath(stagesOfChain(Chain.parse({ ...base, ...chain })), type).map((f) => f.code)

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
    ['a root where none belongs', { transfer: 'sqrt' }, 'pressure', ['SQRT_UNEXPECTED']],
  ]
  test.each(rows)('%s', (_why, chain, type, expected) => expect(codes(chain, type)).toEqual(expected))
  test('the root taken twice is named with what half flow would read', () => {
    const stages = stagesOfChain(Chain.parse({ ...base, transfer: 'sqrt' })).map((s) =>
      s.kind === 'controller' ? { ...s, transfer: { kind: 'sqrt' as const } } : s,
    )
    const [finding] = auditPath(stages, 'flow, orifice')
    expect(finding).toMatchObject({ code: 'SQRT_TWICE', severity: 'stop' })
    expect(finding?.says).toContain('71 %')
  })
  test('a finding names both cards, the error at the ends, and the fix', () => {
    const [finding] = auditPath(stagesOfChain(Chain.parse({ ...base, hi: 8 })), 'pressure')
    expect(finding?.where).toEqual(['transmitter', 'controller'])
    expect(finding?.evidence?.find((e) => e.label === 'error at 100 %')?.value).toBeCloseTo(25, 9)
    expect(finding?.fix?.set).toEqual([
      { path: 'path.controller.range.low', value: 0 },
      { path: 'path.controller.range.high', value: 6 },
    ])
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
