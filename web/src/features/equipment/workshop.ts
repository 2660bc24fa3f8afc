import { workshop } from '@calm/contract/api/addresses'
import type { DeviceView } from '@calm/contract/devices'
import type { Workshop, WorkshopAct } from '@calm/contract/workshop'
import { shownOver, type LinkedBeaker } from '@calm/core/family/ph/linked-bench'
import { ref, shallowRef } from 'vue'
import { call, sayProblem } from '../../api/call.ts'
import { sentAgain, useDevice, type DeviceAt } from '../../device/use-device.ts'

/** What a sensor shows in its bottle, from what is on screen; null while it says nothing. */
export function beakerSeen(view: DeviceView | null): LinkedBeaker | null {
  if (!view?.connected || !view.powered) return null
  const trendOf = (name: string) => view.signals.find((s) => s.name === name)?.trend
  const [mV, t] = [trendOf('electrode_mV'), trendOf('medium_C')]
  const pv = mV && shownOver(view.samples, mV.over_s)
  return mV && t && pv ? { standsIn: view.standardShows, mV, t, pv } : null
}

/** A pH sensor on the link of the workshop: the device, the bottles taken, and the acts at the bench. */
export function useWorkshop(sensorId: string) {
  const beakers = shallowRef<Workshop['beakers']>([])
  const written = ref(false)
  const answer = ref<{ readonly ok: boolean; readonly says: string } | null>(null)
  const acting = ref(false)
  function keep(w: Workshop): DeviceView {
    beakers.value = w.beakers
    written.value = w.written
    return w.device
  }
  const at: DeviceAt = {
    look: async (sensor, since) =>
      keep(await call(workshop.look, since === undefined ? { sensor } : { sensor, since })),
    ask: (sensor, order) => call(workshop.ask, { sensor }, order),
    ports: (sensor) => call(workshop.ports, { sensor }),
    linkTest: (sensor, port) => call(workshop.linkTest, { sensor, port }),
  }
  const device = useDevice(() => sensorId, at)

  /** Sent again with the same identifier when the answer was lost on the way. */
  async function act(what: WorkshopAct['act']): Promise<boolean> {
    if (acting.value) return false
    acting.value = true
    const sent: WorkshopAct = { id: crypto.randomUUID(), act: what }
    try {
      const told = await sentAgain(() => call(workshop.act, { sensor: sensorId }, sent))
      keep(told.workshop)
      answer.value = { ok: told.ok, says: told.says }
      return told.ok
    } catch (error) {
      answer.value = { ok: false, says: sayProblem(error) }
      return false
    } finally {
      acting.value = false
    }
  }
  return { ...device, at, beakers, written, act, acting, acted: answer }
}
