import type { Wiring } from '@calm/core/part/wiring'
import { culprits, type Culprit } from '@calm/core/wire/proof/culprit'
import type { Senses } from '@calm/core/family/family'

export interface CulpritOrder {
  readonly wiring: Wiring
  readonly senses: Senses | null
}
export type CulpritReport = Culprit | null

self.onmessage = ({ data }: MessageEvent<CulpritOrder>) => {
  const found: CulpritReport = culprits(data.wiring, data.senses)[0] ?? null
  self.postMessage(found)
}
