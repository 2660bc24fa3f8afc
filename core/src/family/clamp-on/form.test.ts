import { expect, describe, test } from 'vitest'
import { familyOf, FAMILIES } from '../index.ts'
import { row, type Values, compute, refused, codes } from '../test/through-form.ts'
import { sensitivityOf, whatIfTask, effectsOf, readingBudget } from '../what-if.ts'
import { runMonteCarlo } from '../../statistics/monte-carlo.ts'

const clampOn = familyOf('clamp-on')
if (!clampOn) throw new Error('no clamp-on')

/** W01, W06, W08 through the form. */
const MAIN: Values = {
  by: 'od',
  od_mm: 610,
  wall_mm: 9.53,
  liner: 'cement_mortar',
  liner_mm: 8,
  fluid: 'seawater',
  salinity: 35.1,
  t_C: 14.2,
  gauge_kPa: 380,
  flow_m3h: 1594.68,
  disturbance: 'none',
  upstream_D: 20,
  traverses: '1',
  wedge_mm: 18,
}

describe('clamp-on through its form', () => {
  test('the lined seawater main gives the worked example’s numbers', () => {
    const r = compute('clamp-on', MAIN)
    expect(row(r, 'Bore')).toBeCloseTo(574.94, 6)
    expect(row(r, 'Sound speed expected')).toBeCloseTo(1504.857, 2)
    expect(row(r, 'Spacing between exit points')).toBeCloseTo(271.261, 2)
    expect(row(r, 'Transit time expected')).toBeCloseTo(448.776, 2)
    expect(r.sheet.find((l) => /spacing/.test(l.says))?.value).toBe('271.3 mm')
    expect(codes(r)).toEqual(['RUN_ENOUGH'])
  })
  const judgements: readonly [why: string, values: Values, code: string][] = [
    ['a liner that fills the pipe', { liner_mm: 150, od_mm: 300 }, 'NO_BORE'],
    ['a size without that schedule', { by: 'table', nps: '22', schedule: '40S' }, 'NO_SCHEDULE'],
    ['steam is no liquid', { fluid: 'water', t_C: 160, gauge_kPa: 100 }, 'FLUID_OUTSIDE'],
    ['a wedge past the critical angle', { wedge_deg: 75 }, 'NO_BEAM'],
    ['a bend too near', { disturbance: 'bend', upstream_D: 3 }, 'SHORT_RUN'],
    ['thin gas in steel', { fluid: 'natural_gas', gauge_kPa: 20, liner: 'none' }, 'GAS_TOO_THIN'],
    ['readings that jump', { readings: '9,5 9.6 9,4 19,1' }, 'WALL_SPREAD'],
    ['sensors of two pairs', { serialA: '4471A', serialB: '4472B' }, 'PAIR_MIXED'],
    ['two of the same suffix', { serialA: '4471A', serialB: '4471a' }, 'PAIR_SAME'],
    ['a slip in the flow', { flow_m3h: 159_468 }, 'VERY_FAST'],
    ['a believable sound speed', { tMean_us: 448.9 }, 'SOUND_SPEED_OK'],
    ['one to look at', { tMean_us: 453 }, 'SOUND_SPEED_CHECK'],
    ['a faulty one', { tMean_us: 480 }, 'SOUND_SPEED_FAULT'],
    ['a time that cannot be', { tMean_us: 20 }, 'NO_SPEED'],
    ['a zero that is none', { zero_m_s: 0.4 }, 'ZERO_IN_FLOW'],
    ['a zero worth setting', { zero_m_s: 0.03 }, 'ZERO_WORTH_IT'],
    ['a zero to leave alone', { zero_m_s: 0.004 }, 'ZERO_FINE'],
    ['two paths that part', { paths: '2', v1_m_s: 7.62, v2_m_s: 8.11 }, 'ASYMMETRY'],
    ['a poor signal', { snr_dB: 9 }, 'SIGNAL'],
  ]
  test.each(judgements)('%s', (_why, values, code) =>
    expect(codes(compute('clamp-on', { ...MAIN, ...values }))).toContain(code),
  )
  test('outside its physics there is a sentence and no number', () => {
    const r = compute('clamp-on', { ...MAIN, fluid: 'water', t_C: 160, gauge_kPa: 100 })
    expect(r.rows).toEqual([])
    expect(r.findings[0]?.says).toMatch(/it is steam/)
  })
  test('a gas typed as its components is the worked example’s fuel gas', () => {
    const fluid = {
      fluid: 'mix',
      mixture:
        'methane 91,45; ethane 4.32; propane 1.08; n butane 0.29; isobutane 0.21; nitrogen 1.40; carbon dioxide 1.25 %',
      liner: 'none',
      t_C: 21,
      gauge_kPa: 840 - 101.325,
    }
    const r = compute('clamp-on', { ...MAIN, ...fluid })
    expect(row(r, 'Density')).toBeCloseTo(6.182411, 5)
    expect(row(r, 'Sound speed expected')).toBeCloseTo(419.0913, 3)
    expect(refused('clamp-on', { mixture: 'methan 90' })[0]?.[1]).toMatch(/“methan 90” is not a component/)
    expect(codes(compute('clamp-on', { ...MAIN, ...fluid, mixture: '' }))).toEqual(['FLUID_OUTSIDE'])
  })
  test('typical liquids say so, and are refused far from 20 °C', () => {
    const r = compute('clamp-on', { ...MAIN, fluid: 'eg30', t_C: 25 })
    expect(r.rows.find((x) => x.label === 'Sound speed expected')).toMatchObject({
      value: 1610,
      typical: true,
    })
    expect(codes(compute('clamp-on', { ...MAIN, fluid: 'eg30', t_C: 90 }))).toEqual(['FLUID_OUTSIDE'])
    expect(row(compute('clamp-on', { ...MAIN, fluid: 'ammonia', t_C: 5 }), 'Density')).toBeCloseTo(631.7, 9)
    expect(codes(compute('clamp-on', { ...MAIN, fluid: 'ammonia', t_C: 60 }))).toEqual(['FLUID_OUTSIDE'])
  })
  test('a list of wall readings wins over the typed wall', () => {
    expect(row(compute('clamp-on', { ...MAIN, readings: '9,1; 9.3 9,2 9,2' }), 'Bore')).toBeCloseTo(
      610 - 2 * (9.2 + 8),
      9,
    )
  })
  test('diameter and wall matter most, and a bigger pipe carries more', () => {
    const effects = sensitivityOf(clampOn, { ...MAIN })
    const sizes = effects.map((e) => Math.abs(e.effect_pct))
    expect(sizes).toEqual([...sizes].sort((a, b) => b - a))
    expect(effects.find((e) => e.name === 'od_mm')?.effect_pct).toBeGreaterThan(0)
    expect(effects.find((e) => e.name === 'wall_mm')?.effect_pct).toBeLessThan(0)
    // 2·dOD/ID − 4·dw/ID, as the reference has it.
    expect(effects.find((e) => e.name === 'od_mm')?.effect_pct).toBeCloseTo((2 * 1 * 100) / 574.94, 1)
  })
})

describe('how sure the reading is', () => {
  test('W04 diameter and wall, as the reference has it', () => {
    const task = whatIfTask(clampOn, MAIN, {}, { seed: 1, digits: 2 })
    if (!task) throw new Error('no reading')
    const x = task.inputs.map((i) => i.value)
    expect(task.model(x)).toBeCloseTo(0, 9)
    // True diameter 611 mm and wall 9.13 mm: the area grows by 0.62713 %; the thinner wall leaves 0.417 µs more of
    // the measured time to the fluid, which takes 0.101 % off again.
    expect(task.model(x.with(0, 611).with(1, 9.13))).toBeCloseTo(0.62713 - 0.101, 2)
    // Far sensors make the time long and the velocity low: K of 249.256 µs/m against 412 µs.
    expect(task.model(x.with(5, 1))).toBeCloseTo((100 * 249.256e-3) / 412.15, 1)
  })
  test('a sound speed typed by hand moves the reading twice as far', () => {
    const of = (speedBy: string) =>
      effectsOf(clampOn, { ...MAIN, speedBy }).find((e) => e.name === 'speed')?.effect_pct ?? 0
    expect(of('measured')).toBe(0)
    expect(of('typed')).toBeGreaterThan(0.25)
  })
  test('budget and trials agree where everything is nearly linear', () => {
    const tolerances = { od_mm: 0.5, wall_mm: 0.1, profile: 0.2 }
    const budget = readingBudget(effectsOf(clampOn, MAIN, tolerances))
    const task = whatIfTask(clampOn, MAIN, tolerances, { seed: 20317, digits: 1 })
    if (!task) throw new Error('no reading')
    const trials = runMonteCarlo(task)
    expect(trials.converged).toBe(true)
    expect(Math.abs(trials.u / budget.uc - 1)).toBeLessThan(0.03)
    expect(Math.abs(trials.y)).toBeLessThan(0.05)
  })
  test('families without a reading have nothing to vary', () => {
    const coriolis = familyOf('coriolis')
    expect(coriolis && effectsOf(coriolis, {})).toEqual([])
    expect(effectsOf(clampOn, { ...MAIN, wall_mm: 200, liner_mm: 150 })).toEqual([])
  })
  test.each(FAMILIES.filter((f) => f.whatIf).map((f) => [f.id, f] as const))(
    '%s: nothing moved is nothing changed, and every input is named once',
    (_id, f) => {
      const task = whatIfTask(f, {}, {}, { seed: 1, digits: 1 })
      expect(task?.model(task.inputs.map((i) => i.value))).toBeCloseTo(0, 6)
      const effects = effectsOf(f, {})
      expect(new Set(effects.map((e) => e.name)).size).toBe(effects.length)
      for (const e of effects) expect(Number.isFinite(e.effect_pct), e.name).toBe(true)
    },
  )
})
