import type { Mismatch } from '@calm/contract/plant-log'
import { canonicalJson } from '@calm/core/record/canonical-json'

export type { Mismatch }

/** A value in a sentence, cut where it is long. */
export function sayValue(value: unknown): string {
  if (value === null || value === undefined) return 'nothing'
  const text = typeof value === 'string' ? `“${value}”` : canonicalJson(value)
  return text.length > 80 ? `${text.slice(0, 80)} …` : text
}

/** Members of two objects that are not the same, by their names. */
export function differing(is: unknown, told: unknown): string[] {
  const [a, b] = [is, told].map((x) => (typeof x === 'object' && x !== null ? x : {})) as [
    Record<string, unknown>,
    Record<string, unknown>,
  ]
  return [...new Set([...Object.keys(a), ...Object.keys(b)])].filter(
    (k) => canonicalJson(a[k] ?? null) !== canonicalJson(b[k] ?? null),
  )
}

/** Every member of a row that is not what the record tells, as a mismatch of its own. */
export function mismatchesOf(where: string, is: unknown, told: unknown): Mismatch[] {
  const [a, b] = [is, told] as [Record<string, unknown>, Record<string, unknown>]
  return differing(is, told).map((field) => ({
    where,
    field,
    says: `It is ${sayValue(a[field])} here, and ${sayValue(b[field])} by the record.`,
  }))
}
