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

/** Order of rows in a backup: the same plant always gives the same bytes. */
export const ORDER: Readonly<Record<PlantTable, string>> = {
  people: 'id',
  equipment: 'id',
  settings: 'key',
  loops: 'position',
  loop_revisions: 'loop_id, number',
  runs: 'id',
  events: 'loop_id, seq',
  imports: 'id',
  held_rows: 'id',
  stand_ins: 'loop_id',
  sign_ins: 'id',
}

/** Settings that stay in their database. */
export const SECRET_SETTINGS: readonly string[] = ['session secret']

/** What is told anew from the events is in no backup: it could only disagree with them. */
export const FOLDED_COLUMNS: readonly string[] = ['folded']
