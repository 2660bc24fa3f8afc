import { describe, expect, test } from 'vitest'
import { combine, standardUncertainty, type BudgetLine } from './budget.ts'
import { Generator } from './generator.ts'
import { numericalTolerance, runMonteCarlo, type Input } from './monte-carlo.ts'
import { normalCdf, normalQuantile } from './normal.ts'
import { coverageFactor, studentQuantile } from './student-t.ts'

const near = (measured: number, printed: number, relative = 5e-6) =>
  expect(Math.abs(measured - printed), `${measured} for ${printed}`).toBeLessThanOrEqual(
    relative * Math.abs(printed),
  )

describe('generator', () => {
  test('the published sequence from the state 1, 2, 3, 4', () => {
    const g = new Generator({ words: [1, 2, 3, 4], cachedNormal: null })
    expect([g.u32(), g.u32(), g.u32(), g.u32()]).toEqual([11520, 0, 5927040, 70819200])
  })
  test('W24 seed 20317: whole numbers, uniforms and normals, each from a fresh start', () => {
    const a = new Generator(20317)
    expect([a.u32(), a.u32(), a.u32(), a.u32()]).toEqual([41601179, 1701901711, 4172922810, 258235770])
    const b = new Generator(20317)
    expect([b.uniform(), b.uniform()]).toEqual([0.009686025949231292, 0.9715842981645851])
    const c = new Generator(20317)
    for (const printed of [0.13730446, -0.02477834, -0.10089544, 0.50930202])
      expect(c.normal()).toBeCloseTo(printed, 8)
  })
  test('a stored state goes on where it stopped', () => {
    const a = new Generator(5)
    a.normal()
    const b = new Generator(a.state())
    expect([b.normal(), b.normal(), b.u32()]).toEqual([a.normal(), a.normal(), a.u32()])
  })
})

describe('distributions', () => {
  test('normal probabilities and their inverse', () => {
    near(normalCdf(2), 0.9772498680518208, 1e-12)
    near(normalCdf(-6), 9.865876450376946e-10, 1e-9)
    for (const p of [1e-9, 0.02, 0.5, 0.975, 0.99999]) near(normalCdf(normalQuantile(p)), p, 1e-10)
  })
  const factors: readonly [nu: number, k: number][] = [
    [1, 13.968],
    [2, 4.527],
    [3, 3.307],
    [4, 2.869],
    [5, 2.649],
    [6, 2.517],
    [8, 2.366],
    [10, 2.284],
    [15, 2.181],
    [20, 2.133],
    [30, 2.087],
    [50, 2.051],
    [100, 2.025],
    [1e7, 2],
  ]
  test.each(factors)('coverage factor for %d degrees of freedom is %d', (nu, k) =>
    expect(coverageFactor(nu)).toBeCloseTo(k, 3),
  )
  test('Student at 97.5 % for three degrees of freedom', () => near(studentQuantile(0.975, 3), 3.18245, 2e-6))
})

/** W14: the loop of PT-202 at 50 bar; result in mA. */
const LOOP: readonly (BudgetLine & { readonly name: string })[] = [
  { name: 'certificate', value: 0.012, distribution: 'normal2', c: 0.2 },
  { name: 'drift', value: 0.006, distribution: 'rect', c: 0.2 },
  { name: 'resolution', value: 0.001, distribution: 'resolution', c: 0.2 },
  { name: 'temperature', value: 0.004, distribution: 'rect', c: 0.2 },
  { name: 'height', value: 0.01, distribution: 'rect', c: 0.01962 },
  { name: 'density', value: 2, distribution: 'rect', c: 1.6677e-5 },
  { name: 'meter', value: 0.0003, distribution: 'normal2', c: 4.00032 },
  { name: 'its resolution', value: 0.0001, distribution: 'resolution', c: 4.00032 },
  { name: 'shunt', value: 0.02, distribution: 'normal2', c: -0.0561082 },
  { name: 'repeatability', value: 0.0012 / Math.sqrt(5), distribution: 'normal1', c: 1, nu: 4 },
]

describe('budget', () => {
  test('W14 lines, degrees of freedom and expanded uncertainty', () => {
    const b = combine(LOOP)
    const printed = [1.2, 0.6928, 0.0577, 0.4619, 0.1133, 0.0193, 0.6, 0.1155, 0.5611, 0.5367]
    b.u.forEach((u, i) => expect(u * 1000).toBeCloseTo(printed[i] ?? 0, 4))
    near(b.uc, 0.00176807)
    near(b.nuEff, 471.27, 2e-5)
    near(b.k, 2.00532)
    near(b.U, 0.0035456, 2e-5)
  })
  test('W15 a dominant rectangle', () => {
    const b = combine([
      { value: 0.06, distribution: 'rect', c: 1 },
      { value: 0.012, distribution: 'normal1', c: 1, nu: 4 },
    ])
    near(b.uc, 0.0366606)
    near(b.nuEff, 348.4, 2e-4)
    near(b.k, 2.00721)
    near(b.U, 0.0735856, 1e-5)
  })
  test('two lines of one standard add, or cancel, fully', () => {
    const lines: BudgetLine[] = [
      { value: 3, distribution: 'normal1', c: 1 },
      { value: 4, distribution: 'normal1', c: 1 },
    ]
    expect(combine(lines, [[0, 1, 1]]).uc).toBeCloseTo(7, 12)
    expect(combine(lines, [[0, 1, -1]]).uc).toBeCloseTo(1, 12)
    expect(combine(lines).uc).toBeCloseTo(5, 12)
  })
})

test.each<[distribution: BudgetLine['distribution'], u: number]>([
  ['normal2', 0.6],
  ['normal1', 1.2],
  ['rect', 1.2 / 1.7320508075688772],
  ['tri', 1.2 / 2.449489742783178],
  ['arcsine', 1.2 / 1.4142135623730951],
  ['resolution', 1.2 / 3.4641016151377544],
])('1.2 stated as %s is a standard uncertainty of %s', (distribution, u) =>
  expect(standardUncertainty({ value: 1.2, distribution })).toBeCloseTo(u, 14),
)

describe('Monte Carlo', () => {
  test('W14 the same loop by trials, to the printed digits', () => {
    const values = [50, 0, 0, 0, 0.85, 1000, 3.5062, 0, 249.98, 0]
    const inputs = LOOP.map((l, i): Input => ({
      value: values[i] ?? 0,
      spread: l.value,
      distribution: l.distribution,
      nu: l.nu,
    }))
    const result = runMonteCarlo({
      inputs,
      seed: 20317,
      digits: 2,
      model: (x) => {
        const [p = 0, drift = 0, step = 0, t = 0, h = 0, rho = 0, V = 0, dV = 0, R = 1, rep = 0] =
          Array.from(x)
        const applied = p + drift + step + t + (rho * 9.81 * h) / 1e5
        return (1000 * (V + dV)) / R - (4 + 0.2 * applied) + rep
      },
    })
    expect(result.blocks).toBe(8)
    expect(result.converged).toBe(true)
    expect(result.y).toBeCloseTo(0.00924877, 8)
    expect(result.u).toBeCloseTo(0.00184659, 8)
    expect(result.low).toBeCloseTo(0.00564947, 8)
    expect(result.high).toBeCloseTo(0.01285312, 8)
    expect(result.delta).toBeCloseTo(5e-5, 12)
  })
  test('W15 by trials', () => {
    const result = runMonteCarlo({
      inputs: [
        { value: 0, spread: 0.06, distribution: 'rect' },
        { value: 0, spread: 0.012, distribution: 'normal1', nu: 4 },
      ],
      seed: 20317,
      digits: 2,
      model: (x) => (x[0] ?? 0) + (x[1] ?? 0),
    })
    expect(result.blocks).toBe(13)
    near(result.u, 0.0386327)
    near(result.low, -0.0681055)
    near(result.high, 0.067871)
  })
  test('digits that never stand still are told', () => {
    const result = runMonteCarlo({
      inputs: [{ value: 0, spread: 1, distribution: 'normal1' }],
      seed: 1,
      digits: 4,
      mostBlocks: 4,
      model: (x) => x[0] ?? 0,
    })
    expect(result.converged).toBe(false)
    expect(result.blocks).toBe(4)
  })
  test('numerical tolerance is half the last wanted digit', () => {
    near(numericalTolerance(0.00184659, 2), 5e-5)
    near(numericalTolerance(0.0999, 2), 0.005)
  })
})
