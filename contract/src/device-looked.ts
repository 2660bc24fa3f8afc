import type { Looked } from '@calm/core/procedure/seen'
import type { ProcedureContext } from '@calm/core/procedure/step'
import { allowedOf } from '@calm/core/procedure/allowed'
import type { DeviceView } from './devices.ts'

/** A device's view as what a gate looks at; without a link, or without supply, nothing is seen. */
export const lookedOf = (
  view: DeviceView,
  context: Pick<ProcedureContext, 'tau_s' | 'tolerance_pct' | 'range'>,
): Looked => ({
  samples: view.connected && view.powered ? view.samples : [],
  moved_s: view.movedAt_s,
  standard: view.standardShows,
  held_mA: view.fixed_mA,
  tau_s: Math.max(context.tau_s, view.settings?.damping_s ?? 0),
  range: view.range,
  allowed: allowedOf(context),
  signals: Object.fromEntries(view.signals.flatMap((s) => (s.trend ? [[s.name, s.trend] as const] : []))),
})
