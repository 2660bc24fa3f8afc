import { familyOf } from '@calm/core/family/index'
import type { SettingValue } from '@calm/core/quantity/setting'
import { characterize, type Characterization } from '@calm/core/tank/characterize'

/** A vessel by its family and entries; the points are worked out off the page's thread. */
export interface PointsOrder {
  readonly family: string
  readonly values: Readonly<Record<string, SettingValue>>
}
export type PointsReport = (Characterization & { readonly full_m3: number; readonly span_m: number }) | null

self.onmessage = ({ data }: MessageEvent<PointsOrder>) => {
  const family = familyOf(data.family)
  const vessel = family?.vessel?.(data.values) ?? null
  const report: PointsReport = vessel && {
    ...characterize((x) => vessel.volume_m3(x) - vessel.volume_m3(0), vessel.rows),
    full_m3: vessel.volume_m3(1) - vessel.volume_m3(0),
    span_m: vessel.span_m,
  }
  self.postMessage(report)
}
