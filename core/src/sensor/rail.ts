/** How a rail is read: in millimetres between the inner faces, or in index numbers (1 is the first). */
export type Rail =
  | { readonly kind: 'mm' }
  | { readonly kind: 'index'; readonly first_mm: number; readonly step_mm: number; readonly last: number }

/** Where the downstream sensor goes on a rail. */
export interface RailPosition {
  /** As it is read off: `214.5 mm`, `index 12`. */
  readonly says: string
  /** Spacing that this gives, mm: on an index rail the nearest there is. */
  readonly spacing_mm: number
  /** Null where the rail has this position. */
  readonly problem: string | null
}

/**
 * Position on a rail for a spacing between the inner faces of the sensors.
 * @param spacing_mm - mm; negative where the sensors overlap on opposite sides
 */
export function railPosition(rail: Rail, spacing_mm: number): RailPosition {
  if (rail.kind === 'mm') return { says: `${spacing_mm.toFixed(1)} mm`, spacing_mm, problem: null }
  const wanted = Math.round((spacing_mm - rail.first_mm) / rail.step_mm) + 1
  const index = Math.min(Math.max(wanted, 1), rail.last)
  const at_mm = rail.first_mm + (index - 1) * rail.step_mm
  return {
    says: `index ${index}`,
    spacing_mm: at_mm,
    problem:
      wanted === index
        ? null
        : `This rail goes from ${rail.first_mm} to ${rail.first_mm + (rail.last - 1) * rail.step_mm} mm and ${spacing_mm.toFixed(1)} mm is wanted: take another rail or other traverses.`,
  }
}
