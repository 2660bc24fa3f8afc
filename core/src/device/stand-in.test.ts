import { describe, expect, test } from 'vitest'
import { stabilityOf } from '../verify/stability.ts'
import { needsPasscode, type DeviceCommand } from './command.ts'
import { command, PASSCODE } from './commands.ts'
import { go, OPEN, refused } from './test/at-device.ts'
import { backup, loadDifferences } from './configuration.ts'
import { FAMILIES } from '../family/index.ts'
import {
  alertsOf,
  isStored,
  readStandIn,
  relaysAt,
  samplesOf,
  settled,
  signalsAt,
  standardShows,
  standIn,
  taskAt,
  type StandIn,
} from './stand-in.ts'
import { usualRelay } from '../signal/relay-plan.ts'
import { transmitter } from '../transmitter/transmitter.ts'

const make = (more: Partial<StandIn> = {}) =>
  standIn(
    20317,
    transmitter({ LSL: -20, USL: 160, kind: 'differential' }, { z: 0.62, zo: 0.021 }, 0, 80),
    more,
  )
describe('a stand-in device', () => {
  test('the same moment reads the same, however often; another seed scatters otherwise', () => {
    const d = make()
    expect(readStandIn(d, 12.3)).toEqual(readStandIn(d, 12.3))
    expect(readStandIn(d, 12.3).PV).not.toBe(readStandIn(make({ seed: 5 }), 12.3).PV)
  })
  test('an applied input is reached after a while and then stands still', () => {
    const d = go(make(), 100, { kind: 'apply', value: 40 })
    const near = samplesOf(d, 101, 8).map((r): [number, number] => [r.t_s, r.PV])
    expect(stabilityOf(near, 0.8, 0.4).stable).toBe(false)
    const later = samplesOf(d, 130, 60).map((r): [number, number] => [r.t_s, r.PV])
    const s = stabilityOf(later, 0.8, 0.4)
    expect(s.stable).toBe(true)
    expect(s.mean).toBeCloseTo(40.62, 2)
  })
  test('a zero trim is right at once and gone after a power cycle, unless it was stored', () => {
    const trimmed = go(make(), 100, { kind: 'apply', value: 0 }, ...OPEN)
    const done = go(trimmed, 160, { kind: 'adjust', adjustment: { kind: 'zeroTrim' } })
    expect(readStandIn(done, 161).PV).toBeCloseTo(0, 1)
    expect(isStored(done)).toBe(false)
    const cycle: DeviceCommand[] = [
      { kind: 'power', on: false },
      { kind: 'power', on: true },
    ]
    expect(readStandIn(go(done, 170, ...cycle), 180).PV).toBeCloseTo(0.62, 1)
    const kept = go(done, 165, { kind: 'store' })
    expect(isStored(kept)).toBe(true)
    expect(readStandIn(go(kept, 170, ...cycle), 180).PV).toBeCloseTo(0, 1)
  })
  const refusals: readonly [why: string, d: StandIn, c: DeviceCommand, says: RegExp][] = [
    ['no supply', make({ powered: false }), { kind: 'connect', port: 'A' }, /no supply/],
    ['no resistor in the loop', make({ loop_ohm: 100 }), { kind: 'connect', port: 'A' }, /below 230 Ω/],
    [
      'the port after replugging',
      make({ port: 'B' }),
      { kind: 'connect', port: 'A' },
      /Nothing is plugged in here/,
    ],
    ['no link', make(), { kind: 'store' }, /connect first/],
    ['locked', go(make(), 1, { kind: 'connect', port: 'A' }), { kind: 'store' }, /locked/],
    ['far too much pressure', make(), { kind: 'apply', value: 900 }, /damage/],
  ]
  test.each(refusals)('%s is told', (_why, d, c, says) => expect(refused(d, 10, c)).toMatch(says))
  test('a trim with the input still on is refused by the device itself', () => {
    const d = go(make(), 100, { kind: 'apply', value: 30 }, ...OPEN)
    expect(refused(d, 160, { kind: 'adjust', adjustment: { kind: 'zeroTrim' } })).toMatch(
      /10 % of the sensor/,
    )
  })
  test('what changes it asks for the passcode, what only looks or is done at the tool does not', () => {
    const linked = go(make(), 1, { kind: 'connect', port: 'A' })
    const all: readonly DeviceCommand[] = [
      { kind: 'store' },
      { kind: 'revert' },
      { kind: 'applySettings' },
      { kind: 'adjust', adjustment: { kind: 'zeroTrim' } },
      { kind: 'healthCheck', output: 'held' },
      { kind: 'readAll' },
      { kind: 'markAsFound' },
      { kind: 'apply', value: 0 },
      { kind: 'meter', meter: 'calibrator' },
    ]
    const locked = all.filter((c) => /locked/.test(refused(linked, 10, c) ?? ''))
    expect(locked).toEqual(all.filter(needsPasscode))
    expect(locked).toHaveLength(5)
  })
  test('three wrong passcodes lock it for a minute', () => {
    let d = go(make(), 0, { kind: 'connect', port: 'A' })
    for (let i = 0; i < 3; i++) d = command(d, i, { kind: 'unlock', passcode: '0000' }, `wrong ${i}`).device
    expect(refused(d, 5, { kind: 'unlock', passcode: PASSCODE })).toMatch(/Locked after 3/)
    expect(refused(d, 70, { kind: 'unlock', passcode: PASSCODE })).toBeNull()
  })
  test('a command that comes twice is done once', () => {
    const d = go(make(), 100, { kind: 'apply', value: 0 }, ...OPEN)
    const c: DeviceCommand = { kind: 'adjust', adjustment: { kind: 'lowerTrim', applied: 1 } }
    const once = command(d, 160, c, 'same').device
    const twice = command(once, 161, c, 'same').device
    expect(twice.transmitter.state).toEqual(once.transmitter.state)
  })
  test('edited, applied and stored are three different things', () => {
    const d = go(make(), 10, ...OPEN, { kind: 'write', settings: { damping_s: 4 } })
    expect([d.working.damping_s, d.applied.damping_s]).toEqual([4, 0.8])
    const a = go(d, 11, { kind: 'applySettings' })
    expect([a.applied.damping_s, a.stored.settings.damping_s, isStored(a)]).toEqual([4, 0.8, false])
  })
  test('a full read takes its time', () => {
    const d = go(make(), 10, ...OPEN, { kind: 'readAll' })
    expect(taskAt(d, 69)?.kind).toBe('readAll')
    expect(taskAt(d, 500)).toBeNull()
  })
  test('a copy leaves the characterization out; a backup of another sensor is told', () => {
    const [a, b] = [make(), make({ seed: 99, applied: { ...make().applied, characterization: '842508' } })]
    expect(backup(a, 'copy').settings).not.toHaveProperty('characterization')
    expect(loadDifferences(backup(b, 'backup'), backup(a, 'copy')).otherSensor).toBe(false)
    expect(loadDifferences(backup(b, 'backup'), backup(a, 'backup')).otherSensor).toBe(true)
  })
  test('a read that takes too long is given up; another one at the same time is not begun', () => {
    const d = go(make(), 10, ...OPEN, { kind: 'readAll' })
    expect(refused(d, 12, { kind: 'readAll' })).toMatch(/busy/)
    const given = go(d, 12, { kind: 'cancel' })
    expect(taskAt(given, 13)).toBeNull()
    expect(refused(given, 14, { kind: 'cancel' })).toMatch(/Nothing is under way/)
  })
  test('an address that another device has is refused and free ones are named', () => {
    const d = go(make(), 10, ...OPEN)
    expect(refused(d, 11, { kind: 'write', settings: { address: 2 } })).toMatch(/taken.*Free: 0, 3, 4/)
    expect(go(d, 11, { kind: 'write', settings: { address: 3 } }).working.address).toBe(3)
  })
  test('the way back writes as found back and stores it', () => {
    const open = go(make(), 100, { kind: 'apply', value: 0 }, ...OPEN, { kind: 'markAsFound' })
    const trimmed = go(open, 160, { kind: 'adjust', adjustment: { kind: 'zeroTrim' } }, { kind: 'store' })
    const back = go(trimmed, 161, { kind: 'revert' })
    expect(back.transmitter.state).toEqual(open.transmitter.state)
    expect([isStored(back), back.history.trims]).toEqual([true, 1])
    expect(refused(go(make(), 1, ...OPEN), 2, { kind: 'revert' })).toMatch(/No as-found/)
  })
})

describe('families', () => {
  describe.each(FAMILIES.map((f) => [f.id, f.device] as const))('%s', (id, family) => {
    const unit = id === 'ph' ? 'pH' : id === 'temperature' ? 'degC' : 'm'
    const device = (more: Partial<StandIn> = {}) =>
      standIn(4711, transmitter({ LSL: -10, USL: 20 }, {}, 0, 10), { family: id, unit, ...more })
    test('a sound one is quiet over the whole range and says the same of the same moment', () => {
      for (const value of [0, 5, 10]) {
        const d = device({ process: value, motion: { ...device().motion, from: value, to: value } })
        expect(alertsOf(d, 50)).toEqual([])
        expect(signalsAt(d, 50)).toEqual(signalsAt(d, 50))
        expect(signalsAt(d, 50).every((s) => Number.isFinite(s.value))).toBe(true)
      }
    })
    test('its reading comes to rest within the time of a patient technician', () => {
      const value = id === 'ph' ? 4.01 : 8
      const d = go(device(), 100, { kind: 'apply', value })
      const rest = samplesOf(d, 100 + 12 + 8 * family.damping_s, 40).map((r): [number, number] => [
        r.t_s,
        r.PV,
      ])
      const s = stabilityOf(rest, Math.min(family.damping_s, 2.5), 0.5)
      expect(s.stable).toBe(true)
      expect(s.mean).toBeCloseTo(standardShows(d, 140) ?? NaN, 1)
    })
    test('a health check holds the output and ends with what it saw', () => {
      const d = go(device(), 10, ...OPEN, { kind: 'healthCheck', output: 'alarm' })
      expect(readStandIn(d, 20).mA).toBeCloseTo(3.6, 2)
      expect(refused(d, 20, { kind: 'store' })).toMatch(/self-check/)
      const after = settled(d, 11 + family.healthCheck_s)
      expect(after.checks.map((c) => c.signals.map((x) => x.name))).toEqual([
        signalsAt(d, 10).map((x) => x.name),
      ])
      expect(readStandIn(after, 20 + family.healthCheck_s).mA).toBeGreaterThan(4)
    })
  })
  test('a worn one tells before it fails', () => {
    const worn = standIn(1, transmitter({ LSL: 0, USL: 10 }, {}, 0, 10), {
      family: 'level-from-above',
      unit: 'm',
      wear: 2,
    })
    expect(
      alertsOf(worn, 5)
        .map((a) => a.says)
        .join(),
    ).toMatch(/Echo is .* below 30/)
  })
})

describe('tools', () => {
  const pump = (value: number) =>
    go(standIn(7, transmitter({ LSL: -100, USL: 100 }, {}, 0, 80), { family: 'pressure' }), 100, {
      kind: 'apply',
      value,
    })
  test('a hand pump misses the number a little and leaks a little; vented it is zero', () => {
    const d = pump(40)
    const [first, later] = [standardShows(d, 106) ?? NaN, standardShows(d, 160) ?? NaN]
    expect(Math.abs(first - 40)).toBeLessThan(0.04)
    expect(first).toBeGreaterThan(later)
    expect(standardShows(pump(0), 120)).toBe(0)
  })
  test('there are only the bottles that there are', () => {
    const d = standIn(7, transmitter({ LSL: 0, USL: 14 }, {}, 4, 10), { family: 'ph' })
    expect(refused(d, 1, { kind: 'apply', value: 5 })).toMatch(/no such bottle/)
    expect(refused(d, 1, { kind: 'apply', value: 6.86 })).toBeNull()
  })
  test('a coarse meter shows fewer digits than a calibrator', () => {
    const d = pump(33.333)
    const coarse = go(d, 101, { kind: 'meter', meter: 'multimeter' })
    const mA = readStandIn(coarse, 130).mA
    expect(mA * 1000).toBeCloseTo(Math.round(mA * 1000), 6)
    expect(readStandIn(coarse, 130).PV).toBe(readStandIn(d, 130).PV)
  })
})

describe('a trip controller', () => {
  const plan = {
    ...usualRelay('High', 0, 100),
    trip: { kind: 'points', onAt: 60, offAt: 58, same: 'rising' },
  } as const
  const relay = { plan, off: 0.2 }
  const d = standIn(3, transmitter({ LSL: -20, USL: 120 }, {}, 0, 100), { relays: [relay] })
  const tripped = (x: StandIn, t: number) => relaysAt(x, t)[0]?.energised
  test('it trips on the way up and resets below its deadband on the way down', () => {
    const up = go(d, 100, { kind: 'apply', value: 55 }, { kind: 'apply', value: 65, over_s: 40 })
    const at = Array.from({ length: 60 }, (_, i) => tripped(up, 100 + i))
    const first = at.indexOf(true)
    expect(first).toBeGreaterThan(10)
    expect(at.slice(first).every(Boolean)).toBe(true)
    const down = go(up, 200, { kind: 'apply', value: 57, over_s: 40 })
    expect(tripped(down, 210)).toBe(true)
    expect(tripped(down, 240)).toBe(false)
  })
})
