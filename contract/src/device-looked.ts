import type { Looked } from '@calm/core/procedure/seen'
import type { DeviceView } from './devices.ts'

/** A device's view as what a gate looks at; without a link, or without supply, nothing is seen. */
export const lookedOf = (view: DeviceView, tau_s: number): Looked => ({
  samples: view.connected && view.powered ? view.samples : [],
  moved_s: view.movedAt_s,
  standard: view.standardShows,
  held_mA: view.fixed_mA,
  tau_s: Math.max(tau_s, view.settings?.damping_s ?? 0),
  range: view.range,
})
