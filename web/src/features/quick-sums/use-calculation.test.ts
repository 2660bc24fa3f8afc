import { calculationNamed } from '@calm/core/catalogue'
import { describe, expect, test } from 'vitest'
import { useCalculation } from './use-calculation.ts'

const named = (name: string) => {
  const c = calculationNamed(name)
  if (!c) throw new Error(`no ${name}`)
  return useCalculation(c)
}

describe('what is typed into a form', () => {
  const sum = named('units.convert')
  const put = (typed: Record<string, string>) => {
    sum.typed.value = { value: '1', from: 'bar', to: 'kPa', p_baro: '101325', ...typed }
    return sum
  }
  test('a decimal comma counts', () => {
    expect(put({ value: '1,5' }).answer.value?.lines[0]).toMatchObject({ title: 'Value', value: '150' })
  })
  test.each([
    ['a word', { value: 'one' }, 'value', /not a number/],
    ['a unit in the number', { value: '1 bar' }, 'value', /unit stands beside/],
    ['another dimension', { to: 'kg' }, 'to', /one cannot become the other/],
  ])('%s is told at its field', (_why, typed, at, says) => {
    expect(put(typed).wrong.value.get(at)).toMatch(says)
    expect(sum.answer.value).toBeNull()
  })
  test('what is copied says what went in, in words', () => {
    expect(put({ value: '2' }).inWords()).toEqual([
      'Value: 2.',
      'From the unit: bar.',
      'To the unit: kPa.',
      'Barometric pressure: 101325 Pa.',
    ])
  })
  test('rows are said row by row', () => {
    expect(named('ph.calibrate').inWords()[0]).toBe(
      'Buffers that were read 1: Buffer: 4.005. Reading: 173.4 mV. Temperature: 21.4 °C.',
    )
  })
})
