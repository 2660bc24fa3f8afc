import type { Finding } from '../finding.ts'
import type { Setting, Typed } from '../quantity/setting.ts'

/** A kind of sensor that a plant keeps as a thing of its own: what its plate and its certificate say. */
export interface SensorKind {
  readonly id: string
  readonly title: string
  /** Several of it, as a heading. */
  readonly titles: string
  readonly settings: readonly Setting[]
  /** What it is in a few words, for a list: `1 MHz, 38° in 2470 m/s`. @param values - with defaults filled in */
  readonly says: (values: Typed) => string
  /** What its own checks tell of it, where somebody made them. @param values - as typed */
  readonly judge?: (values: Typed) => readonly Finding[]
  /** What contradicts itself on the plate, at its entry. */
  readonly problems: (values: Typed) => readonly { readonly name: string; readonly says: string }[]
}
