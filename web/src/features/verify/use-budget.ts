import type { Run } from '@calm/core/record/run'
import {
  againstTrials,
  comparisonBudget,
  type AppliedSpan,
  type ComparisonExtras,
  type KnownInstrument,
} from '@calm/core/verify/comparison-budget'
import type { LoopScale } from '@calm/core/verify/reading-errors'
import { computed, toValue, watch, type MaybeRefOrGetter } from 'vue'
import { useTrials } from '../../trials/use-trials.ts'

const SEED = 20317
/** Two blocks at least; more until the digits stand still. */
const LEAST_BLOCKS = 2
const MOST_PCT = 50

/** How sure a comparison is, from the instruments chosen: by the formula at once, by trials on request. */
export function useBudget(
  scale: MaybeRefOrGetter<LoopScale>,
  instruments: MaybeRefOrGetter<readonly KnownInstrument[]>,
  extras: MaybeRefOrGetter<ComparisonExtras>,
  /** What is set on the standard, where that is not the loop's own quantity. */
  applied: MaybeRefOrGetter<AppliedSpan | null> = null,
) {
  const made = computed(() =>
    comparisonBudget(toValue(scale), toValue(instruments), toValue(extras), toValue(applied)),
  )
  const trials = useTrials()
  // What was tried belongs to the lines of before.
  watch(made, () => {
    trials.cancel()
    trials.done.value = null
  })
  const tried = computed(() => {
    const done = trials.done.value
    return done && { ...againstTrials(made.value.budget, done.result), result: done.result }
  })
  /** What goes into the record; null while what is applied or what it is read with is not known: then nothing is claimed. */
  const agreed = computed((): { U_pct: number; budget: NonNullable<Run['started']['budget']> } | null => {
    const { lines, budget, missing } = made.value
    if (lines.length === 0 || missing.length > 0 || !(budget.U > 0)) return null
    const t = tried.value
    return {
      U_pct: Math.min(MOST_PCT, t ? t.U : budget.U),
      budget: {
        lines: lines.map((l) => ({ ...l })),
        missing: [],
        k: budget.k,
        method: t && !t.validated ? 'trials' : 'formula',
        seed: t ? t.result.seed : null,
      },
    }
  })
  return {
    made,
    tried,
    agreed,
    share: trials.share,
    trials: trials.trials,
    start: () =>
      trials.start({
        kind: 'comparison',
        lines: made.value.lines.map((l) => ({ ...l })),
        seed: SEED,
        leastBlocks: LEAST_BLOCKS,
      }),
    cancel: trials.cancel,
  }
}
