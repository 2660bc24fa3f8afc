import type { Finding } from '../../finding.ts'
import { NOT_AT_WORK, type AtWork } from '../family.ts'
import { setUpProblems } from '../set-up.ts'
import { known, type Values } from './through-form.ts'

/** A mistake of practice: what was done, on which sane set-up, what was entered instead, and what has to be said. */
export type Mistake = readonly [what: string, base: string, change: Values, cause: RegExp]

const isTold = (f: Finding) => f.severity === 'warn' || f.severity === 'stop'
/** Everything that a set-up complains of: at an entry, and of what follows; with what is proposed for it. */
function complaints(family: string, values: Values, at: Partial<AtWork>): { key: string; says: string }[] {
  const refused = setUpProblems(known(family), values)
  // What cannot be entered is not computed with.
  const findings = refused.length > 0 ? [] : known(family).compute(values, { ...NOT_AT_WORK, ...at }).findings
  const told = findings.filter(isTold)
  const causes = told.length > 0 ? findings.filter((f) => f.code === 'LIKELY_CAUSE') : []
  return [
    ...refused.map((r) => ({ key: `${r.where} refused`, says: r.says })),
    ...told.map((f) => ({ key: `${f.code} ${f.where.join()}`, says: f.says })),
    ...causes.map((f) => ({ key: `cause ${f.says}`, says: f.says })),
  ]
}

/**
 * What is said of a mistake that was not said without it: whether anything is, and whether the cause is in it.
 * @param bases - sane set-ups by name, each with its family
 */
export function tellMistake(
  bases: Readonly<Record<string, { family: string; values: Values; at?: Partial<AtWork> }>>,
  [, name, change, cause]: Mistake,
): { told: boolean; right: boolean; says: string[] } {
  const base = bases[name]
  if (!base) throw new Error(`no set-up ${name}`)
  const before = new Set(complaints(base.family, base.values, base.at ?? {}).map((c) => c.key))
  const after = complaints(base.family, { ...base.values, ...change }, base.at ?? {})
  const says = after.filter((c) => !before.has(c.key)).map((c) => c.says)
  return { told: says.length > 0, right: says.some((s) => cause.test(s)), says }
}
/** What a sane set-up is wrongly told. */
export const falseAlarms = (family: string, values: Values, at: Partial<AtWork> = {}): string[] =>
  complaints(family, values, at).map((c) => c.says)
