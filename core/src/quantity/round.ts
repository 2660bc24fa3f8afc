/** The number as a plain decimal text, without an exponent. */
function plainDecimal(value: number): string {
  const text = String(Math.abs(value))
  const [mantissa = '0', exp] = text.split('e')
  if (exp === undefined) return text
  const shift = Number(exp)
  const [whole = '0', frac = ''] = mantissa.split('.')
  const digits = whole + frac
  const point = whole.length + shift
  if (point <= 0) return `0.${'0'.repeat(-point)}${digits}`
  return point >= digits.length
    ? digits + '0'.repeat(point - digits.length)
    : `${digits.slice(0, point)}.${digits.slice(point)}`
}

/**
 * Rounds half away from zero on the shortest decimal text of the number, not on its binary value:
 * 1.005 to 2 decimals is 1.01, -2.5 to 0 decimals is -3.
 * @returns the text with exactly that many decimals; never "-0".
 */
export function roundText(value: number, decimals: number): string {
  if (!Number.isFinite(value)) return String(value)
  const [whole = '0', frac = ''] = plainDecimal(value).split('.')
  const kept = BigInt(whole + frac.slice(0, decimals).padEnd(decimals, '0'))
  const up = (frac[decimals] ?? '0') >= '5' ? 1n : 0n
  const digits = String(kept + up).padStart(decimals + 1, '0')
  const text =
    decimals === 0 ? digits : `${digits.slice(0, -decimals)}.${digits.slice(digits.length - decimals)}`
  return value < 0 && /[1-9]/.test(text) ? `-${text}` : text
}

/** As `roundText`, as a number. */
export const roundHalfAway = (value: number, decimals: number): number => Number(roundText(value, decimals))

/** Decimals that show `figures` significant digits of the value. */
export function decimalsFor(value: number, figures: number): number {
  if (value === 0 || !Number.isFinite(value)) return 0
  const first = Math.max(0, figures - 1 - Math.floor(Math.log10(Math.abs(value))))
  // Rounding can reach a new power of ten: 0.0996 to two figures is 0.10, not 0.100.
  const again = Number(roundText(value, first))
  return again === 0 ? first : Math.max(0, figures - 1 - Math.floor(Math.log10(Math.abs(again)) + 1e-12))
}

/**
 * A result with its expanded uncertainty: U to two significant digits, the value to the same decimal.
 * @example withUncertainty(50.08338, 0.01247) // => { value: '50.083', uncertainty: '0.012' }
 */
export function withUncertainty(value: number, U: number): { value: string; uncertainty: string } {
  const d = decimalsFor(U, 2)
  return { value: roundText(value, d), uncertainty: roundText(U, d) }
}

/** A number for a sentence: at most `figures` significant digits, no trailing zeros, no exponent. */
export function sayNumber(value: number, figures = 5): string {
  if (value === 0 || !Number.isFinite(value)) return String(value)
  const text = roundText(value, Math.min(12, decimalsFor(value, figures)))
  return text.includes('.') ? text.replace(/\.?0+$/, '') : text
}

/** How many there are: thousands apart, by a thin space. */
export const sayCount = (n: number): string => n.toString().replace(/\B(?=(\d{3})+$)/g, '\u2009')
