import type { Wiring } from '@calm/core/part/wiring'
import { culprits, type Culprit } from '@calm/core/wire/proof/culprit'
import type { Meant } from '@calm/core/wire/proof/states'

export interface CulpritOrder {
  readonly wiring: Wiring
  readonly meant: Meant
}
export type CulpritReport = Culprit | null

self.onmessage = ({ data }: MessageEvent<CulpritOrder>) => {
  const found: CulpritReport = culprits(data.wiring, data.meant)[0] ?? null
  self.postMessage(found)
}
