import { describe, expect, test } from 'vitest'
import { channelSignals, type Carried, type Channel } from './channel-plan.ts'
import { compute, codes, known } from './test/through-form.ts'

const PIPE = { upstream_D: 30, flow_m3h: 360 }
const sheet = (values: object) =>
  compute('clamp-on', { ...PIPE, ...values })
    .sheet.filter((l) => l.part === 'Outputs and inputs')
    .map((l) => `${l.says}: ${l.value}`)

describe('a plan of channels', () => {
  test('without one the sheet has the current output alone', () =>
    expect(sheet({})).toEqual(['Flow at 20 mA: 360 m³/h actual']))
  test('each used channel is a line; the first that is not used ends it', () => {
    expect(
      sheet({
        ch1: 'passive', ch2: 'pulse', ch2_pulse_m3: 0.5, ch2_width_ms: 20, ch3: 'relay', ch3_acts: 'reverse', ch5: 'relay',
      }), // prettier-ignore
    ).toEqual([
      'Channel 1: current output, passive: flow, 0 to 360 m³/h',
      'Channel 2: a pulse of 20 ms every 0.5 m³',
      'Channel 3: relay: flow in reverse',
    ])
  })
  test.each([
    [{}, 'four-wire-active'],
    [{ ch1: 'active' }, 'four-wire-active'],
    [{ ch1: 'passive' }, 'four-wire-passive'],
    [{ ch1: 'relay', ch2: 'passive' }, 'four-wire-passive'],
  ])('%j stands on the Wire bench as %s', (values, kind) => {
    expect(known('clamp-on').parts({ ...PIPE, ...values }).sender.kind).toBe(kind)
  })
  test.each<[string, object, string]>([
    ['litres for cubic metres', { ch1: 'pulse', ch1_pulse_m3: 0.001, ch1_width_ms: 50 }, 'PULSES_TOO_FAST'],
    ['one pulse a day', { ch1: 'pulse', ch1_pulse_m3: 9000 }, 'PULSES_TOO_SLOW'],
    ['a frequency above the counter', { ch1: 'frequency', ch1_top_Hz: 10_000 }, 'FREQUENCY_TOO_HIGH'],
    ['heat from one temperature', { ch1: 'temperature', ch1_reads: 'supply' }, 'HEAT_NEEDS_BOTH'],
  ])('%s is told', (_what, values, code) => {
    expect(codes(compute('clamp-on', { ...PIPE, ...values }))).toContain(code)
  })
  test.each<[string, object, string, string]>([
    [
      'sound speed without its ends',
      { ch1: 'active', ch1_source: 'speed' },
      'CHANNEL_RANGE_UNTOLD',
      'current output, active: sound speed, range not told',
    ],
    [
      'a relay without its points',
      { ch1: 'relay', ch1_acts: 'high' },
      'CHANNEL_POINT_UNTOLD',
      'relay: flow above its point',
    ],
    [
      'where it lets go is not told',
      { ch1: 'relay', ch1_acts: 'high', ch1_point: 300 },
      'CHANNEL_POINT_UNTOLD',
      'relay: flow above its point',
    ],
    [
      'its points exchanged',
      { ch1: 'relay', ch1_acts: 'high', ch1_point: 300, ch1_back: 310 },
      'CHANNEL_POINTS_CROSSED',
      'relay: flow above its point, on at 300 m³/h, off at 310 m³/h',
    ],
    [
      'a point above the largest flow',
      { ch1: 'relay', ch1_acts: 'low', ch1_point: 380, ch1_back: 400 },
      'CHANNEL_POINT_OUTSIDE',
      'relay: flow below its point, on at 380 m³/h, off at 400 m³/h',
    ],
  ])('%s: told, and on the sheet', (_what, values, code, line) => {
    expect(codes(compute('clamp-on', { ...PIPE, ...values }))).toContain(code)
    expect(sheet(values)).toEqual([`Channel 1: ${line}`])
  })
  test('told whole, nothing is said against it', () => {
    const told = { ch1: 'passive', ch1_source: 'speed', ch1_from: 1400, ch1_to: 1600 }
    const relay = { ch2: 'relay', ch2_acts: 'low', ch2_point: 20, ch2_back: 25 }
    const found = codes(compute('clamp-on', { ...PIPE, ...told, ...relay }))
    expect(found.filter((c) => c.startsWith('CHANNEL'))).toEqual([])
    expect(sheet(told)).toEqual(['Channel 1: current output, passive: sound speed, 1400 to 1600 m/s'])
  })
  const AT = {
    ...{ share: 0.5, flow_m3h: 360, speed_m_s: 1450, signal_pct: 80, velocity_m_s: 2 },
    ...{ temperature_C: 20, measures: true },
  }
  const of = 1
  test.each<[string, Channel, Partial<Carried>, number | undefined]>([
    ['flow', { kind: 'active', of, source: 'flow', range: null }, {}, 12],
    ['sound speed', { kind: 'active', of, source: 'speed', range: { from: 1400, to: 1600 } }, {}, 8],
    ['signal, falling', { kind: 'active', of, source: 'signal', range: { from: 100, to: 0 } }, {}, 7.2],
    ['past its end', { kind: 'active', of, source: 'velocity', range: { from: 0, to: 1 } }, {}, 20.5],
    ['its range untold', { kind: 'active', of, source: 'speed', range: null }, {}, undefined],
    ['not measured', { kind: 'active', of, source: 'speed', range: { from: 0, to: 1 } }, { measures: false }, undefined],
    ['a frequency', { kind: 'frequency', of, source: 'velocity', range: { from: 0, to: 4 }, top_Hz: 1000 }, {}, 500],
    ['high, above its point', { kind: 'relay', of, acts: 'high', points: { on: 180, off: 170 } }, {}, 1],
    ['high, below', { kind: 'relay', of, acts: 'high', points: { on: 181, off: 170 } }, {}, 0],
    ['low, below its point', { kind: 'relay', of, acts: 'low', points: { on: 200, off: 210 } }, {}, 1],
    ['low, nothing measured', { kind: 'relay', of, acts: 'low', points: { on: 200, off: 210 } }, { measures: false }, 0],
    ['points untold', { kind: 'relay', of, acts: 'low', points: null }, {}, undefined],
    ['a fault', { kind: 'relay', of, acts: 'fault', points: null }, { measures: false }, 1],
  ])('%s', (_what, channel, at, value) => {
    expect(channelSignals([channel], { ...AT, ...at })[0]?.value).toBe(value)
  }) // prettier-ignore
  test('a pulse of half the period is the widest', () => {
    // 360 m³/h is 0.1 m³/s: a pulse every 1 m³ comes every 10 s.
    const at = (ch1_width_ms: number) =>
      codes(compute('clamp-on', { ...PIPE, ch1: 'pulse', ch1_pulse_m3: 1, ch1_width_ms }))
    expect(at(5000)).not.toContain('PULSES_TOO_FAST')
    expect(at(5001)).toContain('PULSES_TOO_FAST')
  })
})

describe('film for gas', () => {
  const GAS = {
    nps: '6',
    fluid: 'natural_gas',
    t_C: 21,
    gauge_kPa: 900,
    flow_m3h: 400,
    upstream_D: 30,
    frequency_MHz: 0.2,
  }
  test.each<[string, object, string]>([
    ['none', { filmLayers: 0 }, 'FILM_MISSING'],
    ['thin', { filmLayers: 2, film_mm: 1 }, 'FILM_THIN'],
    ['one layer’s thickness for all', { filmLayers: 20, film_mm: 0.5 }, 'FILM_LAYERS'],
    ['enough', { filmLayers: 5, film_mm: 2.5 }, 'FILM_ENOUGH'],
  ])('%s: told', (_what, values, code) => {
    expect(codes(compute('clamp-on', { ...GAS, ...values }))).toContain(code)
  })
  test('it stands on the sheet before the sensors', () => {
    const says = compute('clamp-on', { ...GAS, filmLayers: 5, film_mm: 2.5 }).sheet.map((l) => l.says)
    expect(says.indexOf('Damping film')).toBe(says.indexOf('Sensors') - 1)
  })
  test('two paths ask for a pair each', () => {
    const two = { ...GAS, filmLayers: 5, film_mm: 2.5, paths: '2', serialA: '1A', serialB: '1B' }
    expect(codes(compute('clamp-on', { ...two, serialA2: '1A', serialB2: '1B' }))).toContain(
      'PATHS_SHARE_PAIR',
    )
    expect(codes(compute('clamp-on', { ...two, serialA2: '2A', serialB2: '3B' }))).toContain('PAIR_MIXED')
    expect(codes(compute('clamp-on', { ...two, serialA2: '2A', serialB2: '2B' }))).not.toContain(
      'PATHS_SHARE_PAIR',
    )
  })
  test('a liquid asks for none', () => {
    expect(
      compute('clamp-on', {})
        .findings.map((f) => f.code)
        .join(),
    ).not.toContain('FILM')
  })
})
