import { CATALOGUE, calculationNamed } from '@calm/core/catalogue'
import { describe, expect, test } from 'vitest'
import { compute, fieldsOf } from './use-calculation.ts'

const named = (name: string) => {
  const c = calculationNamed(name)
  if (!c) throw new Error(`no ${name}`)
  return c
}

test.each(CATALOGUE.map((c) => [c.name, c] as const))('%s computes from its form as it opens', (_name, c) => {
  const fields = fieldsOf(c)
  const typed = Object.fromEntries(fields.map((f) => [f.name, f.start]))
  expect(compute(c, fields, typed).kind).toBe('result')
})

describe('what is typed into a form', () => {
  const c = named('units.convert')
  const fields = fieldsOf(c)
  const sum = (typed: Record<string, string>) =>
    compute(c, fields, { value: '1', from: 'bar', to: 'kPa', p_baro: '101325', ...typed })
  test('a decimal comma counts', () => {
    expect(sum({ value: '1,5' })).toMatchObject({
      kind: 'result',
      rows: expect.arrayContaining([{ name: 'value', value: '150' }]) as object,
    })
  })
  test.each([
    ['a word', { value: 'one' }, 'value', /not a number/],
    ['a unit in the number', { value: '1 bar' }, 'value', /own field/],
    ['another dimension', { to: 'kg' }, 'to', /one cannot become the other/],
    ['nothing at all', { from: '' }, 'from', /./],
  ])('%s is told at its field', (_why, typed, at, says) => {
    const result = sum(typed)
    expect(result.kind === 'refused' && result.at.get(at)).toMatch(says)
  })
  test('data that is not closed is told', () => {
    const forward = named('signal.forward')
    const result = compute(forward, fieldsOf(forward), { chain: '{"lrv": 0,', value: '1' })
    expect(result.kind === 'refused' && result.at.get('chain')).toMatch(/must close/)
  })
})
