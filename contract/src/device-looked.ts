import type { Looked } from '@calm/core/procedure/seen'
import { allowedOf } from '@calm/core/procedure/allowed'
import type { ProcedureStarted } from '@calm/core/procedure/events'
import { USUAL_GATES } from '@calm/core/procedure/gate-numbers'
import type { DeviceView } from './devices.ts'

/** A device's view as what a gate looks at; without a link, or without supply, nothing is seen. */
export const lookedOf = (
  view: DeviceView,
  { context, gates = USUAL_GATES }: Pick<ProcedureStarted, 'context' | 'gates'>,
): Looked => ({
  samples: view.connected && view.powered ? view.samples : [],
  moved_s: view.movedAt_s,
  standard: view.standardShows,
  held_mA: view.fixed_mA,
  tau_s: Math.max(context.tau_s, view.settings?.damping_s ?? 0),
  still_s: gates.still_s,
  range: view.range,
  allowed: allowedOf(context),
  signals: Object.fromEntries(view.signals.flatMap((s) => (s.trend ? [[s.name, s.trend] as const] : []))),
})
