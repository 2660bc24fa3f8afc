import { sayNumber } from '../quantity/round.ts'
import { printedUnit } from '../quantity/units.ts'

/** How much error is allowed: any of percent of span, percent of reading and an absolute amount. */
export interface Tolerance {
  /** max: the largest of the parts; sum: all together; min: the smallest that is not zero. */
  readonly mode: 'max' | 'sum' | 'min'
  readonly pctSpan: number
  readonly pctReading: number
  /** In the unit of the range. */
  readonly abs: number
}

/** `a <= b` with room for the last bits of a double, so that 0.2 of 0.2 passes. */
export const atMost = (a: number, b: number): boolean => a <= b + 1e-9 * Math.max(1, Math.abs(b))

/**
 * Allowed error at a value.
 * @param span - high minus low of the range, in its unit; the sign does not matter.
 * @returns the symmetric limit in the range's unit; 0 when nothing is allowed.
 */
export function toleranceAt(t: Tolerance, span: number, value: number): number {
  const parts = [(t.pctSpan * Math.abs(span)) / 100, (t.pctReading * Math.abs(value)) / 100, t.abs]
  switch (t.mode) {
    case 'max':
      return Math.max(...parts)
    case 'sum':
      return parts.reduce((a, b) => a + b, 0)
    case 'min': {
      const positive = parts.filter((p) => p > 0)
      return positive.length === 0 ? 0 : Math.min(...positive)
    }
  }
}

/** A tolerance in words: "the largest of 0.25 % of span, 0.1 bar". @param unit - of the range */
export function sayTolerance(t: Tolerance, unit: string): string {
  const parts = [
    t.pctSpan > 0 ? `${sayNumber(t.pctSpan)} % of span` : '',
    t.pctReading > 0 ? `${sayNumber(t.pctReading)} % of reading` : '',
    t.abs > 0 ? `${sayNumber(t.abs)} ${printedUnit(unit)}` : '',
  ].filter(Boolean)
  const how = { max: 'the largest of', sum: 'the sum of', min: 'the smallest of' }[t.mode]
  return `${parts.length > 1 ? `${how} ` : ''}${parts.join(', ')}`
}
