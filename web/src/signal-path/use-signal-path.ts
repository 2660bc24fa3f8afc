import { parseQuantity } from '@calm/core/quantity/parse-quantity'
import { roundText, sayNumber } from '@calm/core/quantity/round'
import { currentState, CURRENT_STATE_SAYS } from '@calm/core/signal/current-state'
import { compilePath, computeFrom, shownValue, type Station, type StationValue } from '@calm/core/signal/path'
import type { Stage } from '@calm/core/signal/stage'
import { stationDecimals } from '@calm/core/signal/station-decimals'
import { computed, ref, toValue, watch, type MaybeRefOrGetter } from 'vue'

export interface ShownStation {
  readonly station: Station
  readonly text: string
  /** ≥ or ≤ at a limit, ± for a code's interval. */
  readonly sign: string
  readonly isOrigin: boolean
  readonly note: string | null
}

function show(
  station: Station,
  value: StationValue | undefined,
): { text: string; sign: string; note: string | null } {
  if (!value || value.kind === 'none') return { text: '', sign: '', note: 'cannot be told' }
  const number = shownValue(value) ?? 0
  const text = roundText(number, stationDecimals(station))
  const state = station.unit === 'mA' ? currentState(number) : 'MEASURE'
  const note =
    state !== 'MEASURE'
      ? CURRENT_STATE_SAYS[state]
      : value.kind === 'interval'
        ? `from ${sayNumber(Math.min(value.lo, value.hi), 7)} to ${sayNumber(Math.max(value.lo, value.hi), 7)}`
        : null
  if (value.kind === 'atLeast')
    return { text, sign: '≥', note: note ?? 'at its limit: only this much is known' }
  if (value.kind === 'atMost')
    return { text, sign: '≤', note: note ?? 'at its limit: only this much is known' }
  return { text, sign: '', note }
}

/**
 * The signal path as something to compute with: a value typed into any station, or a level in percent,
 * drives all the others, forwards and backwards.
 */
export function useSignalPath(stages: MaybeRefOrGetter<readonly Stage[]>) {
  const path = computed(() => compilePath(toValue(stages)))
  const origin = ref(0)
  const value = ref(0)
  const typed = ref<string | null>(null)
  const trouble = ref<{ at: number; says: string } | null>(null)

  /** Sets the process to a level of the transmitter's range. */
  function setLevel(percent: number): void {
    const first = path.value.stations[0]
    if (!first) return
    origin.value = 0
    value.value = first.fromFraction(percent / 100)
    typed.value = null
    trouble.value = null
  }

  /** Takes what was typed into a station; a wrong text is told and changes nothing. */
  function type(at: number, text: string): void {
    const station = path.value.stations[at]
    if (!station) return
    const parsed = parseQuantity(text, station.unit)
    if (parsed.kind === 'refused') {
      trouble.value = { at, says: parsed.says }
      return
    }
    trouble.value = null
    if (parsed.kind === 'empty') return
    origin.value = at
    value.value = parsed.value
    typed.value = text
  }

  // A path with other stations or ranges starts at mid-range again, if the old place is gone.
  watch(
    () => path.value.stations.map((s) => s.id).join(),
    () => setLevel(50),
    { immediate: true },
  )

  const values = computed(() =>
    computeFrom(path.value, Math.min(origin.value, path.value.stations.length - 1), value.value),
  )
  const shown = computed((): ShownStation[] =>
    path.value.stations.map((station, i) => ({
      station,
      isOrigin: i === origin.value,
      ...show(station, values.value[i]),
    })),
  )
  const level = computed(() => {
    const v = values.value[0]
    return v && v.kind !== 'none' ? Math.min(100, Math.max(0, v.phi * 100)) : 0
  })
  /** The loop current of the moment, mA; null on a path without one. */
  const current_mA = computed(() => {
    const at = path.value.stations.findIndex((s) => s.unit === 'mA')
    return at < 0 ? null : shownValue(values.value[at] ?? { kind: 'none' })
  })
  return { shown, level, origin, typed, trouble, current_mA, setLevel, type }
}
export type SignalPathWork = ReturnType<typeof useSignalPath>
