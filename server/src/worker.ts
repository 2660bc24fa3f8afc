// A thread of the pool: takes one task at a time and answers it. Whoever started it ends it when it does not answer.
import { setPriority } from 'node:os'
import { parentPort } from 'node:worker_threads'
import { done, type Task } from './work/tasks.ts'

// Below the thread that answers everybody (on Linux a thread has a priority of its own).
const LOWER = 10
try {
  setPriority(0, LOWER)
} catch {
  // Not allowed here: it works as well, only less politely.
}
parentPort?.on('message', (task: Task) => {
  try {
    parentPort?.postMessage({ ok: true, result: done(task) })
  } catch (error) {
    parentPort?.postMessage({
      ok: false,
      says: error instanceof Error ? (error.stack ?? error.message) : String(error),
    })
  }
})
parentPort?.postMessage({ ready: true })
