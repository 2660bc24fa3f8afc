import type { RelayPlan } from '@calm/core/signal/relay-plan'
import { TRIP_FORMS } from '@calm/core/signal/trip'
import { isNode, numberOr, text, type Node, type SavedLoopDocument } from './saved.ts'

/** What an older document did not ask for, as it was taken then. */
const USUAL = { contact: 'no', startUp: false, onInvalid: 'off', waves: 0, form: 'points' } as const

/** A relay that had one point: it acted above it or below it. */
const fromPoint = (t: Node, i: number): RelayPlan => {
  const at = numberOr(t['at'], 0)
  const isHigh = t['acts'] !== 'below'
  return {
    ...USUAL,
    name: text(t['name']) || `Relay ${i + 1}`,
    trip: { kind: 'points', onAt: at, offAt: at, same: isHigh ? 'rising' : 'falling' },
    alarm: 'none',
  }
}

/** Entries of a switch's set-up that told its relay. */
const OF_RELAY = [
  'tripBy',
  'onAt_m',
  'offAt_m',
  'same',
  'from_m',
  'to_m',
  'onWhere',
  'tripForm',
  'protects',
  'onInvalid',
  'waves_m',
] as const
const form = (x: unknown): RelayPlan['form'] =>
  Object.keys(TRIP_FORMS).includes(text(x)) ? (text(x) as RelayPlan['form']) : 'points'

/** The relay of a switch, with the defaults that its set-up had. */
function fromSetUp(values: Node, tag: string): RelayPlan {
  const at = (name: string, usual: number) => numberOr(values[name], usual)
  const [from, to] = [at('from_m', 0.6), at('to_m', 0.85)]
  return {
    name: text(values['tag']) || tag || 'Relay 1',
    trip:
      values['tripBy'] === 'band'
        ? {
            kind: 'band',
            from: Math.min(from, to),
            to: Math.max(from, to),
            onInside: values['onWhere'] !== 'outside',
          }
        : {
            kind: 'points',
            onAt: at('onAt_m', 0.85),
            offAt: at('offAt_m', 0.6),
            same: values['same'] === 'falling' ? 'falling' : 'rising',
          },
    // Measured from above: a level too high is a distance too small.
    alarm: values['protects'] === 'lowLevel' ? 'high' : 'low',
    contact: values['contact'] === 'nc' ? 'nc' : 'no',
    startUp: false,
    onInvalid: values['onInvalid'] === 'on' ? 'on' : values['onInvalid'] === 'hold' ? 'hold' : 'off',
    waves: at('waves_m', 0.05),
    form: form(values['tripForm']),
  }
}

/** Version 4: a relay is planned once, with the loop, by its points; a switch's set-up tells none of it any more. */
export function toVersion4(saved: SavedLoopDocument): SavedLoopDocument {
  const old = Array.isArray(saved['trips']) ? saved['trips'].filter(isNode).map(fromPoint) : []
  const names = new Set<string>()
  const trips = old.map((t, i) => {
    const name = names.has(t.name) ? `${t.name} ${i + 1}`.slice(0, 40) : t.name
    names.add(name)
    return { ...t, name }
  })
  const { setUp } = saved
  if (saved['family'] !== 'switch' || !isNode(setUp) || !isNode(setUp['values']))
    return { ...saved, version: 4, trips, toKeyIn: [] }
  const values = setUp['values']
  const isOld = (name: string) => OF_RELAY.some((x) => x === name)
  const rest = Object.fromEntries(Object.entries(values).filter(([name]) => !isOld(name)))
  const paths: readonly string[] = OF_RELAY.map((name) => `setUp.values.${name}`)
  const asTyped = isNode(saved['asTyped']) ? saved['asTyped'] : {}
  const unconfirmed = Array.isArray(saved['unconfirmed']) ? saved['unconfirmed'].map(text) : []
  return {
    ...saved,
    version: 4,
    toKeyIn: [],
    // A plan that nobody had typed is not made one now.
    trips:
      values['kind'] === 'trip' && Object.keys(values).some(isOld)
        ? [fromSetUp(values, text(saved['tag']))]
        : trips,
    setUp: { ...setUp, values: rest },
    asTyped: Object.fromEntries(Object.entries(asTyped).filter(([path]) => !paths.includes(path))),
    unconfirmed: unconfirmed.filter((path) => !paths.includes(path)),
  }
}
