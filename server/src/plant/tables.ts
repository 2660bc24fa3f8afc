/**
 * Every table that holds the plant, in an order that its references allow. Sessions are nobody's evidence, and the
 * secret that signs their cookies leaves the house in no backup.
 */
export const PLANT_TABLES = [
  'people',
  'equipment',
  'settings',
  'loops',
  'loop_revisions',
  'runs',
  'events',
  'imports',
  'held_rows',
  'stand_ins',
  'sign_ins',
] as const
export type PlantTable = (typeof PLANT_TABLES)[number]

/** Settings that stay in their database. */
export const SECRET_SETTINGS: readonly string[] = ['session secret']
