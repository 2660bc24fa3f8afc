/** Every table that holds the plant, in an order that its references allow. Sessions are nobody's evidence. */
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
] as const
export type PlantTable = (typeof PLANT_TABLES)[number]
