import { expect, describe, test } from 'vitest'
import type { SetUpResult } from '../family.ts'
import { fullInBlocking } from './blocking-distance.ts'
import { pointsOfMode, readEcho } from './echo.ts'
import {
  footprint_m,
  gasPermittivity,
  wavelength_m,
  beamAngle_deg,
  entersBeamAt_m,
  trueRadarDistance_m,
  reflection,
} from './radar.ts'
import { airSoundSpeed_m_s, temperatureError } from './sound-in-air.ts'
import { row, type Values, compute, codes } from '../test/through-form.ts'

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

describe('level from above through its form', () => {
  const SUMP: Values = { empty_m: 5.2, full_m: 0.7, offset_m: 0.15, blocking_m: 0.45, face_m: 3.105 }
  test('4 LT-102: the reading, its level and its current', () => {
    const r = compute('level-from-above', SUMP)
    expect(row(r, 'Level of the reading')).toBeCloseTo(2.245, 9)
    expect(row(r, 'Current of the reading')).toBeCloseTo(11.9822, 4)
    expect(codes(r)).toEqual(['ZONES_CLEAR'])
  })
  test('both schools say the same points: level mode, own distances, own levels', () => {
    const ways: Values[] = [
      { points: 'level' },
      { points: 'ownDistance', at4_m: 5.2, at20_m: 0.7 },
      { points: 'ownLevel', level4_m: 0, level20_m: 4.5 },
    ]
    const answers = ways.map((w) => {
      const r = compute('level-from-above', { ...SUMP, ...w })
      return [row(r, '4 mA point'), row(r, '20 mA point'), row(r, 'Current of the reading')]
    })
    expect(answers[1]).toEqual(answers[0])
    expect(answers[2]).toEqual(answers[0])
    expect(answers[0]?.[0]).toBe('distance 5.2 m = level 0 m')
  })
  test('100 % at the dead zone or at the tank’s top', () => {
    expect(row(compute('level-from-above', { ...SUMP, hundred: 'deadZone' }), 'Span')).toBeCloseTo(4.9, 9)
    const top = compute('level-from-above', { ...SUMP, hundred: 'top', roof_m: 0.1 })
    expect(codes(top)).toContain('FULL_IN_BLOCKING')
  })
  const judged: readonly [why: string, values: Values, code: string][] = [
    ['full above empty', { full_m: 6 }, 'POINTS'],
    ['the dead zone inside the range', { full_m: 0.25 }, 'FULL_IN_BLOCKING'],
    ['too little margin', { full_m: 0.4 }, 'MARGIN_SMALL'],
    ['a reading in the dead zone', { face_m: 0.4 }, 'IN_BLOCKING'],
    ['hot gas counted cold', { gas_C: 45 }, 'GAS_TEMPERATURE'],
    ['a product that hardly reflects', { principle: 'radar26', eps: 1.7 }, 'WEAK_ECHO'],
    ['a ladder in the beam', { principle: 'radar6', lateral_m: 0.3 }, 'WALL_IN_BEAM'],
    ['a tank that is lower than its span', { shape: 'rectangular', height_m: 3 }, 'ABOVE_TANK'],
    ['a head that cannot be', { shape: 'vertical', head1: 'cone', outlet_m: 3 }, 'TANK'],
  ]
  test.each(judged)('%s: %s', (_why, values, code) =>
    expect(codes(compute('level-from-above', { ...SUMP, ...values }))).toContain(code),
  )
  test('the level follows the current on the line, in both modes', () => {
    const surface = (r: SetUpResult) => Number(/surface at ([\d.]+)/.exec(r.drawing?.says ?? '')?.[1])
    const values = { ...SUMP, face_m: 0 }
    expect(surface(compute('level-from-above', values, { current_mA: 12 }))).toBeCloseTo(2.95, 3)
    expect(
      surface(compute('level-from-above', { ...values, points: 'distance' }, { current_mA: 8 })),
    ).toBeCloseTo(1.825, 3)
  })
  test('the silo by its heap, and its table', () => {
    const r = compute('level-from-above', {
      principle: 'radar80',
      empty_m: 7.4,
      full_m: 1,
      shape: 'vertical',
      diameter_m: 3,
      shell_m: 5,
      head1: 'cone',
      cone_m: 2.4,
      outlet_m: 0.4,
      surface: 'filling',
      repose_deg: 32,
      sensorRadius_m: 0.3,
      face_m: 3.3,
    })
    expect(row(r, 'Volume of the reading')).toBeCloseTo(15.43411, 5)
    expect(r.tables?.[0]?.rows).toHaveLength(5)
  })
})
