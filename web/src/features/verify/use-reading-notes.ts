import { loops } from '@calm/contract/api/addresses'
import type { Phase } from '@calm/core/record/kinds/reading-values'
import type { PlanPoint } from '@calm/core/verify/plan'
import { computed, ref, toValue, type MaybeRefOrGetter } from 'vue'
import { useLive } from '../../api/live-cache.ts'
import { whenIdle } from '../../ui/when-idle.ts'
import { notesAtReadings, placeOfReading } from './reading-notes.ts'

interface ReadingsHere {
  readonly loop: string
  readonly run: string
  readonly phase: Phase
  readonly plan: readonly PlanPoint[]
  /** What was read, by the point. */
  readonly read: Readonly<Record<number, unknown>>
}

/** Notes at readings: what was written, and a new one. The record is fetched once the readings stand on the screen. */
export function useReadingNotes(readings: MaybeRefOrGetter<ReadingsHere | null>) {
  const isIdle = ref(false)
  void whenIdle().then(() => (isIdle.value = true))
  const here = computed(() => toValue(readings))
  const events = useLive(loops.events, () => (isIdle.value && here.value ? { loop: here.value.loop } : null))
  const notes = computed(() => {
    const r = here.value
    return r
      ? notesAtReadings(
          events.data.value ?? [],
          r.run,
          r.phase,
          r.plan.map((p) => p.index),
        )
      : {}
  })
  const writing = ref<{ run: string; places: string[]; place: string } | null>(null)
  /** The one that was read last is meant, unless another is chosen. */
  function write(): void {
    const r = here.value
    if (!r) return
    const last = r.plan.findLast((p) => r.read[p.index] !== undefined) ?? r.plan[0]
    const places = r.plan.map((p) => placeOfReading(r.phase, p.index))
    writing.value = { run: r.run, places, place: placeOfReading(r.phase, last?.index ?? 0) }
  }
  function kept(): void {
    writing.value = null
    void events.reload()
  }
  return { notes, writing, write, kept }
}
