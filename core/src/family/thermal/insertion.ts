export interface Insertion {
  /** Fitting face to the pipe's outer wall, mm. */
  readonly stack_mm: number
  /** Wall and liner, mm. */
  readonly wall_mm: number
  readonly id_mm: number
  /** Tip beyond the sensing point, mm. */
  readonly tip_mm: number
  readonly stem_mm: number
  readonly probe_mm: number | null
  readonly gauge_kPa: number
}
export interface Inserted {
  /** Mark on the stem at the fitting face, mm. */
  readonly mark_mm: number
  readonly force_N: number
  readonly needsRetractor: boolean
  readonly blockage: number
  readonly refused: string | null
}
/** Above this a hand does not hold the stem: retractor or restraint. About 50 psi gauge. */
export const RETRACTOR_KPA = 340

/** Where the tip goes so that the sensing point is on the centre line, and what pushes back. */
export function insertion(i: Insertion): Inserted {
  const mark_mm = i.stack_mm + i.wall_mm + i.id_mm / 2 + i.tip_mm
  const area = (Math.PI * i.id_mm ** 2) / 4
  const deepest = i.stack_mm + i.wall_mm + i.id_mm - 10
  return {
    mark_mm,
    force_N: (i.gauge_kPa * 1000 * Math.PI * (i.stem_mm / 1000) ** 2) / 4,
    needsRetractor: i.gauge_kPa > RETRACTOR_KPA,
    blockage: 1 - (i.stem_mm * (i.id_mm / 2 + i.tip_mm)) / area,
    refused:
      i.probe_mm !== null && mark_mm > i.probe_mm - 25
        ? `The mark is at ${mark_mm.toFixed(1)} mm and the probe is ${i.probe_mm} mm long: it does not reach. Take a longer probe or a shorter stack.`
        : mark_mm > deepest
          ? 'The tip would touch the far wall.'
          : null,
  }
}
/** Mean over centre-line velocity of a power-law profile, and the depth at which local is mean. */
export const meanFactor = (n: number) => {
  const F = (2 * n * n) / ((n + 1) * (2 * n + 1))
  return { F, meanDepth: 0.5 * F ** n }
}
