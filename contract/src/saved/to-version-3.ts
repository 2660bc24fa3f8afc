import { toldByWords } from '@calm/core/loop/what-it-is'
import { isNode, numberOr, text, type Node, type SavedLoopDocument } from './saved.ts'

/** Entries of a Coriolis set-up under the names of their role in physics. */
const CORIOLIS: Node = Object.fromEntries([
  ...[
    ['factor', 'flowFactor'],
    ['K1', 'lightPeriod'],
    ['K2', 'heavyPeriod'],
    ['D1', 'lightDensity'],
    ['D2', 'heavyDensity'],
    ['DT', 'densityTemperature'],
  ].flatMap(([old, role]) =>
    [
      ['cert', 'certificate'],
      ['tag', 'tag'],
      ['dev', 'device'],
    ].map(([from, to]) => [`${old}_${from}`, `${role}_${to}`] as const),
  ),
  ['tau_us', 'period_us'] as const,
])
/** Length of the first part of the joined factor that the old entries knew. */
const OLD_SPLIT = 6

function coriolis(values: Node): Node {
  const renamed = Object.fromEntries(
    Object.entries(values).map(([name, v]) => [text(CORIOLIS[name]) || name, v]),
  )
  const joined = Object.keys(values).some((name) => name.startsWith('factor_') && text(values[name]) !== '')
  return joined
    ? { ...renamed, joined: 'flowFactor', joinedWith: 'flowTemperature', splitAfter: OLD_SPLIT }
    : renamed
}

/** A trip by its points instead of a kind with a value and a window. */
function trip(values: Node): Node {
  const { tripKind, trip_m, window_m, ...rest } = values
  if (tripKind === undefined && trip_m === undefined && window_m === undefined) return rest
  // What was not typed had these defaults.
  const V = numberOr(trip_m, 0.6)
  const W = numberOr(window_m, 0.25)
  const points = (onAt_m: number, offAt_m: number, same = 'rising') => ({
    ...rest,
    tripBy: 'points',
    onAt_m,
    offAt_m,
    same,
  })
  const band = (onWhere: string) => ({ ...rest, tripBy: 'band', from_m: V, to_m: V + W, onWhere })
  switch (tripKind) {
    case 'near':
      return points(V, V, 'falling')
    case 'far':
      return points(V, V)
    case 'inWindow':
      return band('inside')
    case 'outOfWindow':
      return band('outside')
    case 'hysteresisNear':
      return points(V, V + W)
    default:
      return points(V + W, V)
  }
}

/** Who takes the root stands on the signal path alone. */
const withoutRoot = (values: Node): Node =>
  Object.fromEntries(Object.entries(values).filter(([name]) => name !== 'rootTx' && name !== 'rootRx'))

const OF_FAMILY: Readonly<Record<string, (values: Node) => Node>> = {
  coriolis,
  switch: trip,
  orifice: withoutRoot,
}

/** Field paths that name an entry follow it to its new name. */
const renamedPath = (path: string): string => {
  const name = /^setUp\.values\.(.+)$/.exec(path)?.[1]
  return name !== undefined && text(CORIOLIS[name]) !== '' ? `setUp.values.${text(CORIOLIS[name])}` : path
}

/** Version 3: the family stands in the document, by its id; its words are for people from now on. */
export function toVersion3(saved: SavedLoopDocument): SavedLoopDocument {
  const { setUp } = saved
  const unconfirmed = Array.isArray(saved['unconfirmed']) ? saved['unconfirmed'].map(text) : []
  if (isNode(setUp) && typeof setUp['family'] === 'string') {
    const { family, values, ...more } = setUp
    const change = OF_FAMILY[text(family)]
    const old = isNode(values) ? values : {}
    const asTyped = isNode(saved['asTyped']) ? saved['asTyped'] : {}
    return {
      ...saved,
      version: 3,
      family,
      setUp: { ...more, values: change ? change(old) : old },
      asTyped: Object.fromEntries(Object.entries(asTyped).map(([k, v]) => [renamedPath(k), v])),
      unconfirmed: unconfirmed.map(renamedPath),
    }
  }
  const told = toldByWords(text(saved['type']), text(saved['signal']))
  return {
    ...saved,
    version: 3,
    family: told.family,
    setUp: told.setUp,
    unconfirmed: [...unconfirmed, ...told.unconfirmed],
  }
}
