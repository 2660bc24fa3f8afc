import type { UsualParts } from '../family/family.ts'
import type { LoopDocument } from '../loop/document.ts'
import { factsOf, type FactsOf } from '../loop/facts.ts'
import { PART_ID, type Wiring } from '../part/wiring.ts'
import { stageOf } from '../signal/stage.ts'
import { numberOf } from './connect/builder.ts'

type Parts = Wiring['parts']

/** A tag as the name of a part: only letters, digits, - and _, a letter first. */
export function partName(tag: string): string {
  const plain = tag.replace(/[^A-Za-z0-9_-]/g, '-').slice(0, 24)
  return PART_ID.test(plain) ? plain : `T-${plain}`.slice(0, 24)
}

/** A transmitter on the loop's own volts: what is taken where nobody has told what the loop is. */
const USUAL: UsualParts = {
  sender: { kind: 'two-wire-transmitter' },
  cores: 2,
  feed: 'supply',
  into: 'analogue',
}
/** A discrete loop of which nobody has told more. */
const USUAL_CONTACT: UsualParts = {
  sender: { kind: 'dry-contact' },
  cores: 2,
  feed: 'supply',
  into: { discrete: '1' },
}

/** Parts that a loop of its family usually has: a place to start from, nothing is wired yet. */
export function suggestParts(document: FactsOf & Pick<LoopDocument, 'tag'>): Parts {
  const { tag, path } = document
  const { family, values } = factsOf(document)
  const usual = family?.parts(values) ?? (path.length > 0 ? USUAL : USUAL_CONTACT)
  const n = numberOf(tag)
  const id = (prefix: string) => (n === '' ? `${prefix}-1` : `${prefix}-${n}`)
  const supply: Parts = { [id('PS')]: { kind: 'supply', settings: {} } }
  const { kind, settings = {} } = usual.sender
  const field: Parts = {
    [partName(tag)]: { kind, settings },
    [id('W')]: { kind: 'cable', settings: { cores: usual.cores } },
  }
  if (usual.into !== 'analogue') {
    const { behind, discrete } = usual.into
    return {
      ...field,
      ...(behind ? { [id('SA')]: { kind: behind, settings: {} } } : {}),
      ...supply,
      [id('DI')]: { kind: 'digital-input', settings: { mode: 'sink', type: discrete } },
    }
  }
  // A panel display without a card of its own is read by a converter.
  if (stageOf(path, 'display') && !stageOf(path, 'input'))
    return { ...field, ...supply, [id('DC')]: { kind: 'digital-converter', settings: {} } }
  const shunt = stageOf(path, 'shunt')
  const ai: Parts = {
    [id('AI')]: {
      kind: 'analogue-input',
      settings: shunt ? { shunt_ohm: shunt.resistance_ohm, scaled_ohm: shunt.resistance_ohm } : {},
    },
  }
  return usual.feed === 'mains'
    ? { ...field, [id('Q')]: { kind: 'mains', settings: {} }, ...ai }
    : { ...field, [id('F')]: { kind: 'fuse', settings: {} }, ...supply, ...ai }
}
