import type { Finding } from '@calm/core/finding'
import type { LineStep } from '@calm/core/loop/line-steps'
import { parseQuantity } from '@calm/core/quantity/parse-quantity'
import { roundText, sayNumber } from '@calm/core/quantity/round'
import { convertRangeEnd, differenceIn, printedUnit } from '@calm/core/quantity/units'
import { documentedChain, readableStations } from '@calm/core/scale/diagnosis/documented'
import { scaleAt, spanAt } from '@calm/core/scale/diagnosis/links'
import {
  locate,
  observedStations,
  type Level,
  type LocateTask,
  type SegmentResult,
} from '@calm/core/scale/diagnosis/locate'
import { procedureFor, settingsThatMake } from '@calm/core/scale/diagnosis/mend'
import { nextReading } from '@calm/core/scale/diagnosis/next-reading'
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
  /** Where a known signal is fed in instead of the process. */
  readonly fedAt?: StationId
}
export interface SegmentRow {
  readonly key: string
  readonly title: string
  readonly state: 'good' | 'look' | 'stop'
  readonly word: string
  readonly says: string
  readonly causes: readonly string[]
  /** The procedure that mends it, by its identifier. */
  readonly procedure: string | null
  /** Findings on the loop's own settings that make these readings, each with its fix. */
  readonly settings: readonly Finding[]
}

/** Where a known signal can be fed in, and what it is called there. */
export const FEEDS: Partial<Record<StationId, string>> = {
  PV: 'simulated number',
  PCT: 'fixed current',
  MA: 'current source',
  V: 'voltage source',
}

/** Stations that are read with an instrument; the others tell their own value. */
const WITH_INSTRUMENT: readonly StationId[] = ['IN', 'MA', 'V']

/** Where an error comes in, from what was typed; nothing is typed without its uncertainty. */
export function useLocate(
  stages: MaybeRefOrGetter<readonly Stage[]>,
  needsRoot: MaybeRefOrGetter<boolean>,
  sensorTolerance: MaybeRefOrGetter<number>,
  instruments: MaybeRefOrGetter<readonly Instrument[]>,
  /** What the ranges tell by themselves. */
  audit: MaybeRefOrGetter<readonly Finding[]> = [],
  absolute: MaybeRefOrGetter<boolean> = false,
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
      const behind =
        l.fedAt === undefined ? stations.value : stations.value.slice(stations.value.indexOf(l.fedAt))
      const values = Object.fromEntries(
        behind.flatMap((id) => {
          const { value } = read(l.typed[id] ?? '', id)
          return value === null ? [] : [[id, value] as const]
        }),
      ) as Level['values']
      return Object.keys(values).length > 0
        ? [{ values, dir: l.dir, ...(l.fedAt ? { fedAt: l.fedAt } : {}) }]
        : []
    }),
  )
  const tolerance = computed((): Partial<Record<StationId, number>> => ({
    ...STATION_TOLERANCE,
    PV: toValue(sensorTolerance),
  }))
  const task = computed((): LocateTask | null => {
    const c = chain.value
    if (!c || filled.value.length === 0) return null
    const u = Object.fromEntries(Object.entries(U.value).map(([id, x]) => [id, x / 2]))
    return { chain: c, levels: filled.value, u, tol: tolerance.value }
  })
  const located = computed(() => task.value && locate(task.value))
  const observed = computed(() => observedStations(filled.value))

  const name = (id: StationId) => STATION_NAMES[stageKindOf(id)]
  /** Where a stretch ends: before what a signal fed in there has proved. */
  const endOf = (s: SegmentResult): StationId => (s.links.at(-1)?.split('>')[1] ?? s.to) as StationId
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
    const goes = s.comesAndGoes
      ? ` It comes and goes: at ${sayNumber(s.comesAndGoes.at_pct, 3)} % two readings lie ${sayNumber(s.comesAndGoes.spread_pct, 2)} % of span apart. Look for a loose terminal, moisture or a worn cable, and read while it is moved.`
      : ''
    const once =
      s.state === 'WITHIN' && s.seesOneValue
        ? ' Only one value came into it: what it makes of others is not judged.'
        : ''
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
      title: `${name(s.from)} to ${name(endOf(s))}`,
      state: once ? 'look' : s.state === 'WITHIN' ? 'good' : s.state === 'OUT' ? 'stop' : 'look',
      word: once ? 'once' : s.state === 'WITHIN' ? 'within' : s.state === 'OUT' ? 'out' : 'open',
      says: `${numbers}.${goes}${why}${unread}${better}${once}`,
      causes: s.state !== 'WITHIN' && first && e?.answer !== 'unknown' ? causesOf(s.links, first.shape) : [],
      procedure: procedureFor(s, toValue(absolute)),
      settings: task.value ? settingsThatMake(toValue(stages), toValue(audit), task.value, s) : [],
    }
  }
  const rows = computed(() => located.value?.segments.map(rowOf) ?? [])

  /** What is read next, in a sentence, and what one touch of it prepares. */
  const next = computed(() => {
    const n = located.value && nextReading(located.value, stations.value)
    if (!n) return null
    if (n.kind === 'station')
      return {
        says: `Read ${name(n.at)} next: in about ${n.minutes} minutes it settles ${sayNumber(n.settles_pct, 2)} % of what is still open.`,
        act: null,
        take: null,
      }
    if (n.kind === 'level')
      return {
        says: `A further level, near ${sayNumber(n.at_pct, 3)} % of what comes out, parts the causes that are left.`,
        act: null,
        take: null,
      }
    const [low, high] = n.at === 'PCT' ? [0, 100] : endsOf(n.at)
    return {
      says: `It stands still, and what lies behind it was seen at one value alone. Feed in three values behind it (${FEEDS[n.at] ?? name(n.at)}), and read on from there.`,
      act: `Three levels fed in at ${name(n.at)}`,
      take: () => {
        const untouched = levels.value.filter((l) =>
          Object.values(l.typed).some((text) => text.trim() !== ''),
        )
        levels.value = [
          ...untouched,
          ...[low, (low + high) / 2, high].map((x) => ({
            typed: { [n.at]: sayNumber(x, 5) },
            dir: 1 as const,
            fedAt: n.at,
          })),
        ]
      },
    }
  })
  const steps = computed((): LineStep[] | null => {
    const l = located.value
    if (!l || l.segments.length === 0) return null
    return l.segments
      .filter((s) => s.state === 'OUT')
      .map((s) => ({
        station: stageKindOf(endOf(s)),
        error_pct: s.residuals_pct.reduce((a, b) => (Math.abs(b) > Math.abs(a) ? b : a), 0),
        ...(s.links.length > 1 ? { from: stageKindOf(s.from) } : {}),
      }))
  })
  function type_(i: number, id: StationId, text: string): void {
    levels.value = levels.value.map((l, k) => (k === i ? { ...l, typed: { ...l.typed, [id]: text } } : l))
  }
  /** Whether a level was approached rising or falling: hysteresis and a lag are told by nothing else. */
  function turn(i: number, dir: 1 | -1): void {
    levels.value = levels.value.map((l, k) => (k === i ? { ...l, dir } : l))
  }
  /** Where the signal of a level came from: the process, or a known one fed in. */
  function feed(i: number, at: StationId | null): void {
    levels.value = levels.value.map((l, k) =>
      k === i ? { typed: l.typed, dir: l.dir, ...(at ? { fedAt: at } : {}) } : l,
    )
  }
  const feeds = computed(() => stations.value.filter((id) => FEEDS[id] !== undefined))
  return {
    chain,
    feeds,
    feed,
    stations,
    levels,
    typedU,
    readWith,
    suited,
    usualU,
    unitOf,
    name,
    endOf,
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
