import type { z } from 'zod'

/** What changes are filtered by. */
export const PLANT_GROUPS = [
  'people',
  'sign-ins',
  'keys and signatures',
  'instruments',
  'settings',
  'imports and exports',
  'devices',
  'plans',
  'backups and the record',
] as const
export type PlantGroup = (typeof PLANT_GROUPS)[number]

/** A kind of change outside the loops: what it holds, and its words. */
export interface PlantKind<T extends string = string, S extends z.ZodType = z.ZodType> {
  readonly type: T
  readonly group: PlantGroup
  readonly payload: S
  readonly title: string
  readonly says: (payload: z.output<S>) => string
}

/** Checks a kind as it is written down. */
export const plantKind = <const T extends string, S extends z.ZodType>(k: PlantKind<T, S>): PlantKind<T, S> =>
  k
