export interface Span {
  readonly low: number
  readonly high: number
}
/** How a tool behaves: what it can give, how near it comes, how it holds, and what it shows. */
export interface Tool {
  readonly id: string
  readonly title: string
  /** Why it cannot give a value, or null. */
  readonly refuses: (value: number, range: Span) => string | null
  /** What it really gives when asked for a value: nobody hits a number exactly. @param draw - from -1 to 1 */
  readonly gives: (value: number, range: Span, draw: number) => number
  /** Share of what was given that is lost in the end, and how fast, s. */
  readonly leak: { readonly share: number; readonly tau_s: number }
  /** Seconds for a way through the whole range. */
  readonly stroke_s: number
  /** What its own display shows of what it gives. */
  readonly shows: (given: number, range: Span) => number
}

/** To the nearest step of so many parts of the range. */
export const inSteps = (value: number, range: Span, parts: number): number => {
  const step = Math.abs(range.high - range.low) / parts
  return Math.round(value / step) * step
}
