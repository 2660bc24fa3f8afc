import { describe, expect, test } from 'vitest'
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
