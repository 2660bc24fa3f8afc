import { expect, describe, test } from 'vitest'
import { type Values, compute } from '../family/test/through-form.ts'
import { factsOf, type FactsOf } from './facts.ts'
import { rangeFinding } from './range-finding.ts'
import { judgeSetUp } from './set-up-findings.ts'
import { FAMILIES } from '../family/index.ts'
import type { Stage } from '../signal/stage.ts'

const transmitter = (low: number, high: number, unit: string): Stage[] => [
  { kind: 'transmitter', range: { low, high, unit }, transfer: { kind: 'linear' } },
]

describe('set-up against the signal path', () => {
  const told = (family: string, values: Values, path: Stage[], unconfirmed: string[] = []) => {
    const document: FactsOf = { family, setUp: { values }, path, tolerance: null, trips: [], unconfirmed }
    return rangeFinding(factsOf(document))
  }
  test('level or distance, both agree with a path that says the same', () => {
    const values = { empty_m: 1.45, full_m: 0.25, points: 'level' }
    expect(told('level-from-above', values, transmitter(1.45, 0.25, 'm'))).toBeNull()
    expect(told('level-from-above', values, transmitter(0, 1.2, 'm'))).toBeNull()
  })
  test('a distance told the other way round is named, with the fix', () => {
    const f = told(
      'level-from-above',
      { empty_m: 1.45, full_m: 0.25, points: 'distance' },
      transmitter(1.45, 0.25, 'm'),
    )
    expect(f?.code).toBe('SET_UP_REVERSED')
    expect(f?.fix?.set).toHaveLength(2)
  })
  test('other numbers are told, another quantity is not compared', () => {
    expect(told('temperature', { low_C: 0, high_C: 45 }, transmitter(5, 45, 'degC'))?.code).toBe(
      'SET_UP_RANGE_DIFFERS',
    )
    expect(told('temperature', { low_C: 5, high_C: 45 }, transmitter(41, 113, 'degF'))).toBeNull()
    expect(told('clamp-on', {}, transmitter(0, 900, 'Sm3/h'))).toBeNull()
  })
  test('a range that nobody typed is never offered to the path; the path is offered to the set-up', () => {
    const f = told('temperature', { sensor: 'pt100' }, transmitter(5, 45, 'degC'))
    expect(f?.code).toBe('SET_UP_RANGE_ASSUMED')
    expect(f?.fix?.set).toEqual([
      { path: 'setUp.values.low_C', value: 5 },
      { path: 'setUp.values.high_C', value: 45 },
    ])
    const guessed = told('temperature', { low_C: 0, high_C: 45 }, transmitter(5, 45, 'degC'), [
      'setUp.values.high_C',
    ])
    expect(guessed?.code).toBe('SET_UP_RANGE_ASSUMED')
  })
  test.each(FAMILIES.map((f) => [f.id]))('usual values alone are never called good: %s', (family) => {
    const document: FactsOf = {
      family,
      setUp: { values: {} },
      path: [],
      tolerance: null,
      trips: [],
      unconfirmed: [],
    }
    const findings = judgeSetUp(factsOf(document))?.findings ?? []
    expect(findings.map((f) => f.code)).toContain('NOT_JUDGED')
    expect(findings.filter((f) => f.severity === 'good')).toEqual([])
  })
  test('nothing live is nothing drawn as level', () => {
    expect(compute('guided-wave', {}).drawing?.says).not.toMatch(/surface/)
  })
})
