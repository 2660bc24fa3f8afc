import { devices } from '@calm/contract/api/addresses'
import type { DeviceAnswer, DeviceOrder, DeviceView, LinkTest, Ports } from '@calm/contract/devices'
import { onScopeDispose, ref, shallowRef, toValue, watch, type MaybeRefOrGetter } from 'vue'
import { call, sayProblem } from '../api/call.ts'

const LOOK_MS = 1000
/** Samples that are kept: the longest window that a gate looks at. */
const KEPT = 480

/** As often an order is sent whose answer was lost on the way. */
const MOST_SENDS = 3
/** Sends what may come twice: again, when its answer was lost on the way. */
export async function sentAgain<T>(send: () => Promise<T>): Promise<T> {
  for (let n = 1; ; n++)
    try {
      return await send()
    } catch (error) {
      if (n >= MOST_SENDS || !(error as { passing?: boolean }).passing) throw error
    }
}

/** Where a device hangs, and how it is asked: on a loop, or on the link of the workshop. */
export interface DeviceAt {
  readonly look: (id: string, since?: number) => Promise<DeviceView>
  readonly ask: (id: string, order: DeviceOrder) => Promise<DeviceAnswer>
  readonly ports: (id: string) => Promise<Ports>
  readonly linkTest: (id: string, port: string) => Promise<LinkTest>
}
export const ON_LOOP: DeviceAt = {
  look: (loop, since) => call(devices.look, since === undefined ? { loop } : { loop, since }),
  ask: (loop, order) => call(devices.ask, { loop }, order),
  ports: (loop) => call(devices.ports, { loop }),
  linkTest: (loop, port) => call(devices.linkTest, { loop, port }),
}

/** A device, looked at every second as long as this is on screen, and what it answered last. */
export function useDevice(deviceId: MaybeRefOrGetter<string | null>, at: DeviceAt = ON_LOOP) {
  const view = shallowRef<DeviceView | null>(null)
  const trouble = ref<string | null>(null)
  const answer = shallowRef<{ ok: boolean; says: string } | null>(null)
  const busy = ref(false)
  let timer: ReturnType<typeof setTimeout> | undefined
  let gone = false
  /** Orders given so far: a look from before an order tells what was before it. */
  let orders = 0

  async function look(): Promise<void> {
    clearTimeout(timer)
    const id = toValue(deviceId)
    const before = orders
    if (id && !document.hidden) {
      try {
        const known = view.value?.samples.at(-1)?.t_s
        const told = await at.look(id, known)
        if (id === toValue(deviceId) && before === orders)
          view.value = { ...told, samples: [...(view.value?.samples ?? []), ...told.samples].slice(-KEPT) }
        trouble.value = null
      } catch (error) {
        trouble.value = sayProblem(error)
      }
    }
    clearTimeout(timer)
    if (!gone) timer = setTimeout(() => void look(), LOOK_MS)
  }
  watch(
    () => toValue(deviceId),
    () => {
      view.value = null
      void look()
    },
    { immediate: true },
  )
  onScopeDispose(() => {
    gone = true
    clearTimeout(timer)
  })

  /** Asks for something; sent again with the same identifier when the answer was lost on the way. */
  async function ask(command: DeviceOrder['command']): Promise<boolean> {
    const id = toValue(deviceId)
    if (!id || busy.value) return false
    busy.value = true
    orders++
    const order: DeviceOrder = { id: crypto.randomUUID(), command }
    try {
      const told = await sentAgain(() => at.ask(id, order))
      orders++
      const last = view.value?.samples.at(-1)?.t_s ?? -Infinity
      view.value = {
        ...told.device,
        samples: [...(view.value?.samples ?? []), ...told.device.samples.filter((s) => s.t_s > last)].slice(
          -KEPT,
        ),
      }
      answer.value = { ok: told.ok, says: told.says }
      return told.ok
    } catch (error) {
      answer.value = { ok: false, says: sayProblem(error) }
      return false
    } finally {
      busy.value = false
    }
  }
  return { view, trouble, answer, busy, ask, look }
}
