import { applyRunEvent, type Happened, type Run } from '../run.ts'

/** A run from all its events. @throws Error when stored events contradict the rules: they were checked when stored. */
export function foldRun(events: readonly Happened[]): Run | null {
  let run: Run | null = null
  for (const e of events) {
    const next = applyRunEvent(run, e)
    if (next.kind === 'refused') throw new Error(`stored event ${e.body.type}: ${next.says}`)
    run = next.run
  }
  return run
}
