import { randomUUID } from 'node:crypto'
import type { NewEvent, RunInfo, StoredEvent } from '@calm/contract/events'
import type { LoopDetail } from '@calm/contract/loops'
import { contextOf } from '@calm/core/loop/procedure-context'
import { applyProcedureEvent, foldProcedure } from '@calm/core/procedure/engine'
import { standingWork } from '@calm/core/procedure/hand-over'
import { keepProcedure } from '@calm/core/procedure/kept'
import type { ProcedureRun } from '@calm/core/procedure/run'
import type { ProcedureEventBody } from '@calm/core/procedure/events'
import { PROCEDURES } from '@calm/core/procedure/catalogue'
import type TestAgent from 'supertest/lib/agent.js'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { testApp } from '../test/app.ts'
import { answered, AT, startedOn, TYPED } from '../test/procedure.ts'

let app: Awaited<ReturnType<typeof testApp>>
let wren: TestAgent
let me = ''
beforeAll(async () => {
  app = await testApp()
  wren = await app.as('wren')
  const session = (await wren.get('/api/session').expect(200)).body as { person: { id: string } }
  me = session.person.id
})
afterAll(() => app.stop())

const send = (body: ProcedureEventBody, runId: string, id: string = randomUUID()) => {
  const event: NewEvent = { id, runId, at: AT, body }
  return wren.post('/api/loops/PT-103/events').send({ events: [event] })
}
/** What the database alone tells of a run: what any server would resume with after a kill. */
async function resumed(runId: string): Promise<ProcedureRun | null> {
  const { body } = await wren.get(`/api/runs/${runId}`).expect(200)
  return foldProcedure(
    (body as { events: StoredEvent[] }).events.map((e) => ({
      body: { type: e.type, payload: e.payload } as ProcedureEventBody,
      by: e.by,
      at: e.at,
    })),
  )
}
async function begun(procedure: string) {
  const started = await startedOn(wren, procedure)
  const id = randomUUID()
  await send(started, id).expect(200)
  return { id, started }
}

describe('after every acknowledged step the database alone tells where the work stands', () => {
  // A pressure loop has no sensor to be set on a decade.
  test.each(PROCEDURES.filter((p) => p.id !== 'temperature-trim').map((p) => [p.id]))(
    '%s, each step sent twice',
    async (procedure) => {
      const { id, started } = await begun(procedure)
      let here: ProcedureRun | null = null
      const happen = (body: ProcedureEventBody): ProcedureRun => {
        const next = applyProcedureEvent(here, { body, by: me, at: AT })
        if (next.kind === 'refused') throw new Error(next.says)
        return (here = next.run)
      }
      let run = happen(started)
      for (let step = run.left[0]; step; step = run.left[0]) {
        const body = answered(step)
        const event = randomUUID()
        run = happen(body)
        await Promise.all([send(body, id, event).expect(200), send(body, id, event).expect(200)])
        const here = await resumed(id)
        expect(here && keepProcedure(here)).toEqual(keepProcedure(run))
      }
      expect(run.state).toBe('done')
      expect(run.fixedCurrent).toBe(false)
      const runs = (await wren.get('/api/loops/PT-103/runs').expect(200)).body as RunInfo[]
      expect(runs.find((r) => r.id === id)).toMatchObject({ kind: 'procedure', procedure, state: 'done' })
    },
    60_000,
  )

  test('stopped after any number of steps, it comes to an end with nothing held', async () => {
    for (const steps of [0, 3, 6, 9, 14, 17]) {
      const { id } = await begun('output-trim')
      for (let n = 0; n < steps; n++) {
        const step = (await resumed(id))?.left[0]
        if (step) await send(answered(step), id).expect(200)
      }
      await send({ type: 'procedure.abortAsked', payload: { reason: 'storm' } }, id).expect(200)
      for (let n = 0; n < 20; n++) {
        const step = (await resumed(id))?.left[0]
        if (!step) break
        await send(answered(step), id).expect(200)
      }
      const end = await resumed(id)
      expect([steps, end?.state, end?.fixedCurrent]).toEqual([steps, 'aborted', false])
    }
  })

  test('it is not begun with an instrument whose certificate has ended', async () => {
    const all = (await wren.get('/api/equipment').expect(200)).body as { id: string; serial: string }[]
    const loop = (await wren.get('/api/loops/PT-103').expect(200)).body as LoopDetail
    const context = contextOf(loop.document)
    if (!context) throw new Error('PT-103 has no range')
    const started = (serial: string): ProcedureEventBody => ({
      type: 'procedure.started',
      payload: {
        procedure: 'zero-trim',
        revision: loop.revision,
        context,
        withDevice: false,
        equipment: [all.find((e) => e.serial === serial)?.id ?? ''],
        ...TYPED,
      },
    })
    const refused = await send(started('GS-MM-007'), randomUUID()).expect(409)
    expect((refused.body as { title: string }).title).toMatch(/certificate of Multimeter ended on 2026-10-30/)
    await send(started('GS-PC-011'), randomUUID()).expect(200)
  })
  test('a step that skips, a missing value and an unknown procedure are refused and change nothing', async () => {
    const { id } = await begun('zero-trim')
    const before = await resumed(id)
    const later = before?.left[4]
    const first = before?.left[0]
    if (!later || !first) throw new Error('no steps')
    await send(answered(later), id).expect(409)
    const untucked = answered(first)
    if (untucked.type === 'procedure.step') untucked.payload.ticks = 0
    await send(untucked, id).expect(409)
    const after = await resumed(id)
    expect(after && keepProcedure(after)).toEqual(keepProcedure(before))
    const { body } = await send({ type: 'procedure.abortAsked', payload: { reason: ' ' } }, id).expect(422)
    expect((body as { errors: { path: string }[] }).errors[0]?.path).toBe('events.0.body.payload.reason')
  })
})

describe('handed over to the right procedure', () => {
  const both = (list: readonly NewEvent[], who = wren) =>
    who.post('/api/loops/PT-103/events').send({ events: list })
  const event = (runId: string, body: ProcedureEventBody): NewEvent => ({
    id: randomUUID(),
    runId,
    at: AT,
    body,
  })
  /** A zero trim with its as-found closed, and the two events that hand it over. */
  async function ready(change: (p: Record<string, unknown>) => void = () => undefined) {
    const { id, started } = await begun('zero-trim')
    for (let n = 0; n < 40; n++) {
      const step = (await resumed(id))?.left[0]
      if (!step || step.judged) break
      await send(answered(step), id).expect(200)
    }
    const run = await resumed(id)
    if (!run) throw new Error('no run')
    const next = randomUUID()
    const payload = {
      ...started.payload,
      procedure: 'sensor-trim',
      after: { run: id, did: standingWork(run), held: run.fixedCurrent },
    }
    change(payload)
    return {
      id,
      next,
      ends: event(id, { type: 'procedure.handedOver', payload: { to: 'sensor-trim', run: next } }),
      begins: event(next, { type: 'procedure.started', payload }),
    }
  }
  const states = async (...ids: string[]) => {
    const runs = (await wren.get('/api/loops/PT-103/runs').expect(200)).body as RunInfo[]
    return ids.map((id) => runs.find((r) => r.id === id)?.state ?? null)
  }
  test('both in one act, however often it is sent; the next one begins where the loop stands', async () => {
    const { id, next, ends, begins } = await ready()
    await Promise.all([both([ends, begins]).expect(200), both([ends, begins]).expect(200)])
    await both([ends, begins]).expect(200)
    expect(await states(id, next)).toEqual(['handedOver', 'running'])
    const run = await resumed(next)
    expect([run?.work, run?.left.some((s) => s.work === 'isolate')]).toEqual(['CONNECTED', false])
    for (let n = 0; n < 60; n++) {
      const step = (await resumed(next))?.left[0]
      if (!step) break
      await send(answered(step), next).expect(200)
    }
    expect(await states(id, next)).toEqual(['handedOver', 'done'])
  })
  test.each<[why: string, change: (p: Record<string, unknown>) => void]>([
    ['more than was done', (p) => (p['after'] = { ...(p['after'] as object), did: ['notify', 'manual', 'bypassTrips', 'isolate'] })],
    ['a held current that there is not', (p) => (p['after'] = { ...(p['after'] as object), held: true })],
    ['another run', (p) => (p['after'] = { ...(p['after'] as object), run: randomUUID() })],
    ['another way', (p) => Object.assign(p, { way: 'bench', notInServiceBy: 'Teal' })],
  ])('%s is told at its place, and neither is stored', async (_, change) => {
    const { id, next, ends, begins } = await ready(change)
    const { status, body } = await both([ends, begins])
    expect([409, 422]).toContain(status)
    expect((body as { errors: { path: string }[] }).errors[0]?.path).toMatch(/^events\.[01]\.body/)
    expect(await states(id, next)).toEqual(['running', null])
  }, 60_000) // prettier-ignore
  test('alone it is refused: no loop is left open with nobody at work', async () => {
    const { id, next, ends, begins } = await ready()
    await both([ends]).expect(409)
    await both([begins]).expect(422)
    await both([begins, ends]).expect(422)
    const dunlin = await app.as('dunlin')
    await both([ends, begins], dunlin).expect(409)
    expect(await states(id, next)).toEqual(['running', null])
  })
})
