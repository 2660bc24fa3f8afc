import { describe, expect, test } from 'vitest'
import { familyOf } from '../family/index.ts'
import { valuesOf, type Typed } from '../quantity/setting.ts'
import { alarmsNow } from './alarms.ts'
import { afterLoss, keyedNumber, missingLines } from './keyed.ts'
import { alertsOf, isStored, measures, readStandIn, settled, signalsAt, type StandIn } from './stand-in.ts'
import { exact, go, OPEN, refused } from './test/at-device.ts'

const clampOn = (more: Partial<StandIn> = {}) => exact(100, 'm3/h', { family: 'clamp-on', ...more })
const signal = (d: StandIn, t_s: number, name: string) =>
  signalsAt(d, t_s).find((s) => s.name === name)?.value ?? null
/** The mean of a hundred moments: one alone is only a moment. */
const meanSignal = (d: StandIn, t_s: number) =>
  Array.from({ length: 100 }, (_, i) => signal(d, t_s + i, 'signal_pct') ?? 0).reduce((a, b) => a + b, 0) /
  100

describe('a clamped meter is started', () => {
  test('it searches and makes itself ready; before that it measures nothing and says so', () => {
    const begun = go(clampOn(), 10, ...OPEN, { kind: 'start' })
    expect(measures(begun)).toBe(false)
    expect(readStandIn(begun, 30)).toMatchObject({ PV: 0, measures: false })
    expect(readStandIn(begun, 30).mA).toBeCloseTo(3.6, 1)
    expect(alertsOf(begun, 30).map((a) => a.code)).toContain('NOT_STARTED')
    expect(signal(begun, 30, 'soundSpeed_m_s')).toBeNull()
    expect(refused(begun, 30, { kind: 'adjust', adjustment: { kind: 'zeroTrim' } })).toMatch(
      /searches its signal/,
    )
    const ready = settled(begun, 81)
    expect(measures(ready)).toBe(true)
    expect(readStandIn(ready, 200).PV).toBeCloseTo(55, 0)
    expect(readStandIn(ready, 200)).not.toHaveProperty('measures')
  })
  test('given up, it is not started; what was wrong stays in the alarm list with its times', () => {
    const given = go(go(clampOn(), 10, ...OPEN, { kind: 'start' }), 30, { kind: 'cancel' })
    expect(measures(settled(given, 500))).toBe(false)
    const again = settled(go(given, 500, { kind: 'start' }), 600)
    const looked = go(again, 600, { kind: 'store' })
    expect(looked.alarms.map((a) => [a.code, a.gone_s === null])).toEqual([['NOT_STARTED', false]])
  })
  test('what came and went while nobody looked stands in the list with its own times', () => {
    const begun = go(clampOn(), 10, ...OPEN, { kind: 'start' })
    const list = alarmsNow(begun, 4_000)
    expect(list.map((a) => [a.code, a.at_s])).toEqual([['NOT_STARTED', 10]])
    // Seventy seconds of searching and making ready; it looks at itself every five.
    expect(list[0]?.gone_s).toBeGreaterThanOrEqual(80)
    expect(list[0]?.gone_s).toBeLessThanOrEqual(85)
    // The next command does not write a later time over it.
    expect(go(begun, 5_000, { kind: 'store' }).alarms).toEqual(list)
    const over = go(exact(10, 'bar', { family: 'pressure' }), 100, { kind: 'apply', value: 22 })
    const [came] = alarmsNow(over, 3_000)
    expect(came).toMatchObject({ code: 'INPUT_OUT', gone_s: null })
    expect(came?.at_s).toBeLessThan(160)
  })
  test('its channels give what the plan of them says', () => {
    const plan: Typed = {
      ch1: 'active',
      ch2: 'frequency',
      ch2_top_Hz: 1000,
      ch3: 'pulse',
      ch3_pulse_m3: 0.01,
      ch4: 'relay',
      ch4_acts: 'fault',
      ch5: 'temperature',
      flow_m3h: 180,
    }
    const family = familyOf('clamp-on')
    const told = { ...(family ? valuesOf(family.settings, {}) : {}), ...plan }
    const d = exact(180, 'm3/h', { family: 'clamp-on', told })
    // At 55 % of 180 m³/h: 99 m³/h, 2.75 pulses of 10 L a second.
    const at = (s: StandIn) => [1, 2, 3, 4, 5].map((n) => signal(s, 100, `ch${n}`))
    expect(at(d)).toEqual([expect.closeTo(12.8, 9), expect.closeTo(550, 6), expect.closeTo(2.75, 9), 0, 20])
    expect(at({ ...d, started: false })).toEqual([null, 0, 0, 1, 20])
  })
  test('the farther from its best place, the less it hears; the best is within 1.5 mm of the rule', () => {
    const at = (off_mm: number) => meanSignal(go(clampOn(), 10, { kind: 'place', off_mm }), 100)
    const heard = [-12, -6, 0, 6, 12].map(at)
    expect(heard[2]).toBeGreaterThan(60)
    expect(Math.max(heard[0] ?? 99, heard[4] ?? 99)).toBeLessThan(20)
    expect(heard[1]).toBeLessThan(heard[2] ?? 0)
    expect(heard[3]).toBeLessThan(heard[2] ?? 0)
    // Three places make a parabola; its top is the best place.
    const [a = 0, b = 0, c = 0] = [-3, 0, 3].map((off) => Math.log(at(off)))
    const top = (3 * (a - c)) / (2 * (a - 2 * b + c))
    expect(at(top)).toBeGreaterThan((heard[2] ?? 0) - 0.2)
    expect(Math.abs(top)).toBeLessThan(2)
    expect(refused(clampOn(), 10, { kind: 'place', off_mm: 30 })).toMatch(/rail ends 20 mm/)
  })
  test('what is built in needs no start', () => {
    const d = go(exact(10, 'bar', { family: 'pressure' }), 1, ...OPEN)
    expect(refused(d, 2, { kind: 'start' })).toMatch(/needs no start/)
    expect(refused(d, 2, { kind: 'place', off_mm: 1 })).toMatch(/no sensor that could be moved/)
  })
})

const PLATE: Typed = {
  memoryLost: true,
  bore_mm: 25,
  flowFactor_certificate: '31.842',
  flowFactor_name: 'F1',
  driveFrequency_certificate: '87.5',
  driveFrequency_name: 'f0',
}
const coriolis = (told: Typed, keyed: Record<string, string> = {}) => {
  const d = exact(20_000, 'kg/h', { family: 'coriolis', told })
  return { ...d, applied: { ...d.applied, keyed }, working: { ...d.working, keyed } }
}

describe('a lost memory', () => {
  test('takes the lines of the plate and what hangs on them, and leaves the rest', () => {
    const lost = familyOf('coriolis')?.device.lost?.(PLATE) ?? null
    expect(lost?.vital).toEqual(['Tube bore', 'F1', 'f0'])
    const left = afterLoss(
      { 'Tube bore': '25 mm', F1: '31.842', 'Flow direction': 'forward', Damping: '1 s' },
      lost,
    )
    expect(left).toEqual({ Damping: '1 s' })
    expect(missingLines({ F1: ' ', f0: '87.5' }, lost)).toEqual(['Tube bore', 'F1'])
    expect(familyOf('coriolis')?.device.lost?.({ ...PLATE, memoryLost: false })).toBeNull()
  })
  test('it measures nothing, checks nothing, and holds its alarm until its plate is keyed in', () => {
    const d = go(coriolis(PLATE), 1, ...OPEN)
    expect(readStandIn(d, 5)).toMatchObject({ PV: 0, measures: false })
    expect(readStandIn(d, 5).mA).toBeCloseTo(3.6, 1)
    expect(alertsOf(d, 5).find((a) => a.code === 'MEMORY_LOST')?.says).toMatch(/Tube bore, F1, f0/)
    expect(refused(d, 5, { kind: 'healthCheck', output: 'held' })).toMatch(/measures nothing/)
    expect(refused(d, 5, { kind: 'adjust', adjustment: { kind: 'zeroTrim' } })).toMatch(/measures nothing/)
    const keyed = go(d, 6, { kind: 'keyIn', lines: { 'Tube bore': '25', F1: '31.842', f0: '87.5' } })
    expect(readStandIn(keyed, 100).PV).toBeCloseTo(11_000, 0)
    expect(isStored(keyed)).toBe(false)
  })
  test('not stored, it is lost again with the supply', () => {
    const keyed = go(coriolis(PLATE), 1, ...OPEN, {
      kind: 'keyIn',
      lines: { 'Tube bore': '25', F1: '31.842', f0: '87.5' },
    })
    const off: Parameters<typeof go>[2][] = [
      { kind: 'power', on: false },
      { kind: 'power', on: true },
    ]
    expect(measures(go(keyed, 10, ...off))).toBe(false)
    expect(measures(go(go(keyed, 10, { kind: 'store' }), 20, ...off))).toBe(true)
  })
  const factors: readonly [keyed: string, shows: number][] = [
    ['31.842', 11_000],
    ['31.84', (11_000 * 31.84) / 31.842],
    ['3.1842', 1_100],
    ['31,842', 11_000],
  ]
  test.each(factors)('with the factor keyed in as %s it shows %d kg/h of a true 11 000', (F1, shows) => {
    const d = coriolis(PLATE, { 'Tube bore': '25', F1, f0: '87.5' })
    expect(readStandIn(d, 100).PV).toBeCloseTo(shows, 0)
    expect(signal(d, 100, 'flowFactor')).toBeCloseTo(keyedNumber({ F1 }, 'F1'), 6)
  })
})

describe('what was keyed in is what it reckons with', () => {
  const at = (family: string, unit: string, high: number, told: Typed, keyed: Record<string, string>) => {
    const d = exact(high, unit, { family, told })
    const as = (k: Record<string, string>) => ({ ...d, applied: { ...d.applied, keyed: k }, started: true })
    return readStandIn(as(keyed), 300).PV - readStandIn(as({}), 300).PV + 0.55 * high
  }
  const PIPE = { by: 'od', od_mm: 219.1, wall_mm: 8.18, traverses: '2', flow_m3h: 200 }
  const DUCT = { od_mm: 273, wall_mm: 9.27, n: 7, fs_kgh: 2400 }
  test.each<[why: string, family: string, unit: string, high: number, told: Typed, keyed: Record<string, string>, shows: number]>([
    ['as it is', 'clamp-on', 'm3/h', 200, PIPE, { 'Pipe outside diameter': '219.10 mm', 'Pipe wall': '8.18 mm', Traverses: '2' }, 110],
    ['the same in inches', 'clamp-on', 'm3/h', 200, PIPE, { 'Pipe outside diameter': '8.62598 in', 'Pipe wall': '8.18 mm' }, 110],
    // (688.3 − 16.36) / (219.1 − 16.36) = 3.3143
    ['the circumference', 'clamp-on', 'm3/h', 200, PIPE, { 'Pipe outside diameter': '688.3 mm', 'Pipe wall': '8.18 mm' }, 364.57],
    ['no wall', 'clamp-on', 'm3/h', 200, PIPE, { 'Pipe outside diameter': '219.1 mm', 'Pipe wall': '0 mm' }, 118.88],
    ['four traverses for two', 'clamp-on', 'm3/h', 200, PIPE, { Traverses: '4' }, 55],
    // (273 / 254.46)² = 1.1510
    ['the outside diameter for the bore', 'thermal', 'kg/h', 2400, DUCT, { 'Pipe bore': '273.00 mm' }, 1519.4],
    ['another profile', 'thermal', 'kg/h', 2400, DUCT, { 'Profile factor': '0.4083' }, 660],
    ['an empty distance 10 cm too long', 'level-from-above', 'm', 4, { empty_m: 5, full_m: 1 }, { 'Empty distance': '5.1 m' }, 2.3],
    ['the same on a range in percent: 100 % has become 4.1 m', 'level-from-above', '%', 100, { empty_m: 5, full_m: 1 }, { 'Empty distance': '5.1 m' }, (55 * 4 + 10) / 4.1],
    ['the same where distances go out', 'level-from-above', 'm', 4, { empty_m: 5, full_m: 1, points: 'distance' }, { 'Empty distance': '5.1 m' }, 2.2],
  ])('%s', (_, family, unit, high, told, keyed, shows) => {
    expect(at(family, unit, high, told, keyed) / shows).toBeCloseTo(1, 3)
  }) // prettier-ignore
})

describe('a calibrator in the transmitter’s place', () => {
  test('it gives what it is told, the link is silent, and the transmitter comes back', () => {
    const d = go(exact(10, 'bar'), 1, { kind: 'source', mA: 12 })
    expect(readStandIn(d, 2).mA).toBeCloseTo(12, 2)
    expect(refused(d, 2, { kind: 'connect', port: 'A' })).toMatch(/calibrator stands in the loop/)
    expect(refused(d, 2, { kind: 'meter', meter: 'multimeter' })).toMatch(/put the transmitter back/)
    const back = go(d, 3, { kind: 'source', mA: null })
    expect(readStandIn(back, 4).mA).toBeCloseTo(4 + 16 * 0.55, 1)
  })
  test('a multimeter only reads, and nothing gives 30 mA', () => {
    const d = go(exact(10, 'bar'), 1, { kind: 'meter', meter: 'multimeter' })
    expect(refused(d, 2, { kind: 'source', mA: 12 })).toMatch(/only reads/)
    expect(refused(exact(10, 'bar'), 2, { kind: 'source', mA: 30 })).toMatch(/0 to 24/)
    expect(refused(exact(10, 'bar'), 2, { kind: 'source', mA: null })).toMatch(/is in the loop/)
  })
})

describe('a health check knows what it was told', () => {
  test('what was changed since can be said', () => {
    const d = go(exact(80, 'mbar', { family: 'pressure' }), 1, ...OPEN)
    const checked = settled(go(d, 2, { kind: 'healthCheck', output: 'held' }), 200)
    expect(checked.checks[0]?.told).toMatchObject({ LRV: 0, URV: 80 })
  })
})
