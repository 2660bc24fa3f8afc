import { PART_ID, type Wiring } from '../part/wiring.ts'
import { numberOf } from './connect/builder.ts'

/** What a loop's own words tell of its parts. */
export interface LoopWords {
  readonly tag: string
  readonly type: string
  readonly signal: string
  readonly shunt_ohm: number | null
}

type Parts = Wiring['parts']

/** A tag as the name of a part: only letters, digits, - and _, a letter first. */
export function partName(tag: string): string {
  const plain = tag.replace(/[^A-Za-z0-9_-]/g, '-').slice(0, 24)
  return PART_ID.test(plain) ? plain : `T-${plain}`.slice(0, 24)
}

/** Parts that a loop of this kind usually has: a place to start from, nothing is wired yet. */
export function suggestParts({ tag, type, signal, shunt_ohm }: LoopWords): Parts {
  const name = partName(tag)
  const n = numberOf(tag)
  const id = (prefix: string) => (n === '' ? `${prefix}-1` : `${prefix}-${n}`)
  const words = `${type} ${signal}`.toLowerCase()
  const has = (...any: string[]) => any.some((w) => words.includes(w))
  const supply: Parts = { [id('PS')]: { kind: 'supply', settings: {} } }
  const cable = (cores: number): Parts => ({ [id('W')]: { kind: 'cable', settings: { cores } } })
  if (has('switch', 'pnp', 'npn', 'namur', 'dry contact', 'float')) {
    const card = (type_: string, mode = 'sink'): Parts => ({
      [id('DI')]: { kind: 'digital-input', settings: { mode, type: type_ } },
    })
    const fn = / nc\b/.test(words) ? 'nc' : 'no'
    if (has('namur'))
      return {
        [name]: { kind: 'namur-sensor', settings: {} },
        ...cable(2),
        [id('SA')]: { kind: 'namur-amplifier', settings: {} },
        ...supply,
        ...card('1'),
      }
    if (has('float'))
      return { [name]: { kind: 'float-switch', settings: { fn } }, ...cable(2), ...supply, ...card('1') }
    if (has('magnetic', 'cylinder'))
      return {
        [name]: { kind: 'cylinder-switch', settings: { build: has('npn') ? 'npn' : 'pnp' } },
        ...cable(3),
        ...supply,
        ...card('3'),
      }
    if (has('pnp', 'npn', 'push'))
      return {
        [name]: {
          kind: 'proximity-three-wire',
          settings: { out: has('npn') ? 'npn' : has('pnp') ? 'pnp' : 'pp', fn },
        },
        ...cable(3),
        ...supply,
        ...card('3'),
      }
    if (has('2-wire'))
      return {
        [name]: { kind: 'proximity-two-wire', settings: { fn } },
        ...cable(2),
        ...supply,
        ...card('3'),
      }
    return { [name]: { kind: 'dry-contact', settings: { fn } }, ...cable(2), ...supply, ...card('1') }
  }
  const ai: Parts = {
    [id('AI')]: {
      kind: 'analogue-input',
      settings: shunt_ohm === null ? {} : { shunt_ohm, scaled_ohm: shunt_ohm },
    },
  }
  const fuse: Parts = { [id('F')]: { kind: 'fuse', settings: {} } }
  if (has('display'))
    return {
      [name]: { kind: 'two-wire-transmitter', settings: {} },
      ...cable(2),
      ...supply,
      [id('DC')]: { kind: 'digital-converter', settings: {} },
    }
  if (has('coriolis', 'clamp-on', 'thermal'))
    return {
      [name]: { kind: 'four-wire-active', settings: { fed: 'mains' } },
      ...cable(2),
      [id('Q')]: { kind: 'mains', settings: {} },
      ...ai,
    }
  return {
    [name]: { kind: 'two-wire-transmitter', settings: {} },
    ...cable(2),
    ...fuse,
    ...supply,
    ...ai,
  }
}
