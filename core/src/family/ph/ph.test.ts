import { expect, describe, test } from 'vitest'
import { type Buffer, bufferWindow_mV, recogniseBuffer, bufferPH } from './buffers.ts'
import { piecewisePH, phStability, calibratePh, type BufferPoint } from './calibrate.ts'
import { lifeOf, electrode_pH, electrode_mV, electrodeState, nernst_mV, glassAt25_Mohm } from './electrode.ts'
import { row, type Values, compute, codes } from '../test/through-form.ts'

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

describe('pH through its form', () => {
  const TWO: Values = { buffer1: '4.005', mV1: 173.4, t1_C: 21.4, buffer2: '6.865', mV2: 9.6, t2_C: 21.4 }
  test('22 two buffers', () => {
    const r = compute('ph', TWO)
    expect(row(r, 'Offset')).toBeCloseTo(2.5652, 4)
    expect(row(r, 'Slope')).toBeCloseTo(97.4788, 4)
    expect(codes(r)).toContain('ELECTRODE_GOOD')
    expect(r.charts?.[0]?.series.map((s) => s.name)).toEqual(['this electrode', 'ideal', 'buffers'])
  })
  const judged: readonly [why: string, values: Values, code: string][] = [
    ['the wrong bottle', { ...TWO, buffer2: '9.180' }, 'BUFFER_WRONG'],
    ['the same bottle twice', { ...TWO, buffer2: '4.005', mV2: 173 }, 'SAME_BUFFER'],
    ['a buffer too hot', { ...TWO, t1_C: 60 }, 'BUFFER_TEMPERATURE_OUT_OF_RANGE'],
    ['a tired electrode', { ...TWO, mV1: 160 }, 'ELECTRODE_NEARING_END'],
    ['a dead one', { ...TWO, mV1: 60 }, 'ELECTRODE_REJECTED'],
    ['broken glass', { glass_Mohm: 4 }, 'GLASS'],
    ['a clogged reference', { reference_kohm: 80 }, 'REFERENCE'],
    ['a life without its days', { slopes: '98 97' }, 'LIFE_COUNT'],
  ]
  test.each(judged)('%s: %s', (_why, values, code) => expect(codes(compute('ph', values))).toContain(code))
  test('25 the end of an electrode', () => {
    const r = compute('ph', { days: '0 60 120', slopes: '98.2 96.5 94.4' })
    expect(r.findings.find((f) => f.code === 'LIFE')?.says).toMatch(/0.95 % in 30 days.*day 418.9/)
  })
})
