import { comparisons } from '@calm/contract/api/addresses'
import type { NewComparison } from '@calm/contract/comparisons'
import { isFlowUnit, measuredFlow, type Measured, type PulsesPer } from '@calm/core/verify/measured-reference'
import { totalOf } from '@calm/core/verify/k-factor'
import {
  comparisonChart,
  compareWithReference,
  type PastComparison,
  type ReferenceKind,
} from '@calm/core/verify/reference-comparison'
import { computed, ref } from 'vue'
import { plantTime } from '../../api/clock.ts'
import { call, sayProblem } from '../../api/call.ts'
import { useLive } from '../../api/live-cache.ts'
import { useLoop } from '../../loop/loop-store.ts'

export interface ComparedRow {
  readonly reference: number | null
  readonly indicated: number | null
  readonly path: 1 | 2 | null
  readonly caught: Caught
}

/** What was caught or drawn in one run. */
export interface Caught {
  readonly mass_kg: number | null
  readonly pulses: number | null
  readonly from_m: number | null
  readonly to_m: number | null
  readonly seconds: number | null
}
/** What holds for all runs of a catch or a draw-down. */
export interface MeasuredHow {
  readonly density_kg_m3: number | null
  readonly densityU_pct: number | null
  readonly massU_kg: number | null
  readonly diameter_m: number | null
  readonly diameterU_m: number | null
  readonly levelU_m: number | null
  readonly startStop_s: number | null
  readonly K: number | null
  readonly per: PulsesPer
  readonly KU_pct: number | null
}
const NOTHING: Caught = { mass_kg: null, pulses: null, from_m: null, to_m: null, seconds: null }
const EMPTY: ComparedRow = { reference: null, indicated: null, path: null, caught: NOTHING }
/** Hands and a clock start and stop within this, s. */
const BY_HAND_S = 0.3
/** References whose flow is reckoned from what was measured of it. */
const RECKONED: Partial<Record<ReferenceKind, Measured['by']>> = {
  bucket: 'weighed',
  tank: 'drawn',
  pulses: 'counted',
}
/** Where a counter of pulses begins anew. */
const MODULUS = 1e9

/**
 * A meter held against a reference, run by run: what was typed, what it says, and its way into the record. The first
 * comparison in the record is the baseline.
 * @param told - the unit that the loop shows, and the error allowed in % of reading
 */
export function useComparison(told: { readonly unit: string; readonly allowedPct: number }) {
  const loop = useLoop()
  const kind = ref<ReferenceKind>('portable')
  const Uref_pct = ref<number | null>(1)
  const Umeter_pct = ref<number | null>(0.3)
  const tolerance_pct = ref<number | null>(null)
  const note = ref('')
  const rows = ref<readonly ComparedRow[]>([EMPTY, EMPTY, EMPTY])
  const change = (i: number, more: Partial<ComparedRow>) =>
    (rows.value = rows.value.map((r, k) => (k === i ? { ...r, ...more } : r)))
  const another = () => (rows.value = [...rows.value, EMPTY])
  const leaveOut = (i: number) => (rows.value = rows.value.filter((_, k) => k !== i))
  const live = useLive(comparisons.list, () => (loop.detail ? { loop: loop.detail.id } : null))
  const kept = computed(() => live.data.value ?? [])
  const notStored = ref<string | null>(null)
  const trouble = computed(() => notStored.value ?? live.says.value)
  const past = computed((): PastComparison[] =>
    kept.value
      .filter((c) => c.unit === told.unit)
      .map((c) => ({
        at: c.at,
        U_pct: c.U_pct,
        points: c.runs.map((r, i) => ({ at: r.reference, error_pct: c.errors_pct[i] ?? 0 })),
      })),
  )
  /** How the reference follows from what is measured; null where it is typed as it is. */
  const by = computed((): Measured['by'] | null =>
    isFlowUnit(told.unit) ? (RECKONED[kind.value] ?? null) : null,
  )
  const how = ref<MeasuredHow>({
    density_kg_m3: 998.2,
    densityU_pct: 0.1,
    massU_kg: null,
    diameter_m: null,
    diameterU_m: null,
    levelU_m: null,
    startStop_s: BY_HAND_S,
    K: null,
    per: 'm3',
    KU_pct: null,
  })
  function measuredOf({ caught: c }: ComparedRow): Measured | null {
    const h = how.value
    if (by.value === 'weighed')
      return c.mass_kg === null || c.seconds === null || h.massU_kg === null || h.density_kg_m3 === null
        ? null
        : {
            by: 'weighed',
            mass_kg: c.mass_kg,
            seconds: c.seconds,
            density_kg_m3: h.density_kg_m3,
            massU_kg: h.massU_kg,
            startStop_s: h.startStop_s ?? 0,
            densityU_pct: h.densityU_pct ?? 0,
          }
    if (by.value === 'counted')
      return c.pulses === null || c.seconds === null || h.K === null || h.KU_pct === null
        ? null
        : {
            by: 'counted',
            pulses: c.pulses,
            seconds: c.seconds,
            K: h.K,
            per: h.per,
            KU_pct: h.KU_pct,
            startStop_s: h.startStop_s ?? 0,
          }
    return c.from_m === null ||
      c.to_m === null ||
      c.seconds === null ||
      h.diameter_m === null ||
      h.levelU_m === null
      ? null
      : {
          by: 'drawn',
          diameter_m: h.diameter_m,
          from_m: c.from_m,
          to_m: c.to_m,
          seconds: c.seconds,
          diameterU_m: h.diameterU_m ?? 0,
          levelU_m: h.levelU_m,
          startStop_s: h.startStop_s ?? 0,
        }
  }
  /** The flow of each run, as reckoned from what was measured; null where it is typed or not told yet. */
  const reckoned = computed(() =>
    rows.value.map((r) => {
      const m = by.value === null ? null : measuredOf(r)
      return m && { measured: m, flow: measuredFlow(m, told.unit) }
    }),
  )
  const Ureckoned_pct = computed(() =>
    Math.max(0, ...reckoned.value.flatMap((r) => (r?.flow.kind === 'flow' ? [r.flow.U_pct] : []))),
  )
  const task = computed(() => ({
    kind: kind.value,
    unit: told.unit,
    Uref_pct: by.value === null ? (Uref_pct.value ?? 0) : Ureckoned_pct.value,
    Umeter_pct: Umeter_pct.value ?? 0,
    tolerance_pct: tolerance_pct.value ?? told.allowedPct,
    runs: rows.value.flatMap((r, i) => {
      const m = reckoned.value[i]
      const reference = by.value === null ? r.reference : m?.flow.kind === 'flow' ? m.flow.reference : null
      return reference === null || r.indicated === null
        ? []
        : [{ reference, indicated: r.indicated, path: r.path, ...(m ? { measured: m.measured } : {}) }]
    }),
  }))
  const result = computed(() => compareWithReference(task.value, past.value, plantTime()))
  const chart = computed(() => comparisonChart(task.value, result.value, past.value))
  const zero = computed(() => task.value.runs.some((r) => r.reference === 0))

  /** A total from its counter: pulses from and to, and pulses for one unit. */
  const counter = ref<{
    start: number | null
    end: number | null
    K: number | null
    reference: number | null
  }>({
    start: null,
    end: null,
    K: null,
    reference: null,
  })
  const total = computed(() => {
    const { start, end, K, reference } = counter.value
    return start === null || end === null || K === null || K <= 0 || reference === null || reference === 0
      ? null
      : totalOf({ K, start, end, modulus: MODULUS, reference })
  })
  function takeTotal(): void {
    const t = total.value
    if (!t || counter.value.reference === null) return
    const row: ComparedRow = { ...EMPTY, reference: counter.value.reference, indicated: t.V }
    rows.value = [...rows.value.filter((r) => r.reference !== null || r.indicated !== null), row]
  }

  let id = crypto.randomUUID()
  const busy = ref(false)
  const stored = ref<string | null>(null)
  async function record(): Promise<void> {
    if (!loop.detail || busy.value || zero.value) return
    busy.value = true
    const body: NewComparison = {
      ...task.value,
      id,
      at: plantTime(),
      revision: loop.detail.revision,
      note: note.value.trim(),
    }
    try {
      await call(comparisons.keep, { loop: loop.detail.id }, body)
      notStored.value = null
      id = crypto.randomUUID()
      stored.value = 'stored in the record'
      rows.value = [EMPTY, EMPTY, EMPTY]
      note.value = ''
    } catch (error) {
      notStored.value = sayProblem(error)
    } finally {
      busy.value = false
    }
  }
  const next = computed(() =>
    task.value.runs.length === 0
      ? past.value.length === 0
        ? 'Type what the reference and the meter read. The first comparison becomes the baseline.'
        : 'Type what the reference and the meter read, at the flows of the baseline.'
      : zero.value
        ? 'A reference of 0 says nothing: type another run.'
        : 'Record the comparison.',
  )
  return {
    kind,
    by,
    how,
    reckoned,
    Ureckoned_pct,
    Uref_pct,
    Umeter_pct,
    tolerance_pct,
    note,
    rows,
    change,
    another,
    leaveOut,
    zero,
    trouble,
    kept,
    task,
    result,
    chart,
    counter,
    total,
    takeTotal,
    busy,
    stored,
    record,
    next,
  }
}
