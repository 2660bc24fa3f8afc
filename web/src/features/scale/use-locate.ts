import type { LineStep } from '@calm/core/loop/line-steps'
import { parseQuantity } from '@calm/core/quantity/parse-quantity'
import { roundText, sayNumber } from '@calm/core/quantity/round'
import { convertRangeEnd, differenceIn, printedUnit } from '@calm/core/quantity/units'
import { documentedChain, readableStations } from '@calm/core/scale/diagnosis/documented'
import { scaleAt, segmentOf, spanAt, type Link } from '@calm/core/scale/diagnosis/links'
import { locate, observedStations, type Level, type SegmentResult } from '@calm/core/scale/diagnosis/locate'
import { nextMeasurement } from '@calm/core/scale/diagnosis/next-measurement'
import { causesOf, sayExplanation } from '@calm/core/scale/diagnosis/told'
import { stageKindOf } from '@calm/core/signal/chain'
import type { Stage, StationId } from '@calm/core/signal/stage'
import { STATION_NAMES } from '@calm/core/signal/station-names'
import { equipmentU, suits, type EquipmentFunction } from '@calm/core/verify/equipment-spec'
import { computed, ref, toValue, type MaybeRefOrGetter } from 'vue'

/** Usual expanded uncertainty of a reading, as a share of the station's span. */
const USUAL_SHARE: Partial<Record<StationId, number>> = {
  IN: 0.0005,
  PV: 0.0002,
  PCT: 0.0002,
  EU: 0.0005,
  DSP: 0.002,
}
const USUAL: Partial<Record<StationId, number>> = { MA: 0.005, V: 0.002, CNT: 2 }
/** Usual tolerance of the stations, % of span, where the loop has none of its own. */
const STATION_TOLERANCE: Partial<Record<StationId, number>> = {
  PCT: 0.02,
  MA: 0.1,
  // Wider than what two usual meters know of a shunt together; a tighter one could never be found kept.
  V: 0.1,
  CNT: 0.05,
  EU: 0.05,
  DSP: 0.2,
}

/** An instrument of the equipment list that may be used now. */
export interface Instrument {
  readonly id: string
  readonly name: string
  readonly functions: readonly EquipmentFunction[]
}
export interface TypedLevel {
  readonly typed: Readonly<Record<string, string>>
  readonly dir: 1 | -1
}
export interface SegmentRow {
  readonly key: string
  readonly title: string
  readonly state: 'good' | 'look' | 'stop'
  readonly word: string
  readonly says: string
  readonly causes: readonly string[]
}

/** Stations that are read with an instrument; the others tell their own value. */
const WITH_INSTRUMENT: readonly StationId[] = ['IN', 'MA', 'V']

/** Where an error comes in, from what was typed; nothing is typed without its uncertainty. */
export function useLocate(
  stages: MaybeRefOrGetter<readonly Stage[]>,
  needsRoot: MaybeRefOrGetter<boolean>,
  sensorTolerance: MaybeRefOrGetter<number>,
  instruments: MaybeRefOrGetter<readonly Instrument[]>,
) {
  const chain = computed(() => documentedChain(toValue(stages), toValue(needsRoot)))
  const stations = computed(() => readableStations(toValue(stages)))
  const levels = ref<TypedLevel[]>([
    { typed: {}, dir: 1 },
    { typed: {}, dir: 1 },
  ])
  const typedU = ref<Record<string, string>>({})
  /** Instrument that a station was read with, by its identifier. */
  const readWith = ref<Partial<Record<StationId, string>>>({})

  const unitOf = (id: StationId): string => {
    const c = chain.value
    if (!c) return ''
    if (id === 'IN' || id === 'PV') return c.inUnit
    if (id === 'EU' || id === 'DSP') return scaleAt(c, id).unit
    return id === 'PCT' ? '%' : id === 'MA' ? 'mA' : id === 'V' ? 'V' : 'counts'
  }
  const endsOf = (id: StationId): [number, number] => {
    const c = chain.value
    if (!c) return [0, 1]
    if (id === 'MA') return [4, 20]
    const ends = id === 'V' ? [(4 * c.shunt) / 1000, (20 * c.shunt) / 1000] : [c.lrv, c.urv]
    return [Math.min(...ends), Math.max(...ends)]
  }
  /** Instruments that take the station's whole range, with what they know it to there (k = 2). */
  const suited = computed(() =>
    WITH_INSTRUMENT.filter((id) => stations.value.includes(id)).map((id) => {
      const [low, high] = endsOf(id)
      const unit = unitOf(id)
      const able = toValue(instruments).flatMap((x) => {
        const s = suits(x.functions, x.name, low, high, unit)
        if (s.kind !== 'suits' || !s.function.uncertainty) return []
        const largest = Math.max(Math.abs(low), Math.abs(high))
        const top = convertRangeEnd(largest, unit, s.function.unit)
        const u = top.kind === 'value' ? equipmentU(s.function, top.value) : null
        const U = u === null ? null : differenceIn(2 * u, s.function.unit, unit)
        return U === null ? [] : [{ id: x.id, name: x.name, U }]
      })
      return { station: id, able }
    }),
  )
  const instrumentU = (id: StationId): number | null => {
    const chosen = readWith.value[id]
    return suited.value.find((s) => s.station === id)?.able.find((x) => x.id === chosen)?.U ?? null
  }
  const usualU = (id: StationId): number => {
    const c = chain.value
    const known = instrumentU(id)
    if (known !== null) return known
    return USUAL[id] ?? (c ? Math.abs(spanAt(c, id)) * (USUAL_SHARE[id] ?? 0.0005) : 0)
  }
  function read(text: string, id: StationId): { value: number | null; says: string | null } {
    const parsed = parseQuantity(text, unitOf(id) === 'counts' ? null : unitOf(id))
    if (parsed.kind === 'empty') return { value: null, says: null }
    return parsed.kind === 'refused'
      ? { value: null, says: parsed.says }
      : { value: parsed.value, says: null }
  }
  const wrong = computed(() => {
    const out = new Map<string, string>()
    levels.value.forEach((l, i) => {
      for (const id of stations.value) {
        const says = read(l.typed[id] ?? '', id).says
        if (says) out.set(`${i}.${id}`, says)
      }
    })
    for (const id of stations.value) {
      const { value, says } = read(typedU.value[id] ?? '', id)
      if (says ?? (value !== null && value < 0)) out.set(`U.${id}`, says ?? 'Not below 0.')
    }
    return out
  })
  const U = computed(
    () =>
      Object.fromEntries(
        stations.value.map((id) => [id, read(typedU.value[id] ?? '', id).value ?? usualU(id)]),
      ) as Record<StationId, number>,
  )
  const filled = computed((): Level[] =>
    levels.value.flatMap((l) => {
      const values = Object.fromEntries(
        stations.value.flatMap((id) => {
          const { value } = read(l.typed[id] ?? '', id)
          return value === null ? [] : [[id, value] as const]
        }),
      ) as Level['values']
      return Object.keys(values).length > 0 ? [{ values, dir: l.dir }] : []
    }),
  )
  const tolerance = computed((): Partial<Record<StationId, number>> => ({
    ...STATION_TOLERANCE,
    PV: toValue(sensorTolerance),
  }))
  const located = computed(() => {
    const c = chain.value
    if (!c || filled.value.length === 0) return null
    const u = Object.fromEntries(Object.entries(U.value).map(([id, x]) => [id, x / 2]))
    return locate({ chain: c, levels: filled.value, u, tol: tolerance.value })
  })
  const observed = computed(() => observedStations(filled.value))

  const name = (id: StationId) => STATION_NAMES[stageKindOf(id)]
  function rowOf(s: SegmentResult): SegmentRow {
    const worst = s.residuals_pct.reduce(
      (b, r, i) => (Math.abs(r) > Math.abs(s.residuals_pct[b] ?? 0) ? i : b),
      0,
    )
    const r = s.residuals_pct[worst] ?? 0
    const numbers = `${r > 0 ? '+' : ''}${roundText(r, 3)} % of span, known to ±${sayNumber(s.U_pct[worst] ?? 0, 2)} %, allowed ±${sayNumber(s.T_pct, 3)} %`
    const unit = chain.value ? printedUnit(scaleAt(chain.value, s.to).unit) : ''
    const e = s.explanation
    const why =
      s.state === 'WITHIN' || !e
        ? ''
        : e.state === 'NEED_MORE'
          ? ' Read a second level to name the cause.'
          : e.ranked.length > 0
            ? ` ${sayExplanation(e, unit)}`
            : ''
    const look = e && e.answer !== 'named' && e.answer !== 'unknown' ? e.lookNext[0] : undefined
    const further = look ? ` A reading at ${sayNumber(look.u * 100, 3)} % would tell most.` : ''
    const better =
      s.neededU_pct !== null
        ? ` Undecided: an uncertainty below ±${sayNumber(s.neededU_pct, 2)} % would decide it.`
        : ''
    const first = e?.ranked[0]
    const between = s.links.slice(0, -1).map((link) => name((link.split('>')[1] ?? '') as StationId))
    const unread =
      s.state === 'OUT' && between.length > 0
        ? ` Nothing was read at ${between.join(', ')}: the whole stretch is unresolved.`
        : ''
    return {
      key: `${s.from}>${s.to}`,
      title: `${name(s.from)} to ${name(s.to)}`,
      state: s.state === 'WITHIN' ? 'good' : s.state === 'OUT' ? 'stop' : 'look',
      word: s.state === 'WITHIN' ? 'within' : s.state === 'OUT' ? 'out' : 'open',
      says: `${numbers}.${why}${unread}${further}${better}`,
      causes: s.state !== 'WITHIN' && first && e?.answer !== 'unknown' ? causesOf(s.links, first.shape) : [],
    }
  }
  const rows = computed(() => located.value?.segments.map(rowOf) ?? [])

  /** Where the meter goes next: inside the first segment that is out, if something in it was not read. */
  const next = computed(() => {
    const c = chain.value
    const l = located.value
    if (!c || !l) return null
    const suspect = l.firstOut ?? l.segments.find((s) => s.state === 'INDETERMINATE') ?? null
    if (!suspect || suspect.links.length < 2) return null
    const inside = suspect.links.map((link) => (link.split('>')[1] ?? '') as StationId)
    const there = stations.value.filter((id) => inside.includes(id))
    const links: readonly Link[] = suspect.links
    if (!segmentOf(c, suspect.from, suspect.to)) return null
    const n = nextMeasurement({ links, readings: [] })
    const at = [n.bestByGain, n.bestPerMinute].find((id) => id !== null && there.includes(id))
    const gain = n.gains.find((g) => g.at === at)
    return at && gain
      ? `Read ${name(at)} next: in about ${gain.minutes} minutes it settles ${sayNumber((100 * gain.gain_bit) / n.entropy_bit, 2)} % of what is still open.`
      : null
  })
  const steps = computed((): LineStep[] | null => {
    const l = located.value
    if (!l || l.segments.length === 0) return null
    return l.segments
      .filter((s) => s.state === 'OUT')
      .map((s) => ({
        station: stageKindOf(s.to),
        error_pct: s.residuals_pct.reduce((a, b) => (Math.abs(b) > Math.abs(a) ? b : a), 0),
      }))
  })
  function type_(i: number, id: StationId, text: string): void {
    levels.value = levels.value.map((l, k) => (k === i ? { ...l, typed: { ...l.typed, [id]: text } } : l))
  }
  /** Whether a level was approached rising or falling: hysteresis and a lag are told by nothing else. */
  function turn(i: number, dir: 1 | -1): void {
    levels.value = levels.value.map((l, k) => (k === i ? { ...l, dir } : l))
  }
  return {
    chain,
    stations,
    levels,
    typedU,
    readWith,
    suited,
    usualU,
    unitOf,
    name,
    wrong,
    U,
    filled,
    observed,
    located,
    rows,
    next,
    steps,
    type: type_,
    turn,
    addLevel: () => (levels.value = [...levels.value, { typed: {}, dir: 1 }]),
    clear: () =>
      (levels.value = [
        { typed: {}, dir: 1 },
        { typed: {}, dir: 1 },
      ]),
  }
}
