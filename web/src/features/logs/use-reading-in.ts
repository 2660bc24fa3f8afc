import { logs } from '@calm/contract/api/addresses'
import type { Log, NewLog } from '@calm/contract/logs'
import { computed, ref, shallowRef } from 'vue'
import { ApiProblem, call, GivenUp, sayProblem } from '../../api/call.ts'
import { piecesOf } from './file-pieces.ts'

/** A server that is away for a moment is waited for this long, and twice as long each time. */
const FIRST_WAIT_MS = 1000
const MOST_TRIES = 6
const CONFLICT = 409
/** As many pieces are on their way besides the one that is stored. */
const MOST_AHEAD = 2

/** Reads files into a log, a piece at a time: how far it is, given up, gone on with where it stopped. */
export function useReadingIn() {
  const busy = ref(false)
  const says = ref<string | null>(null)
  const problem = shallowRef<ApiProblem | null>(null)
  const log = shallowRef<Log | null>(null)
  const done = ref(0)
  const size = ref(1)
  let given: AbortController | null = null

  /** Sends one piece; a moment without the server loses nothing. */
  async function send(loop: string, id: string, body: Parameters<typeof sendOnce>[2]): Promise<Log> {
    for (let tries = 1; ; tries++)
      try {
        return await sendOnce(loop, id, body)
      } catch (error) {
        if (!(error instanceof ApiProblem) || !error.passing || tries >= MOST_TRIES || given?.signal.aborted)
          throw error
        await new Promise((go) => setTimeout(go, FIRST_WAIT_MS * 2 ** (tries - 1)))
      }
  }
  const sendOnce = (
    loop: string,
    id: string,
    body: { piece: number; file: number; beginsFile: boolean; text: string },
  ) => call(logs.piece, { loop, log: id }, body, given?.signal)

  /**
   * Sends a piece while those before it are on their way still. Where it overtook them it is told so, and sent again
   * behind them.
   */
  async function sendBehind(
    before: readonly Promise<Log>[],
    loop: string,
    id: string,
    body: Parameters<typeof sendOnce>[2],
  ): Promise<Log> {
    try {
      return await send(loop, id, body)
    } catch (error) {
      if (before.length === 0 || !(error instanceof ApiProblem) || error.status !== CONFLICT) throw error
      await Promise.all(before)
      return send(loop, id, body)
    }
  }

  /** @returns the log once it is whole and in the record; null where it is not */
  async function readIn(loop: string, asked: NewLog, files: readonly File[]): Promise<Log | null> {
    if (busy.value) return null
    given = new AbortController()
    busy.value = true
    says.value = null
    problem.value = null
    done.value = 0
    size.value = Math.max(
      1,
      files.reduce((n, f) => n + f.size, 0),
    )
    try {
      log.value = await call(logs.begin, { loop }, asked, given.signal)
      const there = log.value.pieces
      let piece = 0
      /** One is stored while the next one is read and another one comes. */
      const sent: Promise<Log>[] = []
      for (const [file, f] of files.entries()) {
        let beginsFile = true
        for await (const text of piecesOf(f)) {
          // What came already is not sent again: it goes on where it stopped.
          if (piece >= there) {
            const one = sendBehind([...sent], loop, asked.id, { piece, file, beginsFile, text })
            // It may fail before anybody asks for it.
            one.catch(() => undefined)
            sent.push(one)
            if (sent.length > MOST_AHEAD) log.value = (await sent.shift()) ?? log.value
          }
          piece++
          beginsFile = false
          done.value += text.length
        }
      }
      for (const one of sent) log.value = await one
      log.value = await call(logs.keep, { loop, log: asked.id }, { at: new Date().toISOString() })
      return log.value
    } catch (error) {
      if (error instanceof GivenUp) return null
      if (error instanceof ApiProblem && (error.problem.errors ?? []).length > 0) problem.value = error
      says.value =
        error instanceof ApiProblem
          ? sayProblem(error)
          : error instanceof Error
            ? error.message
            : 'The file cannot be read.'
      return null
    } finally {
      busy.value = false
    }
  }

  /** Stops; nothing of the log stays. */
  async function giveUp(loop: string): Promise<void> {
    given?.abort()
    const here = log.value
    log.value = null
    if (here?.state === 'open') await call(logs.giveUp, { loop, log: here.id }).catch(() => undefined)
  }
  const share = computed(() => Math.min(1, done.value / size.value))
  return { busy, says, problem, log, share, readIn, giveUp }
}
