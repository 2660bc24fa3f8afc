import { familyOf } from '../family/index.ts'
import type { LoopDocument } from '../loop/document.ts'
import { fieldName } from '../loop/field-names.ts'
import { fieldAt } from '../loop/field-path.ts'
import { parseQuantity } from '../quantity/parse-quantity.ts'
import { sayNumber } from '../quantity/round.ts'
import type { Setting } from '../quantity/setting.ts'
import { printedUnit } from '../quantity/units.ts'
import { sayRelay } from '../signal/relay-plan.ts'
import { partKind } from '../part/index.ts'
import { knownPart, sayTerminal, SCHOOL_NAMES, type Wiring } from '../part/wiring.ts'
import { differences, type FieldChange } from './revision-difference.ts'

/** One difference between two revisions, in the words of the screen it was made on. */
export interface SaidChange {
  readonly name: string
  readonly before: string
  readonly after: string
}
export interface ChangeGroup {
  /** The bench that it belongs to; what belongs to none is the loop's own. */
  readonly bench: 'Loop' | 'Wire' | 'Set up' | 'Scale'
  readonly changes: readonly SaidChange[]
}
/** What of a document is compared; a draft may be incomplete. */
type Document = Pick<LoopDocument, 'family' | 'path' | 'wiring' | 'setUp' | 'trips' | 'toKeyIn' | 'asTyped'>

const NOTHING = 'not given'
const BENCHES = ['Loop', 'Wire', 'Set up', 'Scale'] as const
const MOST_IN_A_LINE = 8

/** Words of the choices that the Scale bench offers. */
const WORDS: Readonly<Record<string, string>> = {
  linear: 'linear',
  sqrt: 'square root',
  table: 'a table',
  '4-20': '4-20 mA',
  '0-20': '0-20 mA',
  max: 'the largest part',
  min: 'the smallest part',
  sum: 'the sum of the parts',
}

/** What a display follows. */
const FOLLOWS: Readonly<Record<string, string>> = {
  current: 'the loop',
  controller: 'the controller',
  converter: 'the converter',
}

const sayToKeyIn = (doc: Document): string =>
  doc.toKeyIn.map((k) => `${k.of}, ${k.says} ${k.value}`).join('; ') || NOTHING
/** Every relay of a document, in the unit of its loop. */
function sayRelays(doc: Document): string {
  const unit = fieldAt(doc, 'path.transmitter.range.unit')
  return (
    doc.trips.map((t) => sayRelay(t, typeof unit === 'string' ? printedUnit(unit) : '')).join('; ') || NOTHING
  )
}

/** Differences of two documents, grouped by bench, with the values as they were typed. */
export function sayChanges(before: Document, after: Document): ChangeGroup[] {
  const changes = differences(before, after)
  const wiring = changes.some((c) => isUnder(c.path, 'wiring'))
    ? wiringChanges(before.wiring, after.wiring)
    : []
  const relays = changes.some((c) => isUnder(c.path, 'trips'))
    ? [{ name: fieldName('trips'), before: sayRelays(before), after: sayRelays(after) }]
    : []
  const said = changes.flatMap((c): { bench: ChangeGroup['bench']; change: SaidChange }[] => {
    if (['wiring', 'trips', 'toKeyIn'].some((root) => isUnder(c.path, root))) return []
    const bench = benchOf(c.path)
    return [
      { bench, change: bench === 'Set up' ? setUpChange(c, before, after) : plainChange(c, before, after) },
    ]
  })
  const keyedIn = changes.some((c) => isUnder(c.path, 'toKeyIn'))
    ? [{ name: fieldName('toKeyIn'), before: sayToKeyIn(before), after: sayToKeyIn(after) }]
    : []
  return BENCHES.flatMap((bench): ChangeGroup[] => {
    const own = said.filter((s) => s.bench === bench).map((s) => s.change)
    const here = bench === 'Wire' ? [...wiring, ...relays] : bench === 'Scale' ? [...own, ...keyedIn] : own
    return here.length > 0 ? [{ bench, changes: here }] : []
  })
}

/** One field of a document in the words of its screen: what it holds. */
export function sayField(document: Document, path: string, value: unknown): string {
  return benchOf(path) === 'Set up'
    ? setUpChange({ path, name: '', before: value, after: value }, document, document).after
    : sayValue(document, path, value, unitOn(document, path))
}
/** What a field is called on its screen. */
export function titleOfField(document: Document, path: string): string {
  return benchOf(path) === 'Set up'
    ? setUpChange({ path, name: '', before: null, after: null }, document, document).name
    : fieldName(path)
}

const isUnder = (path: string, root: string) => path === root || path.startsWith(`${root}.`)
const benchOf = (path: string): ChangeGroup['bench'] =>
  isUnder(path, 'setUp') || path === 'family'
    ? 'Set up'
    : isUnder(path, 'trips')
      ? 'Wire'
      : ['path', 'tolerance', 'toKeyIn'].some((root) => isUnder(path, root))
        ? 'Scale'
        : 'Loop'

/** A value as it was typed, its unit with it; where nobody typed it, rounded as it can be read. */
function typedOr(doc: Document, path: string, value: number, unit: string): string {
  const typed = doc.asTyped[path]
  const meant = typed === undefined ? null : parseQuantity(typed, unit === '' ? null : unit)
  // A fix may have put another value there since.
  const holds =
    typed !== undefined && meant?.kind === 'value' && Math.abs(meant.value - value) <= 1e-9 * Math.abs(value)
  const text = holds ? typed.trim() : sayNumber(value, 7)
  const hasUnit = holds && /[^\d.,' +-]/.test(text)
  return hasUnit || unit === '' ? text : `${text} ${printedUnit(unit)}`
}
function sayValue(doc: Document, path: string, value: unknown, unit = ''): string {
  if (isStation(path)) return typeof value === 'string' ? 'on the line' : 'not on the line'
  if (value === null || value === undefined || value === '') return NOTHING
  if (typeof value === 'number') return typedOr(doc, path, value, unit)
  if (typeof value === 'boolean') return value ? 'yes' : 'no'
  if (typeof value === 'string') return (path === 'path.display.from' ? FOLLOWS : WORDS)[value] ?? value
  if (!Array.isArray(value)) return 'given'
  const list = value as unknown[]
  if (isUnder(path, 'trips')) return sayRelays(doc)
  if (isUnder(path, 'toKeyIn')) return sayToKeyIn(doc)
  const plain = list.every((x) => typeof x === 'number' || typeof x === 'string')
  return plain && list.length <= MOST_IN_A_LINE
    ? list.map((x) => (typeof x === 'number' ? sayNumber(x, 6) : x)).join(', ')
    : `${list.length} ${list.length === 1 ? 'row' : 'rows'}`
}

/** The unit of a place on the line: that of the range it stands in. */
function unitOn(doc: Document, path: string): string {
  const range = /^(path\.\w+\.(?:range|shows))\.(?:low|high)$/.exec(path)?.[1]
  const unit =
    range !== undefined
      ? fieldAt(doc, `${range}.unit`)
      : path.startsWith('path.sensor.limits')
        ? fieldAt(doc, 'path.transmitter.range.unit')
        : ''
  return typeof unit === 'string' ? unit : ''
}
const isStation = (path: string) => /^path\.\w+\.kind$/.test(path)
function plainChange(c: FieldChange, before: Document, after: Document): SaidChange {
  return {
    name: c.name,
    before: sayValue(before, c.path, c.before, unitOn(before, c.path)),
    after: sayValue(after, c.path, c.after, unitOn(after, c.path)),
  }
}

function saySetting(setting: Setting | undefined, doc: Document, path: string, value: unknown): string {
  if (value === undefined) return NOTHING
  if (setting?.kind === 'choice')
    return setting.options.find((o) => o.value === value)?.title ?? sayValue(doc, path, value)
  return sayValue(doc, path, value, setting?.kind === 'number' ? setting.unit : '')
}
function setUpChange(c: FieldChange, before: Document, after: Document): SaidChange {
  if (c.path === 'family') {
    const say = (id: unknown) => familyOf(typeof id === 'string' ? id : null)?.title ?? NOTHING
    return { name: 'This loop is', before: say(c.before), after: say(c.after) }
  }
  const [, part, ...rest] = c.path.split('.')
  if (part === 'sensor') {
    // Which one it is stands in its serial numbers, as the plate has them.
    const say = (id: unknown, other: unknown) =>
      typeof id !== 'string'
        ? 'none'
        : typeof other === 'string'
          ? 'another of the stock'
          : 'one of the stock'
    return {
      name: 'Sensor of the stock',
      before: say(c.before, null),
      after: say(c.after, c.before === c.after ? null : c.before),
    }
  }
  const name = rest.join('.')
  const setting = (doc: Document) => familyOf(doc.family)?.settings.find((s) => s.name === name)
  const title = (setting(after) ?? setting(before))?.title ?? 'An entry of another kind of meter'
  if (part === 'tolerances')
    return {
      name: `${title}, known to ±`,
      before: saySetting(setting(before), before, c.path, c.before),
      after: saySetting(setting(after), after, c.path, c.after),
    }
  return {
    name: part === 'values' ? title : 'Set-up',
    before: saySetting(setting(before), before, c.path, c.before),
    after: saySetting(setting(after), after, c.path, c.after),
  }
}

const EMPTY: Pick<Wiring, 'parts' | 'wires'> = { parts: {}, wires: {} }
/** Parts and wires that came, went or were changed. */
function wiringChanges(b: Wiring | null, a: Wiring | null): SaidChange[] {
  const [before, after] = [b ?? EMPTY, a ?? EMPTY]
  const names = (x: Readonly<Record<string, unknown>>, y: Readonly<Record<string, unknown>>) =>
    [...new Set([...Object.keys(x), ...Object.keys(y)])].sort((p, q) =>
      p.localeCompare(q, 'en', { numeric: true }),
    )
  const sayPart = (w: Pick<Wiring, 'parts'>, id: string) => {
    const part = w.parts[id]
    const known = part && knownPart(id, part)
    return known ? `${known.kind.title}, ${known.kind.label(known.s)}` : 'not there'
  }
  const sayWire = (w: Pick<Wiring, 'parts' | 'wires'>, id: string) => {
    const wire = w.wires[id]
    return wire
      ? [
          `${sayTerminal(w, wire.from)} to ${sayTerminal(w, wire.to)}`,
          wire.colour,
          wire.ferrule && `ferrule ${wire.ferrule}`,
        ]
          .filter(Boolean)
          .join(', ')
      : 'not there'
  }
  const school = (w: Wiring | null) => (w ? SCHOOL_NAMES[w.school] : NOTHING)
  return [
    ...(b?.school === a?.school || b === null || a === null
      ? []
      : [{ name: 'School of colours', before: school(b), after: school(a) }]),
    ...names(before.parts, after.parts).flatMap((id) => partChanges(before, after, id, sayPart)),
    ...names(before.wires, after.wires).flatMap((id) => {
      const [was, is] = [sayWire(before, id), sayWire(after, id)]
      return was === is ? [] : [{ name: `Wire ${id}`, before: was, after: is }]
    }),
  ]
}
function partChanges(
  before: Pick<Wiring, 'parts'>,
  after: Pick<Wiring, 'parts'>,
  id: string,
  say: (w: Pick<Wiring, 'parts'>, id: string) => string,
): SaidChange[] {
  const [was, is] = [before.parts[id], after.parts[id]]
  if (was?.kind !== is?.kind) return [{ name: id, before: say(before, id), after: say(after, id) }]
  const settings = partKind(is?.kind ?? '')?.settings ?? []
  return settings.flatMap((s) => {
    const value = (part: typeof was) => part?.settings[s.name] ?? s.standard
    const text = (v: unknown) =>
      s.kind === 'choice'
        ? (s.options.find((o) => o.value === v)?.title ?? String(v))
        : typeof v === 'number'
          ? `${sayNumber(v, 7)}${s.kind === 'number' && s.unit !== '' ? ` ${printedUnit(s.unit)}` : ''}`
          : v === true
            ? 'yes'
            : v === false
              ? 'no'
              : String(v)
    const [b, a] = [text(value(was)), text(value(is))]
    return b === a ? [] : [{ name: `${id}, ${s.title}`, before: b, after: a }]
  })
}
