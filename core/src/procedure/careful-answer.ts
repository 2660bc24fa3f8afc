import type { ProcedureEventBody } from './events.ts'
import type { Step } from './step.ts'

type Payload = Extract<ProcedureEventBody, { type: 'procedure.step' }>['payload']

/**
 * What a careful technician answers to a step: every point ticked, what is recommended chosen, an operator
 * named. For tests and figures; nobody's answers are made up by the product.
 * @param typed - numbers by the name of their field; 1 where nothing else is told
 */
export const carefulAnswer = (
  step: Step,
  typed: Readonly<Record<string, number>>,
  change: Partial<Payload> = {},
): ProcedureEventBody => ({
  type: 'procedure.step',
  payload: {
    step: step.id,
    ticks: step.hold?.length ?? 0,
    values: Object.fromEntries((step.fields ?? []).map((f) => [f.name, typed[f.name] ?? f.preset ?? 1])),
    choice: step.recommends ?? step.choices?.[0]?.value ?? null,
    confirmed: false,
    note: '',
    confirmedBy: step.confirmedBy ? 'Curlew' : '',
    ...change,
  },
})
