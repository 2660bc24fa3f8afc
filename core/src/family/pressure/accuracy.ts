/** Data-sheet numbers of a transmitter; all typical until the sheet says otherwise. */
export interface PressureAccuracy {
  /** % of span up to the turndown td0. */
  readonly a: number
  /** % of span and % of span per turndown beyond it. */
  readonly b: number
  readonly c: number
  readonly td0: number
}
export const TYPICAL_ACCURACY: PressureAccuracy = { a: 0.065, b: 0.015, c: 0.005, td0: 10 }

export const turndown = (url: number, span: number): number => url / Math.abs(span)

/** Reference accuracy, % of span. */
export const accuracy_pct = (x: PressureAccuracy, td: number): number => (td <= x.td0 ? x.a : x.b + x.c * td)

/** Zero error by the line pressure, % of span, until zeroed at that pressure. */
export const staticError_pct = (
  percentOfUrl: number,
  line: number,
  per: number,
  url: number,
  span: number,
): number => (percentOfUrl * (line / per) * url) / Math.abs(span)
