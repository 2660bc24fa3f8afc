import { logs } from '@calm/contract/api/addresses'
import type { Log, NewLog } from '@calm/contract/logs'
import { headOf, linesOf, type RecordedRow } from '@calm/core/logs/recording'
import { computed, onScopeDispose, ref, shallowRef } from 'vue'
import { ApiProblem, call, sayProblem } from '../../api/call.ts'

/** So often what was recorded is sent: a window that is closed loses no more than this. */
export const SENT_EVERY_MS = 10_000

/** A log that is recorded now: its rows go to the server as they come, and wait while it is away. */
export function useRecording() {
  const log = shallowRef<Log | null>(null)
  const running = ref(false)
  const says = ref<string | null>(null)
  const problem = shallowRef<ApiProblem | null>(null)
  const rows = ref(0)
  const waiting = shallowRef<readonly RecordedRow[]>([])
  /** What is on its way, word for word, until the server has it. */
  let sent: { piece: number; text: string; rows: number } | null = null
  let sending: Promise<void> | null = null
  let timer: ReturnType<typeof setInterval> | undefined
  let names: readonly { readonly name: string }[] = []

  async function begin(loop: string, asked: NewLog): Promise<boolean> {
    says.value = null
    problem.value = null
    try {
      log.value = await call(logs.begin, { loop }, asked)
    } catch (error) {
      if (error instanceof ApiProblem && (error.problem.errors ?? []).length > 0) problem.value = error
      says.value = sayProblem(error)
      return false
    }
    names = log.value.channels
    rows.value = log.value.rows
    running.value = true
    timer = setInterval(() => void flush().catch(() => undefined), SENT_EVERY_MS)
    return true
  }
  function add(more: readonly RecordedRow[]): void {
    if (!running.value || more.length === 0) return
    waiting.value = [...waiting.value, ...more]
    rows.value += more.length
  }
  /** Sends what waits; one sending at a time, the same again where its answer was lost. */
  async function flush(): Promise<void> {
    if (sending) return sending
    const here = log.value
    if (!here || (!sent && waiting.value.length === 0)) return
    sending = (async () => {
      const piece = sent?.piece ?? here.pieces
      const now = (sent ??= {
        piece,
        text: (piece === 0 ? headOf(names) : '') + linesOf(waiting.value),
        rows: waiting.value.length,
      })
      try {
        const { text } = now
        log.value = await call(
          logs.piece,
          { loop: here.tag, log: here.id },
          { piece, file: 0, beginsFile: piece === 0, text },
        )
        waiting.value = waiting.value.slice(now.rows)
        sent = null
        says.value = null
      } catch (error) {
        if (error instanceof ApiProblem && error.status === 409) await behind(here)
        says.value = `${sayProblem(error)} ${waiting.value.length === 1 ? 'One row waits here and is' : `${waiting.value.length} rows wait here and are`} sent again.`
        throw error
      } finally {
        sending = null
      }
    })()
    return sending
  }
  /** Another window went on with the same recording: what waits here comes behind what that one sent. */
  async function behind(here: Log): Promise<void> {
    log.value = await call(logs.one, { loop: here.tag, log: here.id })
    sent = null
    if (log.value.state === 'kept') halt()
  }
  function halt(): void {
    running.value = false
    clearInterval(timer)
  }
  /** Ends it. @returns the log once it is whole and in the record; null where it is not yet */
  async function keep(): Promise<Log | null> {
    halt()
    try {
      // What came while it was sending goes behind it.
      for (let n = 0; n < 3 && (sent !== null || waiting.value.length > 0); n++) await flush()
      const here = log.value
      if (!here) return null
      log.value = await call(logs.keep, { loop: here.tag, log: here.id }, { at: new Date().toISOString() })
      return log.value
    } catch (error) {
      says.value ??= sayProblem(error)
      return null
    }
  }
  /** Ends it; nothing of it stays. */
  async function giveUp(): Promise<void> {
    halt()
    const here = log.value
    log.value = null
    waiting.value = []
    sent = null
    if (here?.state === 'open')
      await call(logs.giveUp, { loop: here.tag, log: here.id }).catch((error: unknown) => {
        says.value = sayProblem(error)
      })
  }
  onScopeDispose(() => {
    halt()
    // What was seen so far is not lost with the page: it lies there, not whole, to be gone on with.
    void flush().catch(() => undefined)
  })
  return {
    log,
    running,
    says,
    problem,
    rows,
    waits: computed(() => waiting.value.length),
    begin,
    add,
    flush,
    keep,
    giveUp,
  }
}
