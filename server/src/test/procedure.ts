import { randomUUID } from 'node:crypto'
import type { LoopDetail } from '@calm/contract/loops'
import { contextOf } from '@calm/core/loop/procedure-context'
import { carefulAnswer } from '@calm/core/procedure/careful-answer'
import { applyProcedureEvent } from '@calm/core/procedure/engine'
import { RULES, type ProcedureEventBody } from '@calm/core/procedure/events'
import type { ProcedureRun } from '@calm/core/procedure/run'
import type { Step } from '@calm/core/procedure/step'
import type TestAgent from 'supertest/lib/agent.js'

export const AT = '2026-11-25T10:00:00.000Z'
/** By the rules of today, without an instrument: these are about steps. */
export const TYPED = { rules: RULES, withoutInstrument: 'for the test' } as const

/** What a careful technician types at a step of PT-103, 0 to 6 bar. */
export function answered(step: Step): ProcedureEventBody {
  const x = step.apply ?? 0
  const typed: Record<string, number> = {
    applied: x,
    pv: x + 0.04,
    mA: step.holdCurrent_mA ?? 4 + (16 * (x + 0.04)) / 6,
    measured: step.holdCurrent_mA ?? 4,
    LRV: 0,
    URV: 6,
    shown: 50,
    noise: 0.01,
    buffer: step.id === 'buffer-1' ? 7 : 4,
    mV: step.id === 'buffer-1' ? -3 : 172,
    t: 25,
    trip: 5,
    reset: 4.8,
    p0: Number(/: (\d+) kPa/.exec(step.title)?.[1] ?? 0),
    t0_C: 20,
    after: 101,
    before: 1,
    change_pct: 0.5,
    alerts: 0,
  }
  if (step.gates?.includes('quiet')) typed['pv'] = 0.01
  return carefulAnswer(step, typed, {}, AT)
}

/** What a procedure begins with on PT-103. */
export async function startedOn(
  agent: TestAgent,
  procedure: string,
): Promise<Extract<ProcedureEventBody, { type: 'procedure.started' }>> {
  const loop = (await agent.get('/api/loops/PT-103').expect(200)).body as LoopDetail
  const context = contextOf(loop.document)
  if (!context) throw new Error('PT-103 has no range')
  return {
    type: 'procedure.started',
    payload: { procedure, revision: loop.revision, context, withDevice: false, equipment: [], ...TYPED },
  }
}

/** A procedure of PT-103 worked from its first step to its last, or as many as are wanted. @returns its run */
export async function worked(agent: TestAgent, procedure: string, steps = Infinity): Promise<string> {
  const runId = randomUUID()
  const bodies: ProcedureEventBody[] = [await startedOn(agent, procedure)]
  let run: ProcedureRun | null = null
  for (const body of bodies) {
    const next = applyProcedureEvent(run, { body, by: 'somebody', at: AT })
    if (next.kind === 'refused') throw new Error(next.says)
    run = next.run
    const [step] = run.left
    if (step && bodies.length <= steps) bodies.push(answered(step))
  }
  const events = bodies.map((body) => ({ id: randomUUID(), runId, at: AT, body }))
  await agent.post('/api/loops/PT-103/events').send({ events }).expect(200)
  return runId
}
