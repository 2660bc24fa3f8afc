/** A chart as data: what is on the axes and the series; the web and the reports draw it. */
export interface Axis {
  readonly label: string
  readonly unit?: string
}
export interface Series {
  readonly name: string
  /** A limit is drawn thin and dashed; points are what was measured or typed. */
  readonly kind: 'line' | 'points' | 'limit' | 'bars'
  readonly points: readonly (readonly [x: number, y: number])[]
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
