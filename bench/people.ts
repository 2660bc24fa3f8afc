import { randomUUID } from 'node:crypto'
import type { LoopRow } from '@calm/contract/loops'
import { ProcedureClient } from './procedure-client.ts'
import { percentile, type Figure } from './report.ts'

const PEOPLE = 200
const FOR_S = 60
/** Somebody at a loop looks at it, at what was done there, and writes something down; between them work is done. */
const BETWEEN_S = 4

/** Two hundred people at work on loops of their own for a minute: how long an answer takes, and that none is missing. */
export async function peopleFigures(base: string): Promise<Figure[]> {
  const client = new ProcedureClient(base)
  await client.signIn()
  // A session of one's own each, as tablets have.
  const sessions: string[] = []
  for (let n = 0; n < PEOPLE; n++) {
    const own = new ProcedureClient(base)
    await own.signIn()
    sessions.push(own.session)
  }
  const { body: loops } = await client.ask<LoopRow[]>('GET', '/api/loops')
  const took: number[] = []
  const failed: string[] = []
  const until = performance.now() + FOR_S * 1000
  const ask = async (nth: number, method: string, path: string, body?: unknown) => {
    const begun = performance.now()
    const answer = await fetch(base + path, {
      method,
      headers: { 'content-type': 'application/json', cookie: sessions[nth] ?? '' },
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
    })
    await answer.arrayBuffer()
    took.push(performance.now() - begun)
    if (!answer.ok) failed.push(`${method} ${path} answered ${answer.status}`)
  }
  const pause = (s: number) => new Promise((r) => setTimeout(r, 1000 * s))
  const works = async (nth: number) => {
    const id = loops[nth % loops.length]?.id ?? ''
    // Not all in the same moment.
    await pause((BETWEEN_S * nth) / PEOPLE)
    for (let n = nth; performance.now() < until; n++) {
      if (n % 4 === 0)
        await ask(nth, 'POST', `/api/loops/${id}/notes`, {
          id: randomUUID(),
          at: new Date().toISOString(),
          text: `Looked at by ${nth}, time ${n}.`,
          pictures: [],
        })
      else await ask(nth, 'GET', `/api/loops/${id}${['', '/runs', '/events'][n % 3] ?? ''}`)
      await pause(BETWEEN_S)
    }
  }
  await Promise.all(Array.from({ length: PEOPLE }, (_, nth) => works(nth)))
  const p99 = percentile(took, 99)
  const said = failed[0] === undefined ? 'none failed' : `${failed.length} failed, first: ${failed[0]}`
  return [
    {
      title: `${PEOPLE} people, each with a session, at loops for ${FOR_S} s, ${took.length} answers, ${said}`,
      measured: `p50 ${percentile(took, 50).toFixed(0)} ms, p99 ${p99.toFixed(0)} ms`,
      against: '250 ms allowed at p99',
      ratio: p99 / 250,
      wanted: 'below 1, none failed',
    },
  ]
}
