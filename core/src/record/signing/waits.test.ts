import { describe, expect, test } from 'vitest'
import { canGive, waitsFor } from './waits.ts'

test.each<
  [kind: 'verification' | 'procedure', state: string, there: number, asked: number, waits: string | null]
>([
  ['verification', 'asFound', 0, 2, null],
  ['verification', 'asLeft', 0, 2, null],
  ['verification', 'ready', 0, 2, 'performed'],
  ['verification', 'ready', 0, 1, 'performed'],
  ['verification', 'signed', 1, 2, 'reviewed'],
  ['verification', 'signed', 1, 1, null],
  ['verification', 'countersigned', 2, 2, null],
  ['verification', 'countersigned', 2, 3, 'reviewed'],
  ['procedure', 'running', 0, 2, null],
  ['procedure', 'done', 0, 2, null],
  ['procedure', 'done', 1, 2, 'reviewed'],
  ['procedure', 'aborted', 1, 2, 'reviewed'],
  ['procedure', 'done', 2, 2, null],
])('a %s that is %s, with %i of %i signatures, waits for %s', (kind, state, there, asked, waits) => {
  expect(waitsFor({ kind, state }, there, asked)).toBe(waits)
})

describe('who can give it', () => {
  const person = (role: 'technician' | 'reviewer' | 'viewer' | 'administrator', more = {}) => ({
    id: 'p',
    role,
    areas: [] as string[],
    areaRoles: {},
    ...more,
  })
  test.each([
    ['a technician signs what is done', 'performed', person('technician'), [], true],
    ['a viewer signs nothing', 'performed', person('viewer'), [], false],
    ['an administrator signs nothing', 'performed', person('administrator'), [], false],
    ['a technician reviews nothing', 'reviewed', person('technician'), ['x'], false],
    ['a reviewer reviews', 'reviewed', person('reviewer'), ['x'], true],
    ['but not what the reviewer signed', 'reviewed', person('reviewer'), ['p'], false],
    ['nor what a package says this person signed', 'reviewed', person('reviewer'), ['foreign:p'], false],
    ['a reviewer of another area', 'reviewed', person('reviewer', { areas: ['B'] }), ['x'], false],
    [
      'a technician who reviews in this area',
      'reviewed',
      person('technician', { areaRoles: { A: 'reviewer' } }),
      ['x'],
      true,
    ],
  ] as const)('%s', (_, waits, who, signedBy, can) => {
    expect(canGive(waits, who, 'A', signedBy)).toBe(can)
  })
})
