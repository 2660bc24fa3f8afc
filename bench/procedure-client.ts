import { randomUUID } from 'node:crypto'
import type { NewEvent, StoredEvent } from '@calm/contract/events'
import type { LoopDetail, LoopRow } from '@calm/contract/loops'
import { carefulAnswer } from '@calm/core/procedure/careful-answer'
import { contextOf } from '@calm/core/loop/procedure-context'
import { applyProcedureEvent, foldProcedure } from '@calm/core/procedure/engine'
import type { ProcedureRun } from '@calm/core/procedure/run'
import { RULES, type ProcedureEventBody } from '@calm/core/procedure/events'
import type { Step } from '@calm/core/procedure/step'

const NAME = { name: 'wren', password: 'salt-and-water' }

/** The server answered, but not with what was asked for. */
export class Answered extends Error {
  constructor(readonly status: number) {
    super(`answered ${status}`)
  }
}

/** A technician without a screen: signs in, begins procedures and answers their steps. */
export class ProcedureClient {
  private cookie = ''
  constructor(private readonly base: string) {}

  async ask<T>(method: string, path: string, body?: unknown): Promise<{ status: number; body: T }> {
    const answer = await fetch(this.base + path, {
      method,
      headers: { 'content-type': 'application/json', cookie: this.cookie },
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
      signal: AbortSignal.timeout(5_000),
    })
    const set = answer.headers.getSetCookie()[0]?.split(';')[0]
    if (set) this.cookie = set
    return { status: answer.status, body: (await answer.json()) as T }
  }
  async signIn(): Promise<void> {
    const { status } = await this.ask('POST', '/api/session', NAME)
    if (status !== 200) throw new Error(`sign-in answered ${status}`)
  }
  get session(): string {
    return this.cookie
  }
  /** Loops that have a measuring range. */
  async loops(): Promise<{ tag: string; id: string }[]> {
    const { body } = await this.ask<LoopRow[]>('GET', '/api/loops')
    return body.filter((l) => /^(pressure|level)/.test(l.type)).map((l) => ({ tag: l.tag, id: l.id }))
  }
  /** A loop like another one: every procedure is at one of its own, as in a plant. */
  async like(tag: string, of: string): Promise<string> {
    const { body: loop } = await this.ask<LoopDetail>('GET', `/api/loops/${of}`)
    const id = randomUUID()
    const document = { ...loop.document, tag, lastCalibrated: null, wiring: null }
    const { status } = await this.ask('POST', '/api/loops', { id, document })
    if (status !== 201) throw new Answered(status)
    return id
  }
  async begin(tag: string, procedure: string, withDevice = false): Promise<string> {
    const { status: found, body: loop } = await this.ask<LoopDetail>('GET', `/api/loops/${tag}`)
    if (found !== 200) throw new Answered(found)
    const context = contextOf(loop.document)
    if (!context) throw new Error(`${tag} has no range`)
    const runId = randomUUID()
    const status = await this.send(tag, runId, {
      type: 'procedure.started',
      payload: {
        procedure,
        revision: loop.revision,
        context,
        withDevice,
        equipment: [],
        rules: RULES,
        withoutInstrument: 'measured by nobody: a load on the server',
      },
    })
    if (status !== 200) throw new Answered(status)
    return runId
  }
  /** @returns the status; the same identifier may be sent again. */
  async send(
    tag: string,
    runId: string,
    body: ProcedureEventBody,
    id: string = randomUUID(),
  ): Promise<number> {
    const event: NewEvent = { id, runId, at: new Date().toISOString(), body }
    return (await this.ask('POST', `/api/loops/${tag}/events`, { events: [event] })).status
  }
  /** The run after a step that was taken, as the window that did it folds it; null where it does not fit. */
  folded(run: ProcedureRun, body: ProcedureEventBody): ProcedureRun | null {
    const next = applyProcedureEvent(run, { body, by: run.runner, at: new Date().toISOString() })
    return next.kind === 'run' ? next.run : null
  }
  /** The run as the database alone tells it. */
  async run(runId: string): Promise<ProcedureRun | null> {
    const { status, body } = await this.ask<{ events: StoredEvent[] }>('GET', `/api/runs/${runId}`)
    if (status !== 200) throw new Answered(status)
    return foldProcedure(
      body.events.map((e) => ({
        body: { type: e.type, payload: e.payload } as ProcedureEventBody,
        by: e.by,
        at: e.at,
      })),
    )
  }
}

/** What a technician in a hurry answers; readings are right on the applied value, and nobody waits between two of them. */
export function answerTo(step: Step): ProcedureEventBody {
  const x = step.apply ?? 0
  const typed: Readonly<Record<string, number>> = {
    applied: x,
    pv: x,
    mA: step.holdCurrent_mA ?? 12,
    shown: 50,
  }
  return carefulAnswer(step, typed, {
    ...(step.id === 'decide' ? { choice: 'leave' } : {}),
    ...(step.gates?.includes('still')
      ? { overruled: { gates: ['still'], reason: 'a load on the server: nobody waits' } }
      : {}),
  })
}
