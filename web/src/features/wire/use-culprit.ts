import type { Wiring } from '@calm/core/part/wiring'
import type { Culprit } from '@calm/core/wire/proof/culprit'
import type { Meant } from '@calm/core/wire/proof/states'
import { useDebounceFn } from '@vueuse/core'
import { onScopeDispose, shallowRef, watch } from 'vue'
import type { CulpritOrder, CulpritReport } from './culprit.worker.ts'

const SEARCH_AFTER_MS = 250

/** A wrong wiring, to be searched; null where there is nothing to look for. */
export type Suspect = { readonly wiring: Wiring; readonly meant: Meant } | null

/** Searches what would put a wiring right, in a worker: a cabinet takes seconds, and the board stays under the hand. */
export function useCulprit(suspect: () => Suspect) {
  const culprit = shallowRef<Culprit | null>(null)
  let worker: Worker | null = null
  function stop(): void {
    worker?.terminate()
    worker = null
  }
  const search = useDebounceFn(() => {
    const now = suspect()
    stop()
    if (!now) return
    worker = new Worker(new URL('./culprit.worker.ts', import.meta.url), { type: 'module' })
    worker.onmessage = ({ data }: MessageEvent<CulpritReport>) => {
      culprit.value = data
      stop()
    }
    // What a page watches cannot be handed over as it is.
    const order = JSON.parse(JSON.stringify(now)) as CulpritOrder
    worker.postMessage(order)
  }, SEARCH_AFTER_MS)
  watch(
    suspect,
    (now) => {
      culprit.value = null
      stop()
      if (now) void search()
    },
    { immediate: true },
  )
  onScopeDispose(stop)
  return culprit
}
