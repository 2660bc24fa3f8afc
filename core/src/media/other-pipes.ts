/** Pipes that are named by something else than a schedule of steel. Dimensions in mm. */
export const PIPE_MAKES = {
  en: 'steel by EN 10220, named DN',
  copperInch: 'copper tube, named in inches (ASTM B88)',
  copperMetric: 'copper tube, named by its outside diameter (EN 1057)',
  plastic: 'plastic, named by its outside diameter (ISO 161-1)',
  ductile: 'ductile iron, named DN (EN 545)',
  ductileInch: 'ductile iron, named in inches (AWWA C151)',
} as const
export type PipeMake = keyof typeof PIPE_MAKES

/** EN 10220 / ISO 4200, series 1; walls are no schedules there. */
const EN: Readonly<Record<string, number>> = {
  '15': 21.3,
  '20': 26.9,
  '25': 33.7,
  '32': 42.4,
  '40': 48.3,
  '50': 60.3,
  '65': 76.1,
  '80': 88.9,
  '100': 114.3,
  '125': 139.7,
  '150': 168.3,
  '200': 219.1,
  '250': 273,
  '300': 323.9,
  '350': 355.6,
  '400': 406.4,
  '450': 457,
  '500': 508,
  '600': 610,
  '700': 711,
  '800': 813,
  '900': 914,
  '1000': 1016,
  '1200': 1219,
}
/** Walls of types K, L and M by nominal size, inches; the outside diameter is the nominal one and an eighth. @see ASTM B88 */
const COPPER_INCH: Readonly<Record<string, readonly [nominal: number, K: number, L: number, M: number]>> = {
  '1/2': [0.5, 0.049, 0.04, 0.028],
  '3/4': [0.75, 0.065, 0.045, 0.032],
  '1': [1, 0.065, 0.05, 0.035],
  '1-1/4': [1.25, 0.065, 0.055, 0.042],
  '1-1/2': [1.5, 0.072, 0.06, 0.049],
  '2': [2, 0.083, 0.07, 0.058],
  '2-1/2': [2.5, 0.095, 0.08, 0.065],
  '3': [3, 0.109, 0.09, 0.072],
  '4': [4, 0.134, 0.11, 0.095],
}
const COPPER_METRIC = [8, 10, 12, 15, 18, 22, 28, 35, 42, 54, 64, 76.1, 88.9, 108]
const PLASTIC = [
  20, 25, 32, 40, 50, 63, 75, 90, 110, 125, 140, 160, 180, 200, 225, 250, 280, 315, 355, 400, 450, 500, 560,
  630,
]
const DUCTILE: Readonly<Record<string, number>> = {
  '80': 98,
  '100': 118,
  '125': 144,
  '150': 170,
  '200': 222,
  '250': 274,
  '300': 326,
  '350': 378,
  '400': 429,
  '450': 480,
  '500': 532,
  '600': 635,
  '700': 738,
  '800': 842,
  '900': 945,
  '1000': 1048,
}
const DUCTILE_INCH: Readonly<Record<string, number>> = {
  '3': 3.96,
  '4': 4.8,
  '6': 6.9,
  '8': 9.05,
  '10': 11.1,
  '12': 13.2,
  '14': 15.3,
  '16': 17.4,
  '18': 19.5,
  '20': 21.6,
  '24': 25.8,
  '30': 32,
  '36': 38.3,
}
const INCH = 25.4

/** The sizes of a make, as they are named. */
export function sizesOf(make: PipeMake): readonly string[] {
  switch (make) {
    case 'en':
      return Object.keys(EN)
    case 'copperInch':
      return Object.keys(COPPER_INCH)
    case 'copperMetric':
      return COPPER_METRIC.map(String)
    case 'plastic':
      return PLASTIC.map(String)
    case 'ductile':
      return Object.keys(DUCTILE)
    case 'ductileInch':
      return Object.keys(DUCTILE_INCH)
  }
}

export interface WallChoice {
  /** Copper in inches. */
  readonly type?: 'K' | 'L' | 'M' | undefined
  /** Plastic: outside diameter over wall. */
  readonly sdr?: number | undefined
  /** Ductile iron by EN 545: class K, as 9. */
  readonly kClass?: number | undefined
}
/**
 * Outside diameter by name, and the wall where a class of it tells one; it is always measured all the same.
 * @returns od_mm null: no such size; wall_mm null: the name does not tell the wall, so it is typed
 */
export function namedPipe(
  make: PipeMake,
  size: string,
  wall: WallChoice,
): { readonly od_mm: number | null; readonly wall_mm: number | null; readonly says: string | null } {
  const none = { od_mm: null, wall_mm: null, says: null }
  switch (make) {
    case 'en': {
      const od_mm = EN[size]
      return od_mm === undefined ? none : { od_mm, wall_mm: null, says: null }
    }
    case 'copperInch': {
      const told = COPPER_INCH[size]
      if (!told) return none
      const [nominal, K, L, M] = told
      const w = wall.type === undefined ? null : { K, L, M }[wall.type]
      return { od_mm: (nominal + 0.125) * INCH, wall_mm: w === null ? null : w * INCH, says: null }
    }
    case 'copperMetric':
      return COPPER_METRIC.includes(Number(size)) ? { od_mm: Number(size), wall_mm: null, says: null } : none
    case 'plastic': {
      if (!PLASTIC.includes(Number(size))) return none
      const od_mm = Number(size)
      return wall.sdr === undefined
        ? { od_mm, wall_mm: null, says: null }
        : {
            od_mm,
            wall_mm: od_mm / wall.sdr,
            says: 'The wall by SDR is the least one; the real one is up to 10 % more. Measure it.',
          }
    }
    case 'ductile': {
      const od_mm = DUCTILE[size]
      if (od_mm === undefined) return none
      const { kClass } = wall
      return kClass === undefined
        ? { od_mm, wall_mm: null, says: null }
        : {
            od_mm,
            // EN 545: e = K (0.5 + 0.001 DN), 6 mm at least.
            wall_mm: Math.max(6, kClass * (0.5 + 0.001 * Number(size))),
            says: 'The nominal iron wall of the class, typical; a cement liner comes on top. Measure it.',
          }
    }
    case 'ductileInch': {
      const inches = DUCTILE_INCH[size]
      return inches === undefined ? none : { od_mm: inches * INCH, wall_mm: null, says: null }
    }
  }
}
