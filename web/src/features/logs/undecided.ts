import type { Mapping } from '@calm/contract/logs'
import type { Sniffed } from '@calm/core/logs/sniff/sniff'

/** A question that only somebody who knows the device can answer. */
export interface Undecided {
  readonly says: string
  readonly choices: readonly { readonly title: string; readonly to: Partial<Mapping> }[]
}

/** A number of one sign with three digits behind it. */
const EITHER = /^[+\-−]?[1-9]\d{0,2}[.,]\d{3}$/

/**
 * What nothing in a file tells, as questions with what each answer makes of its first value.
 * @param fields - by column, the first few
 * @param answered - parts of the mapping that somebody chose by hand
 */
export function undecidedOf(
  sniffed: Pick<Sniffed, 'findings'>,
  mapping: Mapping,
  fields: readonly (readonly string[])[],
  answered: ReadonlySet<keyof Mapping>,
): readonly Undecided[] {
  const has = (code: Sniffed['findings'][number]['code']) => sniffed.findings.some((f) => f.code === code)
  const questions: Undecided[] = []
  if (has('UNDECIDED_DECIMAL') && !answered.has('decimal')) {
    const written = fields.flat().find((f) => EITHER.test(f)) ?? '1.234'
    const sign = written.includes(',') ? ',' : '.'
    questions.push({
      says: `Every number of this file has three digits behind its sign. What is ${written}?`,
      choices: [
        { title: written.replace(sign, '.'), to: { decimal: sign } },
        { title: written.replace(sign, ''), to: { decimal: sign === '.' ? ',' : '.' } },
      ],
    })
  }
  if (has('UNDECIDED_DATE') && !answered.has('time')) {
    const at = mapping.columns.findIndex((c) => c.kind === 'time' || c.kind === 'date')
    const written = fields[at]?.[0] ?? ''
    questions.push({
      says: `Nothing in this file tells whether day or month stands first${written === '' ? '' : ` in ${written}`}.`,
      choices: [
        { title: 'day, month', to: { time: { ...mapping.time, format: 'DMY' } } },
        { title: 'month, day', to: { time: { ...mapping.time, format: 'MDY' } } },
      ],
    })
  }
  return questions
}
