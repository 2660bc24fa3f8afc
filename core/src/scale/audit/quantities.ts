import type { Dimension } from '../../quantity/units.ts'

/** Quantities that a receiver makes of one another: by a head, a tank’s shape, a density or a flow element. */
const MADE_OF_EACH_OTHER: readonly (readonly Dimension[])[] = [
  ['length', 'pressure', 'pressure_gauge', 'volume', 'mass', 'ratio', 'density', 'force'],
  ['pressure', 'volume_flow', 'mass_flow', 'std_volume_flow', 'velocity', 'frequency'],
  ['volume_flow', 'mass_flow', 'std_volume_flow', 'velocity', 'length'],
  ['conductivity', 'resistance', 'conductance', 'ratio', 'density'],
]

/** Whether a conversion between two quantities is something that a receiver does; temperature and pH have none. */
export const isPlausiblePair = (a: Dimension, b: Dimension): boolean =>
  MADE_OF_EACH_OTHER.some((group) => group.includes(a) && group.includes(b))
