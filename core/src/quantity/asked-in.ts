/** Units that people and devices use for one another, of one kind each; within a kind each can be said in each. */
const KINDS: readonly (readonly string[])[] = [
  ['mm', 'cm', 'm', 'in', 'ft'],
  ['kPa', 'bar', 'mbar', 'MPa', 'psi', 'mmH2O@4C', 'inH2O@4C', 'inH2O@60F', 'inH2O@68F'],
  ['degC', 'degF'],
  ['m3/h', 'L/min', 'L/h', 'L/s', 'USgal/min'],
  ['kg/h', 'kg/min', 't/h', 'lb/h', 'lb/min'],
  ['m/s', 'ft/s'],
  ['kg/m3', 'g/cm3', 'lb/ft3'],
  ['m3', 'L', 'hL', 'USgal', 'impgal', 'bbl', 'ft3'],
]

/** The units in which one of this symbol may be said, itself among them; empty where it has no others. */
export const askedIn = (unit: string): readonly string[] => KINDS.find((k) => k.includes(unit)) ?? []

/** By the unit of the program, the one in which somebody wants it said: `mm` in `in`, `m` in `ft`. */
export type WantedUnits = Readonly<Record<string, string>>

/** Units of entries and results for which a plant may want another one, and what each is mostly for. */
export const PLANT_UNITS = [
  { unit: 'mm', of: 'Pipes, walls, sensors' },
  { unit: 'm', of: 'Tanks, probes, cables' },
  { unit: 'm3', of: 'Volumes' },
  { unit: 'kPa', of: 'Pressures' },
  { unit: 'degC', of: 'Temperatures' },
  { unit: 'm3/h', of: 'Volume flows' },
  { unit: 'kg/h', of: 'Mass flows' },
  { unit: 'm/s', of: 'Velocities' },
  { unit: 'kg/m3', of: 'Densities' },
] as const
