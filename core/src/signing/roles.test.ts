import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { AREA_ROLES, roleIn, ROLES, sayAreas, signsAnywhere, worksAs, type Roled } from './roles.ts'

const somebody = (p: Partial<Roled>): Roled => ({ role: 'technician', areas: [], areaRoles: {}, ...p })

describe('as what somebody works in an area', () => {
  test.each<[string, Partial<Roled>, string, string]>([
    ['everywhere the same', {}, 'Intake', 'technician'],
    ['in the area that is named', { areas: ['Intake'] }, 'Intake', 'technician'],
    ['elsewhere only looking', { areas: ['Intake'] }, 'Membranes', 'viewer'],
    ['another role in one area', { areaRoles: { Intake: 'reviewer' } }, 'Intake', 'reviewer'],
    ['which holds in no other', { areaRoles: { Intake: 'reviewer' } }, 'Membranes', 'technician'],
    ['less in one area', { role: 'reviewer', areaRoles: { Intake: 'viewer' } }, 'Intake', 'viewer'],
    ['beside the areas one works in', { areas: ['Intake'], areaRoles: { Dosing: 'reviewer' } }, 'Dosing', 'reviewer'],
    ['who looks on, at work in one', { role: 'viewer', areaRoles: { Dosing: 'technician' } }, 'Dosing', 'technician'],
    ['an administrator signs nowhere', { role: 'administrator', areaRoles: { Dosing: 'technician' } }, 'Dosing', 'administrator'],
    ['an area called like what every object has', { role: 'viewer' }, 'constructor', 'viewer'],
  ])('%s', (_, p, area, role) => {
    expect(roleIn(somebody(p), area)).toBe(role)
  }) // prettier-ignore
  test.each<[Partial<Roled>, string]>([
    [{}, 'everywhere'],
    [{ areas: ['Intake', 'Dosing'] }, 'Intake, Dosing'],
    [{ areaRoles: { Dosing: 'reviewer' } }, 'everywhere; reviewer in Dosing'],
  ])('in words: %o', (p, says) => {
    expect(sayAreas(somebody(p))).toBe(says)
  })
  test('is never more than was given', () => {
    fc.assert(
      fc.property(
        fc.record({
          role: fc.constantFrom(...ROLES),
          areas: fc.array(fc.constantFrom('a', 'b', 'c')),
          areaRoles: fc.dictionary(fc.constantFrom('a', 'b'), fc.constantFrom(...AREA_ROLES)),
        }),
        fc.constantFrom('a', 'b', 'c', 'd'),
        (p, area) => {
          const role = roleIn(p, area)
          expect([p.role, 'viewer', ...Object.values(p.areaRoles)]).toContain(role)
          expect(signsAnywhere(p) || !worksAs(role)).toBe(true)
          expect(p.role === 'administrator' && worksAs(role)).toBe(false)
        },
      ),
    )
  })
})
