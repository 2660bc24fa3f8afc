import { describe, expect, test } from 'vitest'
import { beakerCheck, beakerWaits, benchOutcome, sensorAfter } from './bench-calibration.ts'

const AT = '2026-11-28T10:00:00.000Z'
const LATER = '2026-11-28T10:00:16.000Z'
const seven = { buffer: 7, mV: -3, t: 25 }
const four = { buffer: 4.005, mV: 172, t: 25 }

describe('a sensor in the workshop, without a loop', () => {
  test.each([
    ['no first reading', seven, null, [], AT, /Note a first reading/],
    ['too soon', seven, { ...seven, at: AT }, [], '2026-11-28T10:00:05.000Z', /10 s since/],
    ['it moves', seven, { ...seven, mV: -6, at: AT }, [], LATER, /still moves: -6 and -3/],
    ['the temperature moves', seven, { ...seven, t: 23, at: AT }, [], LATER, /temperature still moves/],
    ['another bottle meanwhile', four, { ...seven, at: AT }, [], LATER, /Note a first reading/],
    ['wrong bottle', { ...four, mV: -3 }, { ...four, mV: -3, at: AT }, [], LATER, /near pH 7/],
    ['the same buffer twice', seven, { ...seven, at: AT }, [seven], LATER, /closer than/],
    ['it stands', four, { ...four, at: AT }, [seven], LATER, null],
  ] as const)('%s', (_why, now, first, earlier, at, says) => {
    const waits = beakerWaits(now, first, earlier, at)
    expect(says === null ? waits : (says.exec(waits ?? '')?.[0] ?? null)).toEqual(
      says === null ? null : expect.any(String),
    )
  })
  test('two buffers give offset and slope; glass that nobody measured is not judged', () => {
    const o = benchOutcome([seven, four])
    expect(o?.result).toBe('good')
    expect(o?.slope_pct).toBeCloseTo(98.8, 0)
    expect(o?.says.join(' ')).toMatch(/Not judged: the glass/)
    expect(benchOutcome([seven, four], 150)?.says.join(' ')).toMatch(/Glass 150 MΩ/)
  })
  test('one buffer gives the offset, none gives nothing', () => {
    expect(benchOutcome([seven])).toMatchObject({ result: 'offsetOnly', slope_pct: null })
    expect(benchOutcome([])).toBeNull()
  })
  test.each([
    ['a worn glass', [seven, { ...four, mV: 138 }], 0],
    ['a cracked glass', [seven, four], 3],
    ['a contaminated third bottle', [seven, four, { buffer: 10.012, mV: -165, t: 25 }], 0],
  ] as const)('%s is not written', (_why, readings, glass) =>
    expect(benchOutcome(readings, glass)).toMatchObject({ result: 'rejected', slope_pct: null }),
  )
  test('as left it has to show what stands on the bottle', () => {
    const o = benchOutcome([seven, four])
    if (!o) throw new Error('no result')
    expect(beakerCheck(o, four).good).toBe(true)
    expect(beakerCheck(o, { ...four, mV: 165 })).toMatchObject({ good: false })
  })
  test('its data are changed, its history grows by the days since the last one', () => {
    const before = { serial: 'E-1', days: '0 60', slopes: '98.2 96.5', offset_mV: 3, slope_pct: 96.5 }
    expect(sensorAfter(before, { offset_mV: -2.424, slope_pct: 95.616 }, '2026-10-29', '2026-11-28')).toEqual(
      {
        ...before,
        offset_mV: -2.42,
        slope_pct: 95.62,
        days: '0 60 90',
        slopes: '98.2 96.5 95.62',
      },
    )
    expect(sensorAfter({ serial: 'E-2' }, { offset_mV: 1, slope_pct: 99 }, null, '2026-11-28')).toMatchObject(
      {
        days: '0',
        slopes: '99',
      },
    )
    const offset = sensorAfter(before, { offset_mV: 1, slope_pct: null }, '2026-10-29', '2026-11-28')
    expect(offset).toEqual({ ...before, offset_mV: 1 })
  })
})
