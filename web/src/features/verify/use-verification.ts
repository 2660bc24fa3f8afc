import { loops } from '@calm/contract/api/addresses'
import type { LoopDocument } from '@calm/core/loop/document'
import { judgeRun } from '@calm/core/record/judge-run'
import { adviseRun } from '@calm/core/record/advise-run'
import { applyRunEvent, type Run } from '@calm/core/record/run'
import type { Phase } from '@calm/core/record/kinds/reading-values'
import type { RunEventBody } from '@calm/core/record/kinds/verification'
import { loopScale } from '@calm/core/verify/reading-errors'
import { computed, toValue, type MaybeRefOrGetter } from 'vue'
import { useLive } from '../../api/live-cache.ts'
import { useRunLog, type LoopHere } from '../../api/run-log.ts'

/** What is agreed before anything is read. */
export type Agreed = Pick<
  Run['started'],
  'plan' | 'applies' | 'circumstances' | 'equipment' | 'U_pct' | 'budget' | 'rule' | 'deviation'
> & {
  /** Another tolerance than the recorded one, % of span; only with a stated deviation. */
  readonly tolerance_pct?: number
}

/** The loop's newest verification, or an earlier one that is asked for, with its judgement, by the path of the revision it was begun on. */
export function useVerification(
  loop: MaybeRefOrGetter<LoopHere | null>,
  asked: MaybeRefOrGetter<string | null> = null,
) {
  const { begin, ...log } = useRunLog<Run, RunEventBody>(
    loop,
    {
      kind: 'verification',
      begins: 'run.started',
      apply: applyRunEvent,
    },
    asked,
  )
  /** The revision that the run was begun on, where the loop has gone on since. */
  const older = computed(() => {
    const begunOn = log.run.value?.started.revision
    return begunOn === undefined || begunOn === toValue(loop)?.revision ? null : begunOn
  })
  const revisions = useLive(loops.revisions, () => {
    const here = toValue(loop)
    return here && older.value !== null ? { loop: here.id } : null
  })
  const stages = computed(
    (): LoopDocument['path'] =>
      (older.value === null
        ? null
        : revisions.data.value?.find((r) => r.number === older.value)?.document.path) ??
      toValue(loop)?.document.path ??
      [],
  )

  /** Begins a new run on the loop's present revision. */
  function start({ tolerance_pct, ...agreed }: Agreed): void {
    const here = toValue(loop)
    const scale = here && loopScale(here.document.path)
    if (!here || !scale || !here.document.tolerance) return
    begin({
      type: 'run.started',
      payload: {
        ...agreed,
        revision: here.revision,
        tolerance:
          tolerance_pct === undefined
            ? here.document.tolerance
            : { mode: 'max', pctSpan: tolerance_pct, pctReading: 0, abs: 0 },
        inputRange: { ...scale.input },
        outputRange: { ...scale.output },
      },
    })
  }
  const judgement = (phase: Phase) =>
    computed(() => (log.run.value ? judgeRun(log.run.value, stages.value, phase) : null))
  const advice = computed(() => (log.run.value ? adviseRun(log.run.value, stages.value) : []))
  return { ...log, stages, advice, asFound: judgement('asFound'), asLeft: judgement('asLeft'), start }
}
