import type { InputStage } from './stage.ts'

export type CodeFormat = Pick<InputStage, 'n4' | 'n20' | 'nmin' | 'nmax'>

/** Common ways an input card codes 4-20 mA. The name is the code at the upper end, or what is special. */
export const CODE_FORMATS = {
  F27648: { n4: 0, n20: 27648, nmin: -4864, nmax: 32511 },
  F4095: { n4: 0, n20: 4095, nmin: 0, nmax: 4095 },
  F819: { n4: 819, n20: 4095, nmin: 0, nmax: 4095 },
  F6553: { n4: 6553, n20: 32767, nmin: 0, nmax: 32767 },
  F65535: { n4: 13107, n20: 65535, nmin: 0, nmax: 65535 },
  F10000: { n4: 0, n20: 10000, nmin: -500, nmax: 10500 },
} as const satisfies Record<string, CodeFormat>

export type CodeFormatName = keyof typeof CODE_FORMATS

/** Current per code, in mA. */
export const currentPerCount_mA = (f: Pick<CodeFormat, 'n4' | 'n20'>): number => 16 / Math.abs(f.n20 - f.n4)

/**
 * Engineering units per code at an output fraction.
 * @param span - engineering span of the receiver.
 * @param squareRoot - true when the receiver takes the root: codes get coarse towards zero.
 */
export function unitsPerCount(
  f: Pick<CodeFormat, 'n4' | 'n20'>,
  span: number,
  squareRoot: boolean,
  outputFraction: number,
): number {
  const d = 1 / Math.abs(f.n20 - f.n4)
  if (!squareRoot) return span * d
  const q2 = outputFraction * outputFraction
  return span * (Math.sqrt(q2 + d / 2) - Math.sqrt(Math.max(0, q2 - d / 2)))
}
