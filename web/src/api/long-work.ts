import type { Progress } from '@calm/contract/api/news'
import { onScopeDispose, ref, type Ref } from 'vue'
import { ApiProblem, GivenUp, sayProblem } from './call.ts'
import { onProgress } from './live.ts'

export interface LongWork {
  readonly busy: Ref<boolean>
  /** How far it is; null where nobody knows. */
  readonly progress: Ref<Progress | null>
  /** Why it did not end well; null otherwise. */
  readonly says: Ref<string | null>
  /** Does one thing at a time: a second press while it runs does nothing. */
  readonly begin: (work: (given: AbortSignal) => Promise<void>) => Promise<void>
  readonly giveUp: () => void
}

/** Something that takes the server a while: it tells how far it is and can be given up; leaving the page does that. */
export function useLongWork(): LongWork {
  const busy = ref(false)
  const progress = ref<Progress | null>(null)
  const says = ref<string | null>(null)
  let given: AbortController | null = null
  const stop = onProgress((p) => {
    if (busy.value) progress.value = p
  })
  const giveUp = () => given?.abort()
  onScopeDispose(() => {
    stop()
    giveUp()
  })
  async function begin(work: (given: AbortSignal) => Promise<void>): Promise<void> {
    if (busy.value) return
    busy.value = true
    progress.value = null
    says.value = null
    given = new AbortController()
    try {
      await work(given.signal)
    } catch (error) {
      if (!(error instanceof GivenUp)) says.value = sayProblem(error)
    } finally {
      busy.value = false
      given = null
    }
  }
  return { busy, progress, says, begin, giveUp }
}

/** Asks again, once, where the line was cut off or the answer took too long: what was done by then is not done again. */
export const againOnce = <T>(ask: () => Promise<T>): Promise<T> =>
  ask().catch((error: unknown) => {
    if (error instanceof ApiProblem && error.status === 0) return ask()
    throw error
  })
