import { sayNumber } from '../quantity/round.ts'
import { printedUnit } from '../quantity/units.ts'
import { steadyField } from './gate.ts'
import type { DoneStep } from './run.ts'

/** What was read, typed, chosen and noted in a step, each as a short line in the words of the step. */
export function sayStepDone(
  done: Pick<
    DoneStep,
    'step' | 'values' | 'choice' | 'note' | 'confirmedBy' | 'seen' | 'again' | 'overruled'
  >,
): string[] {
  const { step, values, choice, note, confirmedBy } = done
  const applied =
    step.apply === undefined || 'applied' in values ? [] : [`applied ${sayNumber(step.apply, 6)}`]
  return [
    ...applied,
    ...Object.entries(values).map(([name, value]) => {
      const field = step.fields?.find((f) => f.name === name)
      const unit = field?.unit ? ` ${printedUnit(field.unit)}` : ''
      return `${field?.label ?? 'Value'} ${sayNumber(value, 6)}${unit}`
    }),
    ...(choice === null ? [] : [step.choices?.find((c) => c.value === choice)?.title ?? choice]),
    ...(confirmedBy === '' ? [] : [`confirmed by ${confirmedBy}`]),
    ...(note === '' ? [] : [note]),
    ...(done.again
      ? Object.entries(done.again.values).flatMap(([name, value]) =>
          name === steadyField(step)
            ? [`read ${sayNumber(value, 6)} before, at ${done.again?.at ?? ''}`]
            : [],
        )
      : []),
    ...(done.seen && (step.gates ?? []).length > 0
      ? [`${done.seen.n} simulated samples over ${sayNumber(done.seen.window_s, 3)} s`]
      : []),
    ...(done.overruled
      ? [`AGAINST THE GATE (${done.overruled.gates.join(', ')}): ${done.overruled.reason}`]
      : []),
  ]
}
