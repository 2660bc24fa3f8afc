import { parseNumber } from '../../quantity/parse-number.ts'
export type Slip =
  | 'SAME'
  | 'SAME_VALUE'
  | 'DECIMAL_SHIFT'
  | 'TRANSPOSED'
  | 'DIGIT_CHANGED'
  | 'DIGIT_DROPPED'
  | 'DIGIT_ADDED'
  | 'DIFFERENT'

/** How a typed value differs from the certificate's, digit by digit. @returns with the power of ten of a shift. */
export function compareTyped(certificate: string, typed: string): { slip: Slip; power: number | null } {
  const [a, b] = [certificate.trim(), typed.trim()]
  const is = (slip: Slip, power: number | null = null) => ({ slip, power })
  if (a === b) return is('SAME')
  if (a !== '' && b !== '' && Number(a) === Number(b)) return is('SAME_VALUE')
  const digits = (s: string) => s.replace('.', '')
  const core = (s: string) => digits(s).replace(/^0+/, '').replace(/0+$/, '')
  if (core(a) === core(b) && core(a) !== '')
    return is('DECIMAL_SHIFT', Math.round(Math.log10(Number(b) / Number(a))))
  const [p, q] = [digits(a), digits(b)]
  if (p.length === q.length) {
    const places = Array.from(p).flatMap((c, i) => (c === q[i] ? [] : [i]))
    const [i = 0, j = 0] = places
    if (places.length === 2 && j === i + 1 && p[i] === q[j] && p[j] === q[i]) return is('TRANSPOSED')
    if (places.length === 1) return is('DIGIT_CHANGED')
  }
  const without = (s: string, t: string) => Array.from(s).some((_, i) => s.slice(0, i) + s.slice(i + 1) === t)
  if (without(p, q)) return is('DIGIT_DROPPED')
  if (without(q, p)) return is('DIGIT_ADDED')
  return is('DIFFERENT')
}

/** Two constants that a tag joins in one text, taken apart; or why that cannot be. */
export type SplitText =
  | { readonly kind: 'split'; readonly first: string; readonly second: string }
  | { readonly kind: 'refused'; readonly says: string }

/**
 * Takes a joined text apart behind so many characters, as a technician counts them on the tag.
 * @example splitText('31.8425.08', 6) // 31.842 and 5.08
 */
export function splitText(typed: string, after: number): SplitText {
  const text = typed.trim()
  const refused = (says: string): SplitText => ({ kind: 'refused', says })
  if (/\s/.test(text))
    return refused('There is a space inside. Type it in one piece, as it stands on the tag.')
  if (text.includes(','))
    return refused(`There is a comma in “${text}”; the other documents have points. Type it with points.`)
  const [first, second] = [text.slice(0, after), text.slice(after)]
  if (first === '' || second === '')
    return refused(
      `After ${after} characters nothing is left on one side of “${text}”: it has ${text.length}.`,
    )
  for (const part of [first, second])
    if (parseNumber(part).kind === 'refused')
      return refused(`Split after ${after} characters, “${part}” is not a number. Count again on the tag.`)
  return { kind: 'split', first, second }
}
