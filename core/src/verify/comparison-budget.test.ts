import { describe, expect, test } from 'vitest'
import { runMonteCarlo } from '../statistics/monte-carlo.ts'
import {
  againstTrials,
  budgetTable,
  comparisonBudget,
  comparisonTask,
  NO_EXTRAS,
  type KnownInstrument,
} from './comparison-budget.ts'
import { decideBy, riskOf, sayDecision, sayRisk } from './decision.ts'
import { readEquipment } from './equipment-spec.ts'

function known(
  name: string,
  range: string,
  uncertainty: string,
  drift = '',
  resolution = '',
): KnownInstrument {
  const read = readEquipment({ range, uncertainty, drift, resolution })
  if (read.kind === 'refused') throw new Error(read.says)
  return { name, functions: read.functions }
}
const PUMP = known('Pressure calibrator', '0 to 100 bar g', '0.012 bar', '0.006 bar', '0.001 bar')
const METER = known('Loop calibrator', '0 to 24 mA', '0.002 mA', '0.001 mA', '0.001 mA')
const scale = { input: { low: 0, high: 80, unit: 'bar(g)' } }

describe('the budget of a comparison', () => {
  test('standard and meter in % of span: each line by hand', () => {
    const { lines, budget, missing } = comparisonBudget(scale, [PUMP, METER])
    expect(missing).toEqual([])
    const by = Object.fromEntries(lines.map((l, i) => [l.title, budget.u[i] ?? 0]))
    expect(by['Pressure calibrator, certificate']).toBeCloseTo((0.012 / 2 / 80) * 100, 12)
    expect(by['Pressure calibrator, drift since']).toBeCloseTo((0.006 / Math.sqrt(3) / 80) * 100, 12)
    expect(by['Pressure calibrator, step']).toBeCloseTo((0.001 / Math.sqrt(12) / 80) * 100, 12)
    expect(by['Loop calibrator, certificate']).toBeCloseTo((0.002 / 2 / 16) * 100, 12)
    const uc = Math.sqrt(lines.reduce((s, _, i) => s + (budget.u[i] ?? 0) ** 2, 0))
    expect(budget.uc).toBeCloseTo(uc, 12)
    expect(budget.U).toBeCloseTo(2 * uc, 4)
  })
  test('what is not chosen, too short or without a figure is said, not guessed', () => {
    expect(comparisonBudget(scale, []).missing).toEqual([
      'No instrument was chosen for what is applied (bar g).',
      'No instrument was chosen for the loop current (mA).',
    ])
    const short = known('Small one', '0 to 20 bar g', '0.002 bar')
    expect(comparisonBudget(scale, [short, METER]).missing[0]).toMatch(
      /goes from 0 to 20 bar g; 0 to 80 is needed/,
    )
    const bare = known('Bare one', '0 to 100 bar g', '')
    expect(comparisonBudget(scale, [bare, METER]).missing[0]).toMatch(/states no uncertainty/)
  })
  test.each([
    ['repeatability', { repeat_pct: 0.05, repeats: 5 }, 0.05 / Math.sqrt(5)],
    ['temperature', { temperature_pct_C: 0.002, temperature_C: -10 }, 0.02 / Math.sqrt(3)],
    ['height', { height_m: 0.01, density_kg_m3: 1000 }, ((0.0980665 * 0.01) / Math.sqrt(3) / 80) * 100],
    ['shunt', { shunt_pct: 0.01 }, (0.01 / 2) * 1.25],
  ])('%s adds its own line', (_name, extra, u) => {
    const { budget } = comparisonBudget(scale, [PUMP, METER], { ...NO_EXTRAS, ...extra })
    expect(budget.u.at(-1)).toBeCloseTo(u, 10)
  })
  test('few repeats widen the factor', () => {
    const few = comparisonBudget(scale, [PUMP, METER], { ...NO_EXTRAS, repeat_pct: 0.2, repeats: 3 }).budget
    expect(few.nuEff).toBeLessThan(4)
    expect(few.k).toBeGreaterThan(2.8)
  })
  test('a height says nothing of a temperature', () => {
    const t = { input: { low: 0, high: 100, unit: 'degC' } }
    const block = known('Block', '-30 to 400 °C', '0.06 °C')
    expect(comparisonBudget(t, [block, METER], { ...NO_EXTRAS, height_m: 1 }).lines).toHaveLength(4)
  })
  test('trials agree with the formula, unless one rectangle rules', () => {
    const plain = comparisonBudget(scale, [PUMP, METER])
    const mc = runMonteCarlo(comparisonTask(plain.lines, { seed: 20317, digits: 1 }))
    expect(mc.u).toBeCloseTo(plain.budget.uc, 3)
    expect(againstTrials(plain.budget, mc).validated).toBe(true)
    const ruled = comparisonBudget(scale, [PUMP, METER], {
      ...NO_EXTRAS,
      temperature_pct_C: 0.05,
      temperature_C: 10,
    })
    const wide = againstTrials(
      ruled.budget,
      runMonteCarlo(comparisonTask(ruled.lines, { seed: 20317, digits: 2 })),
    )
    expect(wide.validated).toBe(false)
    expect(wide.U).toBeLessThan(ruled.budget.U)
  })
  test('the table begins with the largest share', () => {
    const { lines, budget } = comparisonBudget(scale, [PUMP, METER])
    const shares = budgetTable(lines, budget).rows.map((r) => Number.parseFloat(r[4] ?? ''))
    expect([...shares].sort((a, b) => b - a)).toEqual(shares)
  })
})

describe('accepted by a rule', () => {
  test.each([
    ['simple', 0.18, 0.2, 0.05, true],
    ['guarded', 0.18, 0.2, 0.05, false],
    ['guarded', 0.15, 0.2, 0.05, true],
    ['guarded', -0.15, 0.2, 0.05, true],
    ['simple', 0.2, 0.2, 0, true],
    ['guarded', 0.01, 0.2, 0.3, false],
  ] as const)('%s: %d of %d, known to %d: %s', (rule, e, T, U, accepted) =>
    expect(decideBy(rule, e, T, U).accepted).toBe(accepted),
  )
  test('a guard band accepts fewer bad ones and rejects more good ones; without U nothing is claimed', () => {
    const simple = riskOf('simple', 0.2, 0.05)
    const guarded = riskOf('guarded', 0.2, 0.05)
    expect(guarded?.falseAccept ?? 1).toBeLessThan(0.2 * (simple?.falseAccept ?? 0))
    expect(guarded?.falseReject ?? 0).toBeGreaterThan(simple?.falseReject ?? 1)
    expect(simple && sayRisk(simple)).toMatch(/% pass but are bad; .* % fail but are good/)
    expect([riskOf('simple', 0.2, 0), riskOf('simple', 0, 0.1)]).toEqual([null, null])
  })
  test('on the limit it is as likely out as in', () => {
    expect(decideBy('simple', 0.2, 0.2, 0.04).probabilityOut).toBeCloseTo(0.5, 9)
    expect(sayDecision(decideBy('simple', 0.2, 0.2, 0.04))).toMatch(/out of tolerance is 50 %/)
    expect(sayDecision(decideBy('guarded', 0, 0.2, 0.04))).toMatch(/below 0.1 %/)
    expect(sayDecision(decideBy('simple', 0.1, 0.2, 0))).toBe(
      'Accepted by simple acceptance (limit ±0.2 % of span).',
    )
  })
})
