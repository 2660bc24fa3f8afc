import type { SettingValue } from '../../quantity/setting.ts'
import { NOT_AT_WORK, type AtWork, type Family, type SetUpResult } from '../family.ts'
import { familyOf } from '../index.ts'
import { setUpProblems } from '../set-up.ts'

export type Values = Record<string, SettingValue>
/** A family that is there. */
export function known(id: string): Family {
  const family = familyOf(id)
  if (!family) throw new Error(`no family ${id}`)
  return family
}
/** What follows from entries as the form takes them: none of them is refused. */
export function compute(id: string, values: Values, at: Partial<AtWork> = {}): SetUpResult {
  const family = known(id)
  const wrong = setUpProblems(family, values)
  if (wrong.length > 0) throw new Error(wrong.map((w) => `${w.where}: ${w.says}`).join('; '))
  return family.compute(values, { ...NOT_AT_WORK, ...at })
}
export const row = (r: SetUpResult, label: string) => r.rows.find((x) => x.label === label)?.value
export const codes = (r: SetUpResult) => r.findings.filter((f) => f.severity !== 'note').map((f) => f.code)
/** Sentences of refused entries, by their name. */
export const refused = (id: string, values: Values) =>
  setUpProblems(known(id), values).map((p): [string, string] => [p.where, p.says])
