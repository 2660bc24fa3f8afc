import { inputs } from '@calm/contract/api/addresses'
import type { InputVerification, InputVerified, LiveInput } from '@calm/contract/inputs'
import { checkInput, countTable } from '@calm/core/verify/input-check'
import { computed, onScopeDispose, ref, shallowRef, toValue, watch, type MaybeRefOrGetter } from 'vue'
import { plantTime } from '../../api/clock.ts'
import { call, sayProblem } from '../../api/call.ts'
import { saveCsv } from '../../ui/save-csv.ts'

const LOOK_MS = 1000
const LIVE_S = 60

/** What a cycle should take and how the input is filtered, as it is told here. */
export interface InputSettings {
  readonly filter_ms: number
  readonly ideal_s: number
  readonly least_s: number
  readonly most_s: number
}

/** A discrete input, looked at every second, and counted over a window on request. */
export function useInput(loopId: MaybeRefOrGetter<string | null>, settings: MaybeRefOrGetter<InputSettings>) {
  const live = shallowRef<LiveInput | null>(null)
  const counted = shallowRef<LiveInput | null>(null)
  const planned_s = ref<number | null>(null)
  const good = ref<number | null>(null)
  const trouble = ref<string | null>(null)
  const busy = ref(false)
  let timer: ReturnType<typeof setTimeout> | undefined
  let gone = false

  const ask = async (seconds: number): Promise<LiveInput | null> => {
    const id = toValue(loopId)
    if (!id) return null
    try {
      const told = await call(inputs.look, { loop: id, seconds })
      trouble.value = null
      return id === toValue(loopId) ? told : null
    } catch (error) {
      trouble.value = sayProblem(error)
      return null
    }
  }
  async function look(): Promise<void> {
    clearTimeout(timer)
    if (!document.hidden) live.value = (await ask(LIVE_S)) ?? live.value
    clearTimeout(timer)
    if (!gone) timer = setTimeout(() => void look(), LOOK_MS)
  }
  watch(
    () => toValue(loopId),
    () => {
      live.value = counted.value = null
      void look()
    },
    { immediate: true },
  )
  onScopeDispose(() => {
    gone = true
    clearTimeout(timer)
  })
  /** Counts the last so many seconds. */
  async function count(seconds: number): Promise<void> {
    busy.value = true
    counted.value = await ask(seconds)
    busy.value = false
  }
  const task = computed(() => {
    const c = counted.value
    return (
      c && {
        from_s: c.from_s,
        to_s: c.t_s,
        ...toValue(settings),
        planned_s: planned_s.value,
        good: good.value,
      }
    )
  })
  const result = computed(() =>
    task.value && counted.value ? checkInput({ ...task.value, edges: counted.value.edges }) : null,
  )

  /** Every count with its time and its cycle, as a file. */
  function saveCounts(tag: string): void {
    if (!result.value || !task.value || !counted.value) return
    const { columns, rows } = countTable(result.value, task.value, Date.parse(counted.value.zero))
    void saveCsv(
      `${tag}-counts.csv`,
      [columns, ...rows].map((r) => r.map(String)),
    )
  }

  let id = crypto.randomUUID()
  const stored = shallowRef<InputVerified | null>(null)
  /** Judged by the server from the input itself, and kept; a second press keeps it once. */
  async function record(what: Omit<InputVerification, 'id' | 'at' | 'counted' | 'equipment'>): Promise<void> {
    const loop = toValue(loopId)
    if (!loop || busy.value) return
    busy.value = true
    const body: InputVerification = {
      ...what,
      id,
      at: plantTime(),
      equipment: [],
      counted: task.value,
    }
    try {
      stored.value = await call(inputs.verify, { loop }, body)
      trouble.value = null
      id = crypto.randomUUID()
    } catch (error) {
      trouble.value = sayProblem(error)
    } finally {
      busy.value = false
    }
  }
  return { live, counted, planned_s, good, trouble, busy, result, stored, count, record, saveCounts }
}
