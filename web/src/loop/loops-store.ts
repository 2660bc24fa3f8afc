import type { LoopRow } from '@calm/contract/loops'
import { defineStore } from 'pinia'
import { ref, shallowRef } from 'vue'
import { api, sayProblem } from '../api/http.ts'
import { onNews } from '../api/live.ts'
import { oneAtATime } from '../api/one-at-a-time.ts'

const QUIET_MS = 400

/** The plant's list, kept for the list page and the search. */
export const useLoops = defineStore('loops', () => {
  const rows = shallowRef<readonly LoopRow[]>([])
  const loaded = ref(false)
  const trouble = ref<string | null>(null)
  let timer: ReturnType<typeof setTimeout> | undefined

  const load = oneAtATime(async () => {
    try {
      rows.value = await api<LoopRow[]>('GET', '/api/loops')
      trouble.value = null
    } catch (error) {
      trouble.value = sayProblem(error)
    }
    loaded.value = true
  })
  // Many changes at once (an import) make one reload.
  onNews(() => {
    if (!loaded.value) return
    clearTimeout(timer)
    timer = setTimeout(() => void load(), QUIET_MS)
  })
  return { rows, loaded, trouble, load }
})
