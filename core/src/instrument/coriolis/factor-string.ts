export type FactorString =
  | {
      readonly kind: 'factor'
      readonly F: number
      readonly kF: number
      readonly flow: string
      readonly temperature: string
    }
  | { readonly kind: 'refused'; readonly says: string }

/**
 * A combined flow factor: five digits and a point, then three digits and a point.
 * @example splitFactor('31.8425.08') // F 31.842, k_F 5.08 % per 100 °C
 */
export function splitFactor(typed: string): FactorString {
  const text = typed.trim()
  const refused = (says: string): FactorString => ({ kind: 'refused', says })
  if (text.includes(',')) return refused('A comma stands for a point here: write 31.8425.08 with points.')
  if (/\s/.test(text)) return refused('There is a space inside. The factor is ten characters in one piece.')
  if (text.length !== 10)
    return refused(`${text.length} characters; the factor has ten: eight digits and two points.`)
  const points = [...text].filter((c) => c === '.').length
  if (points !== 2) return refused(`${points} ${points === 1 ? 'point' : 'points'}; the factor has two.`)
  if ([...text].filter((c) => /\d/.test(c)).length !== 8)
    return refused('The factor has eight digits and nothing else but two points.')
  const [flow, temperature] = [text.slice(0, 6), text.slice(6)]
  if (!/^\d\.\d{2}$/.test(temperature))
    return refused(`The last four characters “${temperature}” are not of the form 5.08.`)
  if (!/^\d{1,5}\.\d{0,4}$/.test(flow))
    return refused(`The first six characters “${flow}” are not of the form 31.842.`)
  return { kind: 'factor', F: Number(flow), kF: Number(temperature), flow, temperature }
}

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
    const places = [...p].flatMap((c, i) => (c === q[i] ? [] : [i]))
    const [i = 0, j = 0] = places
    if (places.length === 2 && j === i + 1 && p[i] === q[j] && p[j] === q[i]) return is('TRANSPOSED')
    if (places.length === 1) return is('DIGIT_CHANGED')
  }
  const without = (s: string, t: string) => [...s].some((_, i) => s.slice(0, i) + s.slice(i + 1) === t)
  if (without(p, q)) return is('DIGIT_DROPPED')
  if (without(q, p)) return is('DIGIT_ADDED')
  return is('DIFFERENT')
}
