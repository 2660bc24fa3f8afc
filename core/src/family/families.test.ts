import { describe, expect, test } from 'vitest'
import { runMonteCarlo } from '../statistics/monte-carlo.ts'
import { settingProblem } from '../quantity/setting.ts'
import { entryMistakes } from './define.ts'
import { NOT_AT_WORK } from './family.ts'
import { guessFamily } from './guess.ts'
import { FAMILIES, familyOf } from './index.ts'
import { codes, compute, refused, row, type Values } from './test/through-form.ts'
import { effectsOf, readingBudget, sensitivityOf, whatIfTask } from './what-if.ts'

describe('every family', () => {
  test.each(FAMILIES.map((f) => [f.id, f] as const))(
    '%s: defaults are possible, names stand once, the sheet is filled',
    (_id, f) => {
      expect(entryMistakes(f.settings)).toEqual([])
      for (const s of f.settings) expect([s.name, settingProblem(s, s.standard)]).toEqual([s.name, null])
      const result = f.compute({}, NOT_AT_WORK)
      expect(result.rows.length).toBeGreaterThan(2)
      expect(result.sheet.length).toBeGreaterThan(3)
      for (const r of result.rows)
        if (typeof r.value === 'number') expect(Number.isFinite(r.value), r.label).toBe(true)
      expect(f.needs.kit.length).toBeGreaterThan(0)
      expect(f.needs.cautions.length).toBeGreaterThan(0)
      // A picture lies within its own frame.
      const d = result.drawing
      for (const s of d?.shapes ?? [])
        if (s.kind === 'line')
          for (const [x, y] of s.points) {
            expect(x).toBeGreaterThanOrEqual(d?.left ?? 0)
            expect(x).toBeLessThanOrEqual((d?.left ?? 0) + (d?.width ?? 0))
            expect(y).toBeGreaterThanOrEqual((d?.top ?? 0) - 1e-9)
            expect(y).toBeLessThanOrEqual((d?.top ?? 0) + (d?.height ?? 0))
          }
    },
  )
  test('a loop’s words find its family', () => {
    expect(guessFamily('flow, clamp-on gas', '4-20 mA').family).toBe('clamp-on')
    expect(guessFamily('flow, Coriolis', '4-20 mA HART').family).toBe('coriolis')
    expect(guessFamily('flow, thermal', '').family).toBe('thermal')
    expect(guessFamily('flow, orifice', '').family).toBe('orifice')
    expect(guessFamily('level, ultrasonic', '').family).toBe('level-from-above')
    expect(guessFamily('level, radar', '').family).toBe('level-from-above')
    expect(guessFamily('level, guided wave', '').family).toBe('guided-wave')
    expect(guessFamily('differential pressure', '').family).toBe('pressure')
    expect(guessFamily('temperature, Pt100', '').family).toBe('temperature')
    expect(guessFamily('pH', '').family).toBe('ph')
    expect(guessFamily('switch, float', 'dry contact NC').family).toBe('switch')
    expect(guessFamily('weight', '').family).toBeNull()
    expect(familyOf('flux')).toBeNull()
  })
  test('unknown entries and impossible values are named at their place', () => {
    expect(refused('clamp-on', { liner_mm: -2, nps: '13', colour: 'red' }).map(([where]) => where)).toEqual([
      'liner_mm',
      'nps',
      'colour',
    ])
  })
})

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
    const effects = sensitivityOf(familyOf('clamp-on') ?? FAMILIES[0]!, { ...MAIN })
    const sizes = effects.map((e) => Math.abs(e.effect_pct))
    expect(sizes).toEqual([...sizes].sort((a, b) => b - a))
    expect(effects.find((e) => e.name === 'od_mm')?.effect_pct).toBeGreaterThan(0)
    expect(effects.find((e) => e.name === 'wall_mm')?.effect_pct).toBeLessThan(0)
    // 2·dOD/ID − 4·dw/ID, as the reference has it.
    expect(effects.find((e) => e.name === 'od_mm')?.effect_pct).toBeCloseTo((2 * 1 * 100) / 574.94, 1)
  })
})

describe('how sure the reading is', () => {
  const clampOn = familyOf('clamp-on')
  if (!clampOn) throw new Error('no clamp-on')
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

describe('Coriolis through its form', () => {
  const TAG: Values = {
    flowFactor_certificate: '31.8425.08',
    joined: 'flowFactor',
    joinedWith: 'flowTemperature',
    splitAfter: 6,
    lightPeriod_certificate: '8243.517',
    heavyPeriod_certificate: '9766.284',
    lightDensity_certificate: '0.0012',
    heavyDensity_certificate: '0.9982',
    densityTemperature_certificate: '4.44',
    dt_us: 118.734,
    zero_us: 0.0127,
    period_us: 10012.35,
    tube_C: 37.6,
  }
  test('the entered factors are tried on a reading', () => {
    const r = compute('coriolis', TAG)
    expect(row(r, 'Mass flow of the reading')).toBeCloseTo(13349.2, 0)
    expect(row(r, 'Density of the reading')).toBeCloseTo(1.11429, 5)
    expect(codes(r)).toEqual(['CUTOFF_FINE'])
  })
  const slips: readonly [why: string, values: Values, code: string][] = [
    ['two digits exchanged on the device', { flowFactor_device: '38.1425.08' }, 'TRANSPOSED'],
    ['a decimal moved', { lightPeriod_device: '82435.17' }, 'DECIMAL_SHIFT'],
    [
      'the two periods exchanged',
      { lightPeriod_certificate: '9766.284', heavyPeriod_certificate: '8243.517' },
      'PERIODS_SWAPPED',
    ],
    ['a joined text nobody took apart', { joined: 'none' }, 'CONSTANT_UNREADABLE'],
    ['a split at the wrong character', { splitAfter: 12 }, 'SPLIT'],
    ['both parts the same constant', { joinedWith: 'flowFactor' }, 'SPLIT_ROLES'],
    ['the second part in a row of its own too', { flowTemperature_tag: '5.08' }, 'SPLIT_TWICE'],
    ['metres for millimetres', { bore_mm: 0.025 }, 'SIZE_UNIT'],
    ['a cutoff of nothing', { cutoff_kgh: 0 }, 'CUTOFF'],
    ['a receiver that is too slow', { limit_Hz: 8000 }, 'PULSES'],
    ['a lost memory', { memoryLost: true }, 'MEMORY_LOST'],
  ]
  test.each(slips)('%s', (_why, values, code) =>
    expect(codes(compute('coriolis', { ...TAG, ...values }))).toContain(code),
  )
  test('a text with a space is told at its field', () => {
    const [told] = refused('coriolis', { flowFactor_certificate: '31.84 25.08' })
    expect(told?.[0]).toBe('flowFactor_certificate')
  })
  test('what the tag calls a constant is on the sheet and in the sentences, typed by hand only', () => {
    const r = compute('coriolis', { ...TAG, lightPeriod_name: 'TL', lightPeriod_tag: '8234.517' })
    expect(r.sheet.find((l) => l.says === 'TL')?.value).toBe('8243.517')
    expect(r.findings.find((f) => f.code === 'TRANSPOSED')?.says).toMatch(/^TL: /)
  })
  test('the flow term of the density is used where the tag has one', () => {
    const without = row(compute('coriolis', TAG), 'Density of the reading')
    const withTerm = row(compute('coriolis', { ...TAG, densityFlow_tag: '0.1' }), 'Density of the reading')
    expect(Number(withTerm)).toBeLessThan(Number(without))
  })
})

describe('thermal and orifice through their forms', () => {
  test('depth mark, force and nozzle check', () => {
    const r = compute('thermal', { p0_list: '305 505 705 905', indicated_list: '20,30 33.62 46.75 60.10' })
    expect(row(r, 'Mark on the stem')).toBeCloseTo(460.5, 6)
    expect(r.tables?.[0]?.rows).toEqual([
      ['305', '20.2111', '20.3', '0.4398', '1.5937', 'passes'],
      ['505', '33.5474', '33.62', '0.2163', '1.3577', 'passes'],
      ['705', '46.9119', '46.75', '-0.3450', '1.2558', 'passes'],
      ['905', '60.3011', '60.1', '-0.3334', '1.1990', 'passes'],
    ])
    expect(r.charts?.[0]?.series.map((x) => x.name)).toEqual(['limit', 'limit below', 'now'])
    expect(codes(r)).toEqual(expect.arrayContaining(['RETRACTOR', 'NOZZLE_PASS', 'OXYGEN']))
    expect(codes(compute('thermal', { p0_list: '150', after_kPa: 118 }))).toContain('NOT_CHOKED')
    expect(codes(compute('thermal', { p0_list: '505', indicated_list: '33 34' }))).toContain('NOZZLE_COUNT')
    expect(codes(compute('thermal', { p0_list: '705', indicated_list: '50' }))).toContain('NOZZLE_FAIL')
    expect(
      codes(compute('thermal', { p0_list: '705', indicated_list: '46.75', baseline_list: '0.4' })),
    ).toContain('NOZZLE_ALERT')
    const yearly = compute('thermal', { yearly_list: '0.10 0.28 0.61 0.79' })
    expect(yearly.findings.find((f) => f.code === 'TREND')?.says).toMatch(/0.24 % a year.* 3.812 years/)
    expect(codes(compute('thermal', { probe_mm: 460 }))).toEqual(['DEPTH'])
  })
  test('the root is judged by the signal path alone', () => {
    const finding = { code: 'SQRT_TWICE', severity: 'stop', where: [], says: 'Twice.' } as const
    const root = { takers: ['transmitter', 'controller'] as const, finding }
    const r = compute('orifice', {}, { root })
    expect(r.findings).toContainEqual(finding)
    expect(r.sheet.find((l) => l.says === 'Square root')?.value).toBe('in the transmitter and the controller')
    expect(codes(compute('orifice', {}))).toEqual([])
  })
  test('flow at 18.7 kPa is the worked example’s', () => {
    const r = compute('orifice', { span_kPa: 18.7, gauge_kPa: 420 - 101.325 })
    expect(row(r, 'Flow at the span')).toBeCloseTo(42.0122, 3)
    expect(codes(compute('orifice', { d_mm: 110 }))).toEqual(['BORE'])
  })
})
