import { settings } from '@calm/contract/api/addresses'
import type { ChangeRules, PlantRules } from '@calm/contract/settings'
import { shallowRef } from 'vue'
import { ApiProblem, call, sayProblem } from '../../../api/call.ts'
import { useLive } from '../../../api/live-cache.ts'
import { useSession } from '../../../api/session-store.ts'

/** The rules of the plant as they are, and deciding one of them anew. */
export function useRules() {
  const session = useSession()
  const live = useLive(settings.rules, {})
  /** Why the last decision was not taken. */
  const refused = shallowRef<string | null>(null)
  async function decide(change: ChangeRules): Promise<void> {
    refused.value = null
    try {
      await call(settings.changeRules, {}, change)
    } catch (error) {
      refused.value =
        error instanceof ApiProblem && error.problem.errors?.[0]
          ? error.problem.errors[0].says
          : sayProblem(error)
    }
  }
  return { rules: live.data, says: live.says, refused, decide, session }
}
export type Rules = PlantRules
