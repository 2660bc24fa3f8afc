import type { Tell } from './backup-lines.ts'

const EVERY_MS = 1_000
const COUNT = new Intl.NumberFormat('en')

/** Tells how far it is, once a second, on the error stream: what comes out of a program stays what it says at its end. */
export function tellAtTerminal(): Tell {
  let last = Date.now()
  return ({ does, done, of }) => {
    if (Date.now() - last < EVERY_MS) return
    last = Date.now()
    console.error(`${does}: ${COUNT.format(done)} of ${COUNT.format(of)}`)
  }
}

/** Given up by Ctrl-C or by whoever started this. */
export function givenUp(says: string): AbortSignal {
  const given = new AbortController()
  for (const signal of ['SIGINT', 'SIGTERM'] as const)
    process.once(signal, () => given.abort(new Error(says)))
  return given.signal
}
