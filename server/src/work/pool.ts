import { existsSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { availableParallelism } from 'node:os'
import { Worker } from 'node:worker_threads'
import type { Order, Work } from './work.ts'

/** What became of a piece of work: its result, or why there is none. */
export type Outcome<Out> =
  | { readonly kind: 'done'; readonly result: Out }
  | { readonly kind: 'too-long' | 'too-large' | 'busy' | 'given-up' }

/** Threads that wait for their first work are this large. */
const USUAL_MB = 256
/**
 * Longer queues only mean that everybody waits in vain; so does a longer wait behind the work of others. A thread that
 * is still starting holds nobody back: what waits for it alone is not sent away.
 */
const MOST_WAITING = 64
const LONGEST_WAIT_MS = 3_000

interface Job {
  readonly order: Order
  readonly work: Pick<Work<unknown, unknown>, 'time_ms' | 'memory_MB'>
  readonly tell: (told: unknown) => void
  readonly settle: (o: Outcome<unknown>) => void
  readonly fail: (e: Error) => void
  /** When it came, or when a thread that it had to wait for had started. */
  since: number
}
interface Thread {
  readonly worker: Worker
  readonly memory_MB: number
  ready: boolean
  job: Job | null
  timer: NodeJS.Timeout | undefined
}
type Told =
  | { readonly ready: true }
  | { readonly tells: unknown }
  | { readonly ok: true; readonly result: unknown }
  | { readonly ok: false; readonly says: string }

export interface Pool {
  readonly run: <In, Out, T = never>(
    work: Work<In, Out, T>,
    input: In,
    more?: {
      /** Hears what the work tells on its way. */
      readonly tell?: (told: T) => void
      /** Whoever asked does not want it any more: it waits no longer, or its thread is ended. */
      readonly signal?: AbortSignal
    },
  ) => Promise<Outcome<Out>>
  /** How many threads there are, how many are at work, and how many tasks wait. */
  readonly state: () => { readonly threads: number; readonly busy: number; readonly waiting: number }
  readonly stop: () => Promise<void>
}

/** The bundled thread: beside the bundled server, or where the tests built it. */
function workerFile(): string {
  const given = process.env['CALM_WORKER']
  if (given) return given
  let at = dirname(fileURLToPath(import.meta.url))
  for (;;) {
    for (const file of [join(at, 'worker.js'), join(at, 'dist/worker.js')]) if (existsSync(file)) return file
    const up = dirname(at)
    if (up === at) throw new Error('the pool’s worker is not built')
    at = up
  }
}

/**
 * Threads for work that could hold the server up. Each work has a time and a memory: a thread that does not answer
 * in time, or runs out of memory, is ended and another takes its place; the main thread never waits.
 */
export function startPool(
  threads = Math.max(1, Math.min(4, availableParallelism())),
  file = workerFile(),
): Pool {
  const all = new Set<Thread>()
  const waiting: Job[] = []
  let stopped = false

  function drop(t: Thread): void {
    clearTimeout(t.timer)
    all.delete(t)
    void t.worker.terminate()
  }
  function begin(memory_MB: number): Thread {
    const worker = new Worker(file, { resourceLimits: { maxOldGenerationSizeMb: memory_MB }, execArgv: [] })
    worker.unref()
    const t: Thread = { worker, memory_MB, ready: false, job: null, timer: undefined }
    all.add(t)
    worker.on('message', (told: Told) => {
      if ('ready' in told) {
        t.ready = true
        for (const job of waiting) job.since = performance.now()
        next()
        return
      }
      const { job } = t
      if ('tells' in told) {
        job?.tell(told.tells)
        return
      }
      clearTimeout(t.timer)
      t.job = null
      if (told.ok) job?.settle({ kind: 'done', result: told.result })
      else job?.fail(new Error(told.says))
      next()
    })
    const ended = (error: NodeJS.ErrnoException) => {
      const { job } = t
      t.job = null
      drop(t)
      if (error.code === 'ERR_WORKER_OUT_OF_MEMORY') job?.settle({ kind: 'too-large' })
      else job?.fail(error)
      next()
    }
    worker.on('error', ended)
    return t
  }
  /** Gives a task to a thread that is free and large enough; an idle one that is too small makes room. */
  function next(): void {
    if (stopped) return
    while (waiting.length > 0) {
      const job = waiting[0]
      if (!job) return
      if (performance.now() - job.since > LONGEST_WAIT_MS) {
        waiting.shift()
        job.settle({ kind: 'busy' })
        continue
      }
      const { memory_MB, time_ms } = job.work
      const idle = [...all].filter((t) => t.job === null)
      let t = idle.find((x) => x.memory_MB === memory_MB)
      if (!t) {
        const other = idle[0]
        if (all.size >= threads && !other) return
        if (all.size >= threads && other) drop(other)
        t = begin(memory_MB)
      }
      if (!t.ready) return
      waiting.shift()
      const thread = t
      thread.job = job
      thread.timer = setTimeout(() => {
        thread.job = null
        drop(thread)
        job.settle({ kind: 'too-long' })
        next()
      }, time_ms)
      thread.worker.postMessage(job.order)
    }
  }
  function giveUp(job: Job): void {
    const place = waiting.indexOf(job)
    const thread = [...all].find((t) => t.job === job)
    if (place >= 0) waiting.splice(place, 1)
    else if (thread) {
      thread.job = null
      drop(thread)
    } else return
    job.settle({ kind: 'given-up' })
    next()
  }
  // The first asker does not wait for a thread to start.
  for (let i = 0; i < threads; i++) begin(USUAL_MB)

  return {
    run: <In, Out, T>(
      work: Work<In, Out, T>,
      input: In,
      {
        tell = () => undefined,
        signal,
      }: { readonly tell?: (told: T) => void; readonly signal?: AbortSignal } = {},
    ) =>
      new Promise<Outcome<Out>>((settle, fail) => {
        if (signal?.aborted) {
          settle({ kind: 'given-up' })
          return
        }
        if (stopped || waiting.length >= MOST_WAITING) {
          settle({ kind: 'busy' })
          return
        }
        const onGone = () => {
          giveUp(job)
        }
        // A work and its result belong together; the queue holds all kinds.
        const job: Job = {
          order: { name: work.name, input },
          work,
          tell: tell as Job['tell'],
          settle: (o) => {
            // What was asked for stays in memory as long as somebody listens for its being given up.
            signal?.removeEventListener('abort', onGone)
            settle(o as Outcome<Out>)
          },
          fail,
          since: performance.now(),
        }
        waiting.push(job)
        signal?.addEventListener('abort', onGone)
        next()
      }),
    state: () => ({
      threads: all.size,
      busy: [...all].filter((t) => t.job !== null).length,
      waiting: waiting.length,
    }),
    async stop() {
      stopped = true
      for (const job of waiting.splice(0)) job.settle({ kind: 'busy' })
      await Promise.all(
        [...all].map((t) => {
          clearTimeout(t.timer)
          t.job?.settle({ kind: 'busy' })
          return t.worker.terminate()
        }),
      )
      all.clear()
    },
  }
}
