import { comparisons } from '@calm/contract/api/addresses'
import type { NewComparison } from '@calm/contract/comparisons'
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
}
const EMPTY: ComparedRow = { reference: null, indicated: null, path: null }
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
  const task = computed(() => ({
    kind: kind.value,
    unit: told.unit,
    Uref_pct: Uref_pct.value ?? 0,
    Umeter_pct: Umeter_pct.value ?? 0,
    tolerance_pct: tolerance_pct.value ?? told.allowedPct,
    runs: rows.value.flatMap((r) =>
      r.reference === null || r.indicated === null
        ? []
        : [{ reference: r.reference, indicated: r.indicated, path: r.path }],
    ),
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
    const row: ComparedRow = { reference: counter.value.reference, indicated: t.V, path: null }
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
