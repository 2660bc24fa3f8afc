import { describe, expect, test } from 'vitest'
import { OwnPart, OwnParts, ownFrom, withParts } from './own-part.ts'
import { knownPart, NOTHING_WIRED, sayTerminal, Wiring, withCopy, withName, withWire } from './wiring.ts'

const OWN: OwnPart = {
  title: 'Brine transmitter',
  printed: { plus: '13', minus: '14' },
  kind: 'two-wire-transmitter',
  settings: { lift_V: 11 },
}
const two = (): Wiring => {
  const w = withParts(withParts(NOTHING_WIRED, OWN, '301'), 'supply', '301')
  return withWire(w, 'TX-301:plus', 'PS-301:plus')
}

describe('a part of the plant’s own', () => {
  test('stands on the bench with its name and its printed terminals, and works as its kind', () => {
    const w = two()
    const part = w.parts['TX-301']
    const known = part && knownPart('TX-301', part)
    expect([known?.kind.title, known?.s['lift_V']]).toEqual(['Brine transmitter', 11])
    expect(sayTerminal(w, 'TX-301:plus')).toBe('TX-301 13')
    expect(Wiring.safeParse(w).error).toBeUndefined()
    expect(part && ownFrom(part, 'Brine transmitter')).toEqual(OWN)
  })
  test.each([
    ['a kind that is none', { ...OWN, kind: 'flux' }, ['kind']],
    ['a label that cannot be', { ...OWN, settings: { lift_V: 400 } }, ['settings', 'lift_V']],
    ['a terminal that it has not', { ...OWN, printed: { x9: '1' } }, ['printed', 'x9']],
    ['something more', { ...OWN, price: 3 }, []],
  ])('%s is told at its place', (_what, own, path) =>
    expect(OwnPart.safeParse(own).error?.issues[0]?.path).toEqual(path),
  )
  test('no name stands twice', () =>
    expect(OwnParts.safeParse([OWN, OWN]).error?.issues[0]?.message).toBe(
      '“Brine transmitter” stands twice.',
    ))
  test('several at once get names one after the other', () =>
    expect(Object.keys(withParts(NOTHING_WIRED, 'lamp', '7', 3).parts)).toEqual(['H-7', 'H-7-2', 'H-7-3']))
})

describe('a part on the bench', () => {
  test('gets another name, and its wires come with it', () => {
    const w = withName(two(), 'TX-301', 'PT-301')
    if ('kind' in w) throw new Error(w.says)
    expect(Object.keys(w.parts)).toEqual(['PT-301', 'PS-301'])
    expect(Object.values(w.wires)[0]).toMatchObject({ from: 'PT-301:plus', to: 'PS-301:plus' })
  })
  test.each([
    ['1st', /a letter first/],
    ['PS-301', /There is a PS-301 already/],
    ['', /a letter first/],
  ])('“%s” is no name for it', (name, says) =>
    expect(withName(two(), 'TX-301', name)).toMatchObject({
      kind: 'refused',
      says: expect.stringMatching(says),
    }),
  )
  test('a copy has its label and its plate, and nothing landed', () => {
    const copy = withCopy(two(), 'TX-301')
    expect(copy?.name).toBe('TX-301-2')
    expect(copy?.wiring.parts['TX-301-2']).toEqual(two().parts['TX-301'])
    expect(Object.keys(copy?.wiring.wires ?? {})).toHaveLength(1)
    expect(withCopy(two(), 'none')).toBeNull()
  })
  test('stands where it is put', () => {
    const part = two().parts['PS-301']
    expect(part && knownPart('PS-301', { ...part, place: 'field' })?.kind.placeOf?.({})).toBe('field')
  })
})
