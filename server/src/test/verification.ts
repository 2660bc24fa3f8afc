import { randomUUID } from 'node:crypto'
import type { LoopDetail } from '@calm/contract/loops'
import type { RunEventBody } from '@calm/core/record/kinds/verification'
import { loopScale } from '@calm/core/verify/reading-errors'
import { signedAsPageDoes } from './signing.ts'
import type TestAgent from 'supertest/lib/agent.js'

/** Serial of an instrument of the demo plant whose certificate is valid. */
export const PUMP = 'GS-PC-011'
type Started = Extract<RunEventBody, { type: 'run.started' }>

const typed = (value: number) => ({ value, typed: String(value) })

/** A verification of PT-202, 0 to 85 bar, as its page would send it, event by event. */
export const read = (index: number, applied: number, error = 0): RunEventBody => ({
  type: 'reading.recorded',
  payload: {
    phase: 'asFound',
    index,
    values: {
      applied: typed(applied),
      pv: typed(applied + error),
      loopCurrent_mA: typed(4 + (16 * (applied + error)) / 85),
    },
  },
})
export const close: RunEventBody = { type: 'phase.closed', payload: { phase: 'asFound' } }
export const asLeft: RunEventBody = { type: 'left.asFound', payload: {} }
export const sign = (as: 'technician' | 'reviewer', statement = 'done'): RunEventBody => ({
  type: 'signed',
  payload: { as, statement },
})
let clock = Date.parse('2026-11-23T10:00:00.000Z')
export const events = (runId: string, ...bodies: RunEventBody[]) =>
  bodies.map((body) => ({ id: randomUUID(), runId, at: new Date((clock += 1000)).toISOString(), body }))
/** Sends events, signatures made as a page makes them. */
export function send(agent: TestAgent, list: unknown[], tag = 'PT-202') {
  const answer = signedAsPageDoes(agent, list, tag).then(async (all) =>
    agent.post(`/api/loops/${tag}/events`).send({ events: all }),
  )
  return Object.assign(answer, {
    expect: async (status: number) => {
      const res = await answer
      if (res.status !== status) throw new Error(`answered ${res.status}: ${JSON.stringify(res.body)}`)
      return res
    },
  })
}

/** What a verification of a loop begins with, by the recorded loop and the register. */
export async function starter(agent: TestAgent, tag = 'PT-202') {
  const list = (await agent.get('/api/equipment').expect(200)).body as { serial: string; id: string }[]
  const equipment = new Map(list.map((e) => [e.serial, e.id]))
  const loop = (await agent.get(`/api/loops/${tag}`).expect(200)).body as LoopDetail
  const scale = loopScale(loop.document.path)
  const { tolerance } = loop.document
  if (!scale || !tolerance) throw new Error(`${tag} has no scale or no tolerance`)
  const begin = (serials: string[] = [PUMP]): Started => ({
    type: 'run.started',
    payload: {
      plan: 'P3',
      revision: loop.revision,
      tolerance: structuredClone(tolerance),
      inputRange: { ...scale.input },
      outputRange: { ...scale.output },
      equipment: serials.map((s) => equipment.get(s) ?? ''),
      U_pct: 0,
    },
  })
  return { begin, loop, equipment }
}
