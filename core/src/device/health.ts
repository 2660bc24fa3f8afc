/** A health figure with what it was at the first check and at the last one. */
export interface CheckedFigure {
  readonly figure?: boolean | undefined
  readonly reference: number | null
  readonly checked: number | null
}

/** Largest change of a device's health figures since its first check, %. What the process moves is none of them. */
export const healthChange_pct = (signals: readonly CheckedFigure[]): number =>
  signals.reduce(
    (most, s) =>
      s.figure !== true || s.checked === null || s.reference === null || s.reference === 0
        ? most
        : Math.max(most, Math.abs((100 * (s.checked - s.reference)) / s.reference)),
    0,
  )
