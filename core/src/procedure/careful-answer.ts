import type { ProcedureEventBody } from './events.ts'
import type { Step } from './step.ts'

type Payload = Extract<ProcedureEventBody, { type: 'procedure.step' }>['payload']

const MINUTE_MS = 60_000

/**
 * What a careful technician answers to a step: every point ticked, what is recommended chosen, an operator
 * named, every reading typed twice with a minute between. For tests and figures; nobody's answers are made up by
 * the product.
 * @param typed - numbers by the name of their field; 1 where nothing else is told
 * @param at - when it is done, ISO 8601
 * @param readings - over a link a reading is looked at once, for as long as it has to be
 */
export function carefulAnswer(
  step: Step,
  typed: Readonly<Record<string, number>>,
  change: Partial<Payload> = {},
  at = '2026-11-25T10:00:00.000Z',
  readings: 'once' | 'twice' = 'twice',
): ProcedureEventBody {
  const values =
    change.values ??
    Object.fromEntries((step.fields ?? []).map((f) => [f.name, typed[f.name] ?? f.preset ?? 1]))
  return {
    type: 'procedure.step',
    payload: {
      step: step.id,
      ticks: step.hold?.length ?? 0,
      values,
      choice: step.recommends ?? step.choices?.[0]?.value ?? null,
      confirmed: false,
      note: step.needsNote ? 'HV-1 and HV-2' : step.judged ? 'as the shift leader says' : '',
      confirmedBy: step.confirmedBy ? 'Curlew' : '',
      ...(step.gates?.includes('rest') || (step.gates?.includes('still') && readings === 'twice')
        ? { again: { at: new Date(Date.parse(at) - MINUTE_MS).toISOString(), values } }
        : {}),
      ...change,
    },
  }
}
