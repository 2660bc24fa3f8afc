/**
 * Every table that holds the plant, in an order that its references allow. Sessions and open
 * invitations are nobody's evidence, and the secret that signs the cookies leaves the house in no backup. The order
 * in which what waits for the tree came in is kept too: last, since events that are put in wait by themselves.
 */
export const PLANT_TABLES = [
  'people',
  'person_keys',
  'second_factors',
  'equipment',
  'sensor_revisions',
  'settings',
  'loops',
  'loop_revisions',
  'runs',
  'events',
  'picture_parts',
  'logs',
  'log_pieces',
  'log_blocks',
  'day_entries',
  'imports',
  'held_rows',
  'stand_ins',
  'sensor_stand_ins',
  'sign_ins',
  'plant_events',
  'leaves',
  'tree_nodes',
  'tree_heads',
  'unsealed',
] as const
export type PlantTable = (typeof PLANT_TABLES)[number]

/** Order of rows in a backup: the same plant always gives the same bytes. */
export const ORDER: Readonly<Record<PlantTable, string>> = {
  people: 'id',
  person_keys: 'fingerprint',
  second_factors: 'person_id',
  equipment: 'id',
  sensor_revisions: 'sensor_id, revision',
  settings: 'key',
  loops: 'position',
  loop_revisions: 'loop_id, number',
  runs: 'id',
  events: 'loop_id, seq',
  picture_parts: 'sha256, part',
  logs: 'id',
  log_pieces: 'log_id, piece',
  log_blocks: 'log_id, channel, block',
  day_entries: 'position',
  imports: 'id',
  held_rows: 'id',
  stand_ins: 'loop_id',
  sensor_stand_ins: 'sensor_id',
  sign_ins: 'id',
  plant_events: 'position',
  leaves: 'at',
  tree_nodes: 'level, at',
  tree_heads: 'size',
  unsealed: 'position',
}

/** Settings that stay in their database. */
export const SECRET_SETTINGS: readonly string[] = ['session secret']

/** What is told anew from the events is in no backup: it could only disagree with them. */
export const FOLDED_COLUMNS: readonly string[] = ['folded']
