import { describe, expect, test } from 'vitest'
import { convert } from '../quantity/units.ts'
import { currentOfFraction } from '../signal/current-range.ts'
import { powerTransfer } from '../signal/transfer.ts'
import { damped, filterStep, settlingTime_s } from '../signal/damping.ts'
import {
  airSoundSpeed_m_s,
  beamAngle_deg,
  entersBeamAt_m,
  footprint_m,
  fullInBlocking,
  gasPermittivity,
  pointsOfMode,
  readEcho,
  reflection,
  temperatureError,
  trueRadarDistance_m,
  wavelength_m,
} from './level-from-above/echo.ts'
import { checkProbe, layerThickness_m, levelFromProbeEnd, readProbe } from './guided-wave/probe.ts'
import { bufferPH, bufferWindow_mV, recogniseBuffer, type Buffer } from './ph/buffers.ts'
import { calibratePh, phStability, piecewisePH, type BufferPoint } from './ph/calibrate.ts'
import {
  electrode_mV,
  electrode_pH,
  electrodeState,
  glassAt25_Mohm,
  lifeOf,
  nernst_mV,
} from './ph/electrode.ts'
import { accuracy_pct, staticError_pct, turndown, TYPICAL_ACCURACY } from './pressure/accuracy.ts'
import {
  dpRange,
  indicatedLevel_m,
  interfaceAt_Pa,
  pressureAtTap_Pa,
  type DpLevel,
} from './pressure/hydrostatic.ts'
import {
  judgeSequence,
  manifold,
  SEQUENCES,
  valvesOf,
  type ManifoldKind,
  type ValveMove,
} from '../manifold/manifold.ts'
import { surfaceTemperature } from './temperature/mounting.ts'
import {
  leadError_C,
  RTD_CLASSES,
  rtdResistance_ohm,
  rtdSlope_ohm_K,
  rtdTemperature_C,
  rtdTolerance_C,
} from './temperature/rtd.ts'
import {
  thermocouple_C,
  thermocouple_mV,
  thermocoupleRange_C,
  THERMOCOUPLES,
  thermocoupleTolerance_C,
  withColdJunction,
  type Thermocouple,
} from './temperature/thermocouple.ts'

const to = (value: number, from: string, unit: string, p_baro?: number) => {
  const r = convert(value, from, unit, p_baro)
  return r.kind === 'value' ? r.value : NaN
}

describe('units of the worked examples', () => {
  const rows: readonly [
    why: string,
    value: number,
    from: string,
    to: string,
    expected: number,
    digits: number,
  ][] = [
    ['1 conventional', 35, 'inH2O@conv', 'kPa', 8.718112, 6],
    ['1 at 4 °C', 35, 'inH2O@4C', 'kPa', 8.717894, 6],
    ['1 at 60 °F', 35, 'inH2O@60F', 'kPa', 8.709542, 6],
    ['1 at 68 °F', 35, 'inH2O@68F', 'kPa', 8.70248, 6],
    ['2 US gallons', 250, 'USgal/min', 'm3/h', 56.781177, 6],
    ['2 litres', 250, 'USgal/min', 'L/s', 15.77255, 5],
    ['2 imperial gallons', 250, 'USgal/min', 'impgal/min', 208.16855, 5],
    ['2 normal', 120, 'scf/min', 'Nm3/h', 192.8961, 5],
    ['2 standard', 120, 'scf/min', 'Sm3/h', 203.48897, 5],
  ]
  test.each(rows)('%s: %d %s is %s', (_why, value, from, unit, expected, digits) =>
    expect(to(value, from, unit)).toBeCloseTo(expected, digits),
  )
  test('3 gauge to absolute with the barometer of the day', () => {
    expect(to(6.2, 'bar(g)', 'kPa(a)', 99_100)).toBeCloseTo(719.1, 9)
    expect(to(6.2, 'bar(g)', 'psi(a)', 99_100)).toBeCloseTo(104.29664, 5)
  })
})

describe('level from above', () => {
  const SUMP = {
    empty_m: 5.2,
    full_m: 0.7,
    offset_m: 0.15,
    blocking_m: 0.45,
    ...pointsOfMode(5.2, 0.7, 'level'),
  }
  const REVERSED = { ...SUMP, ...pointsOfMode(5.2, 0.7, 'distance') }
  test('4 LT-102, both schools of the output', () => {
    const r = readEcho(SUMP, 3.105)
    expect(r.distance_m).toBeCloseTo(2.955, 9)
    expect(r.level_m).toBeCloseTo(2.245, 9)
    expect(r.percent).toBeCloseTo(49.8889, 4)
    expect(r.spaceToFull_m).toBeCloseTo(2.255, 9)
    expect(r.current_mA).toBeCloseTo(11.9822, 4)
    expect(readEcho(REVERSED, 3.105).current_mA).toBeCloseTo(12.0178, 4)
    expect([r.inBlocking, fullInBlocking(SUMP)]).toEqual([false, false])
    expect(fullInBlocking({ ...SUMP, full_m: 0.2 })).toBe(true)
  })
  test('the two schools add to 24 mA everywhere between the points', () => {
    for (let d = 0.9; d < 5.2; d += 0.31)
      expect(readEcho(SUMP, d).current_mA + readEcho(REVERSED, d).current_mA).toBeCloseTo(24, 9)
  })
  test('5 hot gas reads too high', () => {
    expect(airSoundSpeed_m_s(20)).toBeCloseTo(343.2, 9)
    expect(airSoundSpeed_m_s(35)).toBeCloseTo(351.871, 3)
    const e = temperatureError(4.2, 20, 35)
    expect(e.indicated_m).toBeCloseTo(4.0965, 5)
    expect(e.levelError_m).toBeCloseTo(0.1035, 5)
  })
  test('6 radar: reflection, beam, footprint', () => {
    expect(reflection(1, 1.9).power * 100).toBeCloseTo(2.53129, 5)
    expect(reflection(1, 1.9).dB).toBeCloseTo(-15.9666, 4)
    expect(reflection(1, 80).power * 100).toBeCloseTo(63.8208, 4)
    expect(reflection(1, 80).dB).toBeCloseTo(-1.9504, 4)
    expect(footprint_m(6.5, 8)).toBeCloseTo(0.90905, 5)
    expect(entersBeamAt_m(0.4, 8)).toBeCloseTo(5.7203, 4)
    expect(wavelength_m(26) * 1000).toBeCloseTo(11.53, 2)
    expect(beamAngle_deg(26, 0.1)).toBeCloseTo(8.07, 2)
  })
  test('a gas under pressure slows radar: 0.4 % at 16 bar', () =>
    expect((1 - trueRadarDistance_m(1, gasPermittivity(1600, 20))) * 100).toBeCloseTo(0.43, 1))
})

describe('guided wave', () => {
  const PROBE = { probe_m: 2.4, topDead_m: 0.12, bottomDead_m: 0.08, at4_m: 2.32, at20_m: 0.12 }
  test('7 LT-301', () => {
    expect(checkProbe(PROBE)).toMatchObject({ span_m: expect.closeTo(2.2, 9) as number, flags: [] })
    const r = readProbe(PROBE, 1.47)
    expect(r.percent).toBeCloseTo(38.6364, 4)
    expect(r.current_mA).toBeCloseTo(10.1818, 4)
    const high = checkProbe({ ...PROBE, at20_m: 0.05 })
    expect(high.flags).toEqual(['FULL_IN_TOP_DEAD_ZONE'])
    expect(high.reachHigh_pct).toBeCloseTo(96.9163, 4)
    expect(currentOfFraction((high.reachHigh_pct ?? 0) / 100)).toBeCloseTo(19.5066, 4)
  })
  const flags: readonly [why: string, at4: number, at20: number, flags: string[]][] = [
    ['reversed', 0.12, 2.32, ['POINTS_REVERSED_OR_EQUAL']],
    ['zero near the end', 2.35, 0.12, ['ZERO_IN_BOTTOM_DEAD_ZONE']],
    ['zero beyond the end', 2.5, 0.12, ['ZERO_IN_BOTTOM_DEAD_ZONE', 'ZERO_BEYOND_PROBE']],
    ['all at once', 2.5, 0.05, ['FULL_IN_TOP_DEAD_ZONE', 'ZERO_IN_BOTTOM_DEAD_ZONE', 'ZERO_BEYOND_PROBE']],
  ]
  test.each(flags)('%s', (_why, at4_m, at20_m, expected) =>
    expect(checkProbe({ ...PROBE, at4_m, at20_m }).flags).toEqual(expected),
  )
  test('8 the end of the probe through a liquid that hardly reflects', () => {
    const r = levelFromProbeEnd(2.4, 3.052, 2.1)
    expect(r.height_m).toBeCloseTo(1.45167, 5)
    expect(r.surface_m).toBeCloseTo(0.94833, 5)
    expect(layerThickness_m(1.6, 1.0, 4)).toBeCloseTo(0.3, 12)
  })
})

describe('hydrostatic and differential level', () => {
  const WET: DpLevel = {
    lowerTap_m: 0.2,
    upperTap_m: 3,
    transmitter_m: -0.5,
    density: 1180,
    vapourDensity: 0,
    highFill: 1000,
    lowFill: 1000,
  }
  const legs: readonly [why: string, d: DpLevel, lrv: number, urv: number, shift: string][] = [
    ['14 wet leg', WET, -27.45862, 2.62818, 'ELEVATED'],
    ['14 dry leg, line of brine', { ...WET, highFill: 1180, lowFill: 0 }, 8.10029, 38.1871, 'SUPPRESSED'],
    ['14 remote seals', { ...WET, highFill: 960, lowFill: 960 }, -26.36028, 3.72653, 'ELEVATED'],
    [
      '14 remote seals, transmitter elsewhere',
      { ...WET, highFill: 960, lowFill: 960, transmitter_m: -7 },
      -26.36028,
      3.72653,
      'ELEVATED',
    ],
  ]
  test.each(legs)('%s', (_why, d, lrv, urv, shift) => {
    const r = dpRange(d, 0.2, 2.8)
    expect(r.lrv_Pa / 1000).toBeCloseTo(lrv, 5)
    expect(r.urv_Pa / 1000).toBeCloseTo(urv, 5)
    expect(r.span_Pa / 1000).toBeCloseTo(30.0868, 4)
    expect(r.shift).toBe(shift)
  })
  test('15 heavier brine, and an interface', () => {
    expect(indicatedLevel_m(0.2, 1.6, 1205, 1180)).toBeCloseTo(1.62966, 5)
    const d = { lower: 1180, upper: 860, fill: 960, lowerTap_m: 0, upperTap_m: 2 }
    expect(interfaceAt_Pa(d, 0) / 1000).toBeCloseTo(-1.96133, 5)
    expect(interfaceAt_Pa(d, 2) / 1000).toBeCloseTo(4.31493, 5)
    expect(interfaceAt_Pa(d, 0.7) / 1000).toBeCloseTo(0.23536, 5)
  })
  test('16 a transmitter below its tap, 17 turndown and static pressure', () => {
    expect(pressureAtTap_Pa(605_000, 1025, 3.2) / 1000).toBeCloseTo(572.83419, 5)
    const td = turndown(160, 8)
    expect(td).toBe(20)
    expect(accuracy_pct(TYPICAL_ACCURACY, td)).toBeCloseTo(0.115, 9)
    expect((accuracy_pct(TYPICAL_ACCURACY, td) * 8) / 100).toBeCloseTo(0.0092, 9)
    expect(accuracy_pct(TYPICAL_ACCURACY, 4)).toBe(0.065)
    expect(staticError_pct(0.05, 12, 70, 160, 8)).toBeCloseTo(0.17143, 5)
  })
})

describe('manifolds', () => {
  const moves = (text: string): ValveMove[] =>
    text.split(', ').map((m) => {
      const [verb = '', valve = ''] = m.split(' ')
      return { valve, to: verb === 'open' ? 'open' : 'close' }
    })
  const wrong: readonly [start: 'in service' | 'isolated', sequence: string, rule: string, at: number][] = [
    ['in service', 'open E', 'THROUGH_FLOW', 0],
    ['in service', 'close H, open VH', 'ONE_SIDED_PRESSURE', 1],
    ['in service', 'close L, open E, open VL', 'VENT_TO_PROCESS', 2],
    ['isolated', 'close VH, close VL, close E, open H', 'ONE_SIDED_PRESSURE', 3],
    ['isolated', 'open H', 'VENT_TO_PROCESS', 0],
  ]
  test.each(wrong)('%s, %s: %s at move %d', (start, sequence, rule, at) =>
    expect(judgeSequence(manifold('three-valve', start), moves(sequence))).toMatchObject({ rule, at }),
  )
  const swap = (m: ValveMove): ValveMove => {
    const other: Record<string, string> = { H: 'L', L: 'H', VH: 'VL', VL: 'VH', EH: 'EL', EL: 'EH' }
    return { ...m, valve: other[m.valve] ?? m.valve }
  }
  for (const kind of ['three-valve', 'five-valve'] as const satisfies ManifoldKind[])
    test.each([
      ['as written', (m: ValveMove) => m],
      ['other side first', swap],
    ] as const)(`${kind}: out, test and back break no rule, %s`, (_why, side) => {
      const out = judgeSequence(manifold(kind, 'in service'), SEQUENCES[kind].out.map(side))
      expect(out.rule).toBeNull()
      expect([...out.end.pressurised]).toEqual([])
      expect([...out.end.open].sort()).toEqual([...manifold(kind, 'isolated').open].sort())
      const tested = judgeSequence(out.end, SEQUENCES[kind].test.map(side))
      expect(tested.rule).toBeNull()
      const back = judgeSequence(tested.end, SEQUENCES[kind].back.map(side))
      expect([back.rule, [...back.end.open].sort()]).toEqual([null, ['H', 'L']])
      expect([...back.end.pressurised].filter((r) => r !== 'X').sort()).toEqual(['CH', 'CL'])
      expect(valvesOf(kind)).toHaveLength(5)
    })
})

describe('resistance thermometers', () => {
  test('18 both ways', () => {
    expect(rtdResistance_ohm(64.2)).toBeCloseTo(124.853261, 6)
    expect(rtdResistance_ohm(64.2, 1000)).toBeCloseTo(1248.53261, 5)
    expect(rtdTemperature_C(124.6)).toBeCloseTo(63.53952, 5)
    expect(rtdResistance_ohm(-35)).toBeCloseTo(86.247785, 6)
    expect(rtdTemperature_C(80)).toBeCloseTo(-50.77114, 5)
    expect(leadError_C(64.2, 2, 0.42, 0.42)).toBeCloseTo(2.19156, 5)
    expect(leadError_C(64.2, 3, 0.45, 0.4)).toBeCloseTo(0.13041, 5)
    expect(leadError_C(64.2, 4, 5, 1)).toBeCloseTo(0, 9)
    expect(rtdTolerance_C('A', 64.2)).toBeCloseTo(0.2784, 9)
    expect(rtdTolerance_C('B', 64.2)).toBeCloseTo(0.621, 9)
    expect(rtdSlope_ohm_K(0)).toBeCloseTo(0.39083, 9)
  })
  test('there and back over the whole range; outside there is no number', () => {
    for (let t = -200; t <= 850; t += 12.5)
      expect(rtdTemperature_C(rtdResistance_ohm(t) ?? 0)).toBeCloseTo(t, 9)
    expect([
      rtdResistance_ohm(-201),
      rtdResistance_ohm(851),
      rtdTemperature_C(10),
      rtdTemperature_C(400),
    ]).toEqual([null, null, null, null])
    for (const c of RTD_CLASSES) expect(rtdTolerance_C(c, 100)).toBeGreaterThan(rtdTolerance_C(c, 0))
  })
})

/** Rounded to 0.001 mV from the published tables. */
const PUBLISHED: Readonly<Record<Thermocouple, readonly (readonly [t: number, mV: number])[]>> = {
  K: [[-200, -5.891], [-100, -3.554], [100, 4.096], [500, 20.644], [1000, 41.276], [1372, 54.886]],
  T: [[-200, -5.603], [-100, -3.379], [100, 4.279], [200, 9.288], [300, 14.862], [400, 20.872]],
  J: [[-200, -7.89], [100, 5.269], [400, 21.848], [760, 42.919], [1000, 57.953], [1200, 69.553]],
  N: [[-200, -3.99], [100, 2.774], [500, 16.748], [800, 28.455], [1000, 36.256], [1300, 47.513]],
  E: [[-200, -8.825], [-100, -5.237], [100, 6.319], [500, 37.005], [800, 61.017], [1000, 76.373]],
  S: [[-50, -0.236], [100, 0.646], [500, 4.233], [1000, 9.587], [1400, 14.373], [1768, 18.693]],
  R: [[-50, -0.226], [100, 0.647], [500, 4.471], [1000, 10.506], [1400, 16.04], [1768, 21.101]],
  B: [[100, 0.033], [300, 0.431], [600, 1.792], [1000, 4.834], [1400, 8.956], [1820, 13.82]],
} // prettier-ignore
const JOINTS: readonly (readonly [Thermocouple, number])[] = [
  ['E', 0],
  ['K', 0],
  ['N', 0],
  ['T', 0],
  ['J', 760],
  ['B', 630.615],
  ['R', 1064.18],
  ['R', 1664.5],
  ['S', 1064.18],
  ['S', 1664.5],
]

describe('thermocouples', () => {
  test.each(THERMOCOUPLES)('type %s meets the published table and comes back', (type) => {
    for (const [t, mV] of PUBLISHED[type])
      expect(Math.abs((thermocouple_mV(type, t) ?? 0) - mV), `${type} ${t}`).toBeLessThanOrEqual(0.0006)
    const [from, top] = thermocoupleRange_C(type)
    const low = type === 'B' ? 250 : type === 'R' || type === 'S' ? -50 : -200
    for (let t = low; t <= top; t += (top - low) / 37)
      expect(Math.abs((thermocouple_C(type, thermocouple_mV(type, t) ?? 0) ?? 0) - t)).toBeLessThan(0.001)
    expect([
      thermocouple_mV(type, from - 1),
      thermocouple_mV(type, top + 1),
      thermocouple_C(type, 1000),
    ]).toEqual([null, null, null])
  })
  test.each(JOINTS)('type %s is continuous at %d °C', (type, t) =>
    expect(Math.abs((thermocouple_mV(type, t) ?? 0) - (thermocouple_mV(type, t + 1e-7) ?? 0))).toBeLessThan(
      1e-5,
    ),
  )
  test('type B tells nothing near room temperature', () => {
    for (let t = 1; t < 42; t++) {
      const mV = thermocouple_mV('B', t) ?? 1
      expect(mV).toBeLessThanOrEqual(0)
      expect(mV).toBeGreaterThan(-0.0026)
    }
    expect(thermocouple_C('B', 0.1)).toBeNull()
  })
  test('19 the cold junction adds as a voltage', () => {
    const r = withColdJunction('K', 33, 35)
    expect(r?.cold_mV).toBeCloseTo(1.4071, 4)
    expect(r?.total_mV).toBeCloseTo(34.4071, 4)
    expect(r?.t_C).toBeCloseTo(827.695, 3)
    expect((thermocouple_C('K', 33) ?? 0) + 35).toBeCloseTo(828.289, 3)
    expect(thermocouple_C('K', 33)).toBeCloseTo(793.289, 3)
    expect(thermocoupleTolerance_C('K', 1, 800)).toBeCloseTo(3.2, 9)
    expect(thermocoupleTolerance_C('T', 2, 20)).toBe(1)
    expect(thermocoupleTolerance_C('S', 1, 20)).toBeNull()
  })
  test('20 clamped on a pipe, with and without insulation', () => {
    const pipe = {
      fluid_C: 82,
      ambient_C: 8,
      bore_m: 0.1023,
      od_m: 0.1143,
      wall_W_mK: 16,
      inside_W_m2K: 1200,
      insulation_m: 0.025,
      insulation_W_mK: 0.04,
      outside_W_m2K: 10,
    }
    const r = surfaceTemperature(pipe)
    expect(r.inside_K_m_W).toBeCloseTo(0.0036963, 7)
    expect(r.outside_K_m_W).toBeCloseTo(1.637541, 6)
    expect(r.surface_C).toBeCloseTo(81.8333, 4)
    expect(surfaceTemperature({ ...pipe, insulation_m: 0 }).surface_C).toBeCloseTo(81.0307, 4)
  })
})

describe('pH', () => {
  const point = (buffer: Buffer, mV: number, t_C = 21.4): BufferPoint => ({ buffer, mV, t_C })
  test('21 the slope and a reading, with the wrong temperature too', () => {
    expect(nernst_mV(25)).toBeCloseTo(59.15935, 5)
    expect(nernst_mV(31)).toBeCloseTo(60.34988, 5)
    const e = { offset_mV: 3.2, slope_pct: 97.1 }
    expect(electrode_pH(e, -42.5, 31)).toBeCloseTo(7.77987, 5)
    expect(electrode_pH(e, -42.5, 25)).toBeCloseTo(7.79556, 5)
    expect(electrode_mV(e, electrode_pH(e, 123, 31), 31)).toBeCloseTo(123, 9)
  })
  test('22 two buffers, three buffers, one buffer', () => {
    expect(bufferPH('4.005', 21.4)).toBeCloseTo(4.0014, 4)
    expect(bufferPH('6.865', 21.4)).toBeCloseTo(6.8765, 4)
    expect(bufferPH('9.180', 21.4)).toBeCloseTo(9.2124, 4)
    const two = [point('4.005', 173.4), point('6.865', 9.6)]
    const c = calibratePh(two)
    expect(c?.electrode.offset_mV).toBeCloseTo(2.5652, 4)
    expect(c?.electrode.slope_pct).toBeCloseTo(97.4788, 4)
    const three = [...two, point('9.180', -124.2)]
    const d = calibratePh(three)
    expect(d?.electrode.offset_mV).toBeCloseTo(2.2843, 4)
    expect(d?.electrode.slope_pct).toBeCloseTo(97.7067, 4)
    expect(d?.maxResidual_mV).toBeCloseTo(0.2644, 4)
    expect(d && electrode_pH(d.electrode, -60, 25)).toBeCloseTo(8.07753, 5)
    expect(piecewisePH(three, -60, 25)).toBeCloseTo(8.07895, 5)
    expect(calibratePh([point('6.865', 9.6)], 97)?.electrode.offset_mV).toBeCloseTo(2.5997, 4)
  })
  const recognised: readonly [mV: number, state: string, candidates: Buffer[], nearest: Buffer][] = [
    [168, 'RECOGNISED', ['4.005'], '4.005'],
    [-150, 'AMBIGUOUS', ['9.180', '10.012'], '9.180'],
    [60, 'NONE', [], '6.865'],
  ]
  const SET: Buffer[] = ['1.679', '4.005', '6.865', '9.180', '10.012']
  test.each(recognised)('23 %d mV: %s', (mV, state, candidates, nearest) =>
    expect(recogniseBuffer(SET, mV, 25)).toEqual({ state, candidates, nearest }),
  )
  test('windows of the buffers at 25 °C; outside 0 to 50 °C nothing', () => {
    const w = bufferWindow_mV('9.180', 25)
    expect(w?.[0]).toBeCloseTo(-165.42, 2)
    expect(w?.[1]).toBeCloseTo(-79.62, 2)
    expect(recogniseBuffer(SET, 0, 60).state).toBe('BUFFER_TEMPERATURE_OUT_OF_RANGE')
    expect(calibratePh([point('4.005', 170, 55)])).toBeNull()
  })
  test('24 the reading stands still after 84 s', () => {
    const samples = Array.from({ length: 301 }, (_, t) => ({
      t_s: t,
      mV: 172 - 132 * Math.exp(-t / 12),
      t_C: 25 - 7 * Math.exp(-t / 20),
    }))
    const s = phStability(samples)
    expect([s.state, s.at_s]).toEqual(['STABLE', 84])
    expect(s.slope_mV_s).toBeCloseTo(0.019578, 6)
    expect(s.slope_C_s).toBeCloseTo(0.007758, 6)
    const restless = Array.from({ length: 400 }, (_, t) => ({ t_s: t, mV: t * 0.1, t_C: 25 }))
    expect(phStability(restless)).toMatchObject({ state: 'TIMEOUT', at_s: 301 })
    expect(phStability(restless.slice(0, 40)).state).toBe('NOT_YET')
  })
  test('25 what the record was worth, and when the electrode ends', () => {
    const mV = electrode_mV({ offset_mV: -6, slope_pct: 94 }, 7.9, 25)
    expect(mV).toBeCloseTo(-56.0488, 4)
    expect(electrode_pH({ offset_mV: 1.5, slope_pct: 98.2 }, mV, 25)).toBeCloseTo(7.99061, 5)
    const life = lifeOf([0, 60, 120], [98.2, 96.5, 94.4])
    expect((life?.rate_pct_per_day ?? 0) * 30).toBeCloseTo(-0.95, 4)
    expect(life?.endsOnDay).toBeCloseTo(418.947, 3)
    expect(lifeOf([0, 60], [98, 97])).toBeNull()
    expect(lifeOf([0, 60, 120], [96, 97, 98])?.endsOnDay).toBeNull()
    expect(glassAt25_Mohm(100, 33)).toBeCloseTo(200, 9)
  })
  test('electrodes by state, and buffers that warn', () => {
    expect(electrodeState({ offset_mV: 5, slope_pct: 97 })).toBe('GOOD')
    expect(electrodeState({ offset_mV: 20, slope_pct: 97 })).toBe('NEARING_END')
    expect(electrodeState({ offset_mV: 5, slope_pct: 80 })).toBe('REJECTED')
    expect(calibratePh([point('6.865', 9.6), point('7.413', -20)])?.warnings).toEqual(['BUFFERS_TOO_CLOSE'])
    expect(calibratePh([point('4.005', 173), point('4.005', 174)])).toBeNull()
  })
})

describe('transfer', () => {
  const rows: readonly [
    why: string,
    kind: 'linear' | 'sqrt' | 'pow3/2' | 'pow5/2',
    x: number,
    mA: number,
    digits: number,
  ][] = [
    ['26 linear', 'linear', 9 / 40, 7.6, 9],
    ['26 square root', 'sqrt', 9 / 40, 11.58947, 5],
    ['26 rectangular weir', 'pow3/2', 0.4, 8.04772, 5],
    ['26 V-notch', 'pow5/2', 0.4, 5.61909, 5],
  ]
  test.each(rows)('%s', (_why, kind, x, mA, digits) =>
    expect(currentOfFraction(powerTransfer(kind, x))).toBeCloseTo(mA, digits),
  )
  test('a square root below its cutoff: nothing, or a straight line that joins', () => {
    expect(powerTransfer('sqrt', 0.0024, 0.05)).toBe(0)
    expect(powerTransfer('sqrt', 0.0024, 0.05, 'linear')).toBeCloseTo(0.048, 12)
    expect(powerTransfer('sqrt', 0.0025, 0.05, 'linear')).toBeCloseTo(0.05, 12)
    expect(powerTransfer('sqrt', -1, 0.05)).toBe(0)
  })
})

describe('damping', () => {
  test('26 time to 99.9 %, one filter and two', () => {
    expect(settlingTime_s(3, 0.999)).toBeCloseTo(20.7233, 4)
    expect(settlingTime_s(3, 0.999, 2)).toBeCloseTo(27.7002, 4)
    expect(settlingTime_s(1, 0.632120558829)).toBeCloseTo(1, 9)
  })
  test('samples follow the curve', () => {
    let y = 4
    for (let i = 0; i < 50; i++) y = filterStep(y, 20, 3, 0.1)
    expect(y).toBeCloseTo(damped(4, 20, 3, 5), 9)
  })
})
