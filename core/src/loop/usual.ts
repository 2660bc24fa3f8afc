import type { Water } from '../quantity/water-column.ts'

/** What a plant usually asks of one kind of meter; null: it has not said. */
export interface UsualOfKind {
  /** Percent of span. */
  readonly tolerance_pct: number | null
  readonly interval_months: number | null
}

/** The key of what holds for every kind that has no rule of its own. */
export const ANY_KIND = 'any'

/** Which comes first in a date as 3/4/2026. */
export const DATE_ORDERS = ['dayFirst', 'monthFirst'] as const
export type DateOrder = (typeof DATE_ORDERS)[number]

/** What a plant has said about its lists: a row that leaves it out is read by it. */
export interface PlantSays {
  readonly water: Water | null
  /** By the family’s id, or `ANY_KIND`. */
  readonly byKind: Readonly<Record<string, UsualOfKind>>
  /** Of this list; absent where nobody was asked. */
  readonly dateOrder?: DateOrder | undefined
}
export const NOTHING_SAID: PlantSays = { water: null, byKind: {} }

/** A figure of the plant for this kind of meter, else for any. */
export function usualOf<K extends string, V>(
  byKind: Readonly<Record<string, Readonly<Record<K, V | null>>>>,
  family: string | null,
  what: K,
): V | null {
  return byKind[family ?? ANY_KIND]?.[what] ?? byKind[ANY_KIND]?.[what] ?? null
}
