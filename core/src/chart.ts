/** A chart as data: axes, series, bands and words. Chart.js draws it on screen, the PDF draws the same on paper. */
export interface Axis {
  readonly label: string
  readonly unit?: string
  /** Ends of the axis; where there are none the numbers decide. */
  readonly from?: number
  readonly to?: number
  /** Marks are drawn every so much. */
  readonly step?: number
}
/**
 * How a series is drawn. A limit is thin and dashed; points are what was measured or typed; a band is what is
 * allowed, between `points` and `below`; a floor is what must stay underneath.
 */
export type SeriesKind = 'line' | 'points' | 'limit' | 'bars' | 'band' | 'floor'
export interface Series {
  readonly name: string
  readonly kind: SeriesKind
  readonly points: readonly (readonly [x: number, y: number])[]
  /** The lower edge of a band, at the same x. */
  readonly below?: readonly number[]
  /** Open marks, and its line dashed: as found, before anything was changed. */
  readonly open?: true
  /** Of a stand-in, not of the world: never in the ink of what was measured. */
  readonly simulated?: true
  /** Marks that no line joins. */
  readonly apart?: true
}
export interface Chart {
  readonly title: string
  /** The chart in a sentence, for who does not see it. */
  readonly says: string
  readonly x: Axis
  readonly y: Axis
  readonly series: readonly Series[]
}

/** Rows for reading and printing; numbers are already rounded texts. */
export interface Table {
  readonly title: string
  readonly columns: readonly string[]
  readonly rows: readonly (readonly string[])[]
}
