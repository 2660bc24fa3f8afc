import { onScopeDispose, ref, shallowRef } from 'vue'
import type { TrialsOrder, TrialsReport } from './trials.worker.ts'

type Done = Extract<TrialsReport, { kind: 'done' }>

/** Monte Carlo in a worker, with progress and cancel; a new order ends the one before. */
export function useTrials() {
  const share = ref<number | null>(null)
  const trials = ref(0)
  const done = shallowRef<Done | null>(null)
  let worker: Worker | null = null

  function cancel(): void {
    worker?.terminate()
    worker = null
    share.value = null
  }
  function start(order: TrialsOrder): void {
    cancel()
    done.value = null
    share.value = 0
    trials.value = 0
    worker = new Worker(new URL('./trials.worker.ts', import.meta.url), { type: 'module' })
    worker.onmessage = ({ data }: MessageEvent<TrialsReport>) => {
      if (data.kind === 'progress') {
        share.value = data.share
        trials.value = data.trials
        return
      }
      done.value = data.kind === 'done' ? data : null
      cancel()
    }
    worker.postMessage(order)
  }
  onScopeDispose(cancel)
  return { share, trials, done, start, cancel }
}
