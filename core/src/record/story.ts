import { applyProcedureEvent } from '../procedure/engine.ts'
import { ProcedureEventBody } from '../procedure/events.ts'
import type { ProcedureRun } from '../procedure/run.ts'
import { sayStepDone } from '../procedure/say-step.ts'
import { sayEvent } from './kinds/index.ts'

/** An event as the record gives it. */
export interface ToldEvent {
  readonly id: string
  readonly type: string
  readonly at: string
  readonly by: string
  readonly byName: string
  readonly payload: unknown
}
export interface StoryLine {
  readonly id: string
  readonly at: string
  readonly by: string
  readonly title: string
  readonly says: readonly string[]
}

/**
 * A verification or procedure from its first event to its last, in words: each step with its readings, its time and
 * its name. What this version cannot read is told as that; nothing is passed over.
 */
export function storyOf(events: readonly ToldEvent[]): StoryLine[] {
  let run: ProcedureRun | null = null
  return events.map((e): StoryLine => {
    const before: ProcedureRun | null = run
    const body = ProcedureEventBody.safeParse({ type: e.type, payload: e.payload })
    if (body.success) run = applied(before, body.data, e)
    const line = { id: e.id, at: e.at, by: e.byName }
    const done = run !== before && e.type === 'procedure.step' ? run?.done.at(-1) : undefined
    if (done) return { ...line, title: done.step.title, says: sayStepDone(done) }
    const told = sayEvent(e.type, e.payload)
    return told
      ? { ...line, title: told.title, says: told.says.split('\n') }
      : { ...line, title: 'Something newer', says: ['This version does not know what this says.'] }
  })
}

/** The procedure after an event; an event that its rules refuse leaves it as it was. */
function applied(run: ProcedureRun | null, body: ProcedureEventBody, e: ToldEvent): ProcedureRun | null {
  const next = applyProcedureEvent(run, { body, by: e.by, at: e.at })
  return next.kind === 'run' ? next.run : run
}
