/** What a shape of a scale drawing stands for; the web decides how it is drawn. */
export type Ink =
  | 'wall'
  | 'liner'
  | 'fluid'
  | 'beam'
  | 'beam2'
  | 'sensor'
  | 'axis'
  | 'stem'
  | 'plate'
  | 'flow'
  /** What fills a tank; a region in which nothing can be measured; the 4 and 20 mA marks. */
  | 'liquid'
  | 'dead'
  | 'mark'
  /** Something that is only named. */
  | 'box'
export type Shape =
  | { readonly kind: 'area'; readonly ink: Ink; readonly points: readonly (readonly [number, number])[] }
  | {
      readonly kind: 'rect'
      readonly ink: Ink
      readonly x: number
      readonly y: number
      readonly w: number
      readonly h: number
    }
  | {
      readonly kind: 'ring'
      readonly ink: Ink
      readonly x: number
      readonly y: number
      readonly r: number
      readonly inner: number
    }
  | { readonly kind: 'line'; readonly ink: Ink; readonly points: readonly (readonly [number, number])[] }
  | {
      readonly kind: 'dimension'
      readonly from: readonly [number, number]
      readonly to: readonly [number, number]
      readonly text: string
    }
  | {
      readonly kind: 'label'
      readonly at: readonly [number, number]
      readonly text: string
      readonly anchor: 'start' | 'middle' | 'end'
    }
/** Lengths in mm; drawn to one scale. */
export interface ScaleDrawing {
  readonly says: string
  readonly left: number
  readonly top: number
  readonly width: number
  readonly height: number
  readonly shapes: readonly Shape[]
  /** Shows what belongs where and nothing’s size. */
  readonly sketch?: true
}
