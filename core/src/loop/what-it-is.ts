import { guessFamily } from '../family/guess.ts'
import { familyOf } from '../family/index.ts'
import type { WantedUnits } from '../quantity/asked-in.ts'
import type { LoopDocument } from './document.ts'
import { entryPath } from './facts.ts'

type Told = Pick<LoopDocument, 'family' | 'setUp' | 'unconfirmed'>

/**
 * What the words of a new loop make likely, as fields of its document: the family, and entries that nobody
 * has confirmed. Read once, when a loop is made or imported; nothing reads the words again.
 */
export function toldByWords(type: string, signal: string): Told {
  const { family, values } = guessFamily(type, signal)
  const names = Object.keys(values)
  return {
    family,
    setUp: names.length > 0 ? { values } : null,
    unconfirmed: names.map(entryPath),
  }
}

/** The loop as another kind of meter: entries of the old one go, those of the new one start from the loop. */
export function asFamily<D extends Told>(document: D, id: string | null): D {
  const family = familyOf(id)
  return {
    ...document,
    family: family ? family.id : null,
    setUp: null,
    unconfirmed: document.unconfirmed.filter((f) => !f.startsWith('setUp.')),
  }
}

/**
 * A set-up begun: what the words told, with the loop's own range and unit over it. The range is somebody's
 * entry on the signal path already; everything else waits to be typed.
 * @param wanted - units of the plant: its sheet begins with them, and asks in the device's as soon as somebody says so
 */
export function beginSetUp<D extends Told & Pick<LoopDocument, 'path'>>(
  document: D,
  wanted: WantedUnits = {},
): D {
  const family = familyOf(document.family)
  if (!family) return document
  const transmitter = document.path.find((s) => s.kind === 'transmitter')
  const fromLoop = transmitter
    ? (family.start?.({ range: transmitter.range, shows: transmitter.shows ?? null }) ?? {})
    : {}
  const told = document.setUp?.values ?? {}
  // What somebody typed stays; what the loop says wins over what its words made likely.
  const typed = Object.fromEntries(
    Object.entries(told).filter(([name]) => !document.unconfirmed.includes(entryPath(name))),
  )
  const values = Object.fromEntries(
    Object.entries({ ...fromLoop, ...told, ...fromLoopOver(told, fromLoop), ...typed }).filter(
      ([, v]) => v !== undefined,
    ),
  ) as typeof told
  const units = Object.keys(wanted).length > 0 ? { units: { ...wanted } } : {}
  return { ...document, setUp: { ...units, ...document.setUp, values } }
}

/** Numbers of the loop's range win over guesses; a choice that the words told more closely stays. */
const fromLoopOver = (
  told: Readonly<Record<string, unknown>>,
  fromLoop: Readonly<Record<string, unknown>>,
): Readonly<Record<string, unknown>> =>
  Object.fromEntries(Object.entries(fromLoop).filter(([name, v]) => typeof v === 'number' || !(name in told)))
