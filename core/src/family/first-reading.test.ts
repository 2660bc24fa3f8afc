import { describe, expect, test } from 'vitest'
import { codes, compute } from './test/through-form.ts'

describe('a first reading that nobody entered', () => {
  test.each([
    'clamp-on',
    'coriolis',
    'thermal',
    'orifice',
    'level-from-above',
    'guided-wave',
    'pressure',
    'temperature',
  ])('%s: chosen and left as it stood it is not good', (family) => {
    const r = compute(family, { compared: 'yes' })
    expect(codes(r)).not.toContain('READING_AGREES')
    expect(r.findings.map((f) => f.code)).toContain('READING_NOT_ENTERED')
  })
  test('a retractor is not good by a strength or a travel that nobody entered', () => {
    expect(codes(compute('thermal', { restraint: 'cable' }))).not.toContain('RESTRAINT_HOLDS')
    const r = compute('thermal', { restraint: 'retractor', rated_N: 1000, stackBy: 'pieces' })
    expect(codes(r)).not.toContain('RESTRAINT_HOLDS')
    expect(r.findings.find((f) => f.code === 'TRAVEL_NOT_JUDGED')?.says).toContain('Not judged')
  })
})
