import type { Request, RequestHandler } from 'express'
import { HttpProblem } from './problems.ts'

/** Bodies on their way at once: more than any page of ours sends, fewer than would fill the server. */
const MOST_BODIES = { address: 48, person: 16 }

/** Counts by key, for this server; others count their own. */
export class Counter {
  private readonly counts = new Map<string, number>()
  constructor(private readonly most: number) {}
  /** @returns how to give the place back, or null where there is none */
  take(key: string): (() => void) | null {
    const n = this.counts.get(key) ?? 0
    if (n >= this.most) return null
    this.counts.set(key, n + 1)
    let given = false
    return () => {
      if (given) return
      given = true
      const left = (this.counts.get(key) ?? 1) - 1
      if (left <= 0) this.counts.delete(key)
      else this.counts.set(key, left)
    }
  }
}

/** Slow bodies: so many at once from one address and of one person, and no more. */
export function bodyLimits(personOf: (req: Request) => string | undefined): RequestHandler {
  const byAddress = new Counter(MOST_BODIES.address)
  const byPerson = new Counter(MOST_BODIES.person)
  return (req, res, next) => {
    if (req.headers['content-length'] === undefined && req.headers['transfer-encoding'] === undefined) {
      next()
      return
    }
    const person = personOf(req)
    const places = [
      byAddress.take(req.ip ?? ''),
      person === undefined ? () => undefined : byPerson.take(person),
    ]
    const giveBack = () => {
      for (const p of places) p?.()
    }
    if (places.includes(null)) {
      giveBack()
      throw new HttpProblem('busy', 'Too much is being sent at once. Wait a moment, then send it again.')
    }
    req.once('end', giveBack)
    res.once('close', giveBack)
    next()
  }
}
