import { ref, shallowRef } from 'vue'
import { ApiProblem, sayProblem } from './call.ts'

/** Something that is sent once at a time: what is wrong with a field is told there, anything else beside the button. */
export function useSubmit() {
  const busy = ref(false)
  const problem = shallowRef<ApiProblem | null>(null)
  /** What is against it and belongs to no field; null where nothing is. */
  const says = ref<string | null>(null)
  /** @returns whether it was done */
  async function submit(work: () => Promise<void>): Promise<boolean> {
    if (busy.value) return false
    busy.value = true
    problem.value = null
    says.value = null
    try {
      await work()
      return true
    } catch (error) {
      const atFields = error instanceof ApiProblem && (error.problem.errors ?? []).length > 0
      if (atFields) problem.value = error
      else says.value = sayProblem(error)
      return false
    } finally {
      busy.value = false
    }
  }
  /** What is wrong with the field at this path. */
  const at = (path: string): string | null => problem.value?.at(path) ?? null
  return { busy, says, submit, at }
}
