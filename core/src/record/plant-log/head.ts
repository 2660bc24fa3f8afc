import { canonicalJson } from '../canonical-json.ts'

/** How far the plant's record had come at one moment: as many leaves, with this root. */
export interface TreeHead {
  readonly v: 1
  /** Which plant. */
  readonly plant: string
  readonly size: number
  /** Hexadecimal. */
  readonly root: string
  readonly at: string
}

/** The bytes that a plant signs when its record has come so far. */
export const headText = ({ v, plant, size, root, at }: TreeHead): string =>
  `calm-loop head v1\n${canonicalJson({ v, plant, size, root, at })}`
