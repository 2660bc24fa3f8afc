/**
 * Does something again and again, one at a time: a turn that takes longer lets the next ones go by.
 * @param once - tells its own trouble; it never throws
 * @returns how to stop: it waits for the turn that goes on
 */
export function again(every_ms: number, once: () => Promise<void>): () => Promise<void> {
  let working: Promise<void> | null = null
  const timer = setInterval(() => {
    working ??= once().finally(() => (working = null))
  }, every_ms)
  timer.unref()
  return async () => {
    clearInterval(timer)
    await working
  }
}
