import { describe, expect, test } from 'vitest'
import { stabilityOf } from '../verify/stability.ts'
import {
  backup,
  command,
  isStored,
  loadDifferences,
  PASSCODE,
  readProgress,
  readStandIn,
  samplesOf,
  standIn,
  type DeviceCommand,
  type StandIn,
} from './stand-in.ts'
import { transmitter } from './transmitter.ts'

const make = (more: Partial<StandIn> = {}) =>
  standIn(
    20317,
    transmitter({ LSL: -20, USL: 160, kind: 'differential' }, { z: 0.62, zo: 0.021 }, 0, 80),
    more,
  )
let n = 0
function go(d: StandIn, t: number, ...cs: DeviceCommand[]): StandIn {
  return cs.reduce((x, c) => {
    const { device, answer } = command(x, t, c, String(n++))
    if (!answer.ok) throw new Error(answer.says)
    return device
  }, d)
}
const refused = (d: StandIn, t: number, c: DeviceCommand) => {
  const { answer } = command(d, t, c, String(n++))
  return answer.ok ? null : answer.says
}
const OPEN: DeviceCommand[] = [
  { kind: 'connect', port: 'A' },
  { kind: 'unlock', passcode: PASSCODE },
]

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
    ['no resistor in the loop', make({ loop_ohm: 100 }), { kind: 'connect', port: 'A' }, /230 Ω or more/],
    ['the port after replugging', make({ port: 'B' }), { kind: 'connect', port: 'A' }, /plugged elsewhere/],
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
  test('three wrong passcodes lock it for a minute', () => {
    let d = go(make(), 0, { kind: 'connect', port: 'A' })
    for (let i = 0; i < 3; i++) d = command(d, i, { kind: 'unlock', passcode: '0000' }, String(n++)).device
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
    expect(readProgress(d, 70)).toBeCloseTo(0.5, 9)
    expect(readProgress(d, 500)).toBe(1)
  })
  test('a copy leaves the characterization out; a backup of another sensor is told', () => {
    const [a, b] = [
      make(),
      make({ seed: 99, applied: { ...make().applied, characterization: '31.8425.08' } }),
    ]
    expect(backup(a, 'copy').settings).not.toHaveProperty('characterization')
    expect(loadDifferences(b, backup(a, 'copy')).otherSensor).toBe(false)
    expect(loadDifferences(b, backup(a, 'backup')).otherSensor).toBe(true)
  })
})
