import type { InputStage } from './stage.ts'

export type CodeFormat = Pick<InputStage, 'n4' | 'n20' | 'nmin' | 'nmax'>

/**
 * Usual codings of 4-20 mA by resolution and coding, never by a card. Any other four codes are typed.
 * A live zero has its own code at 4 mA: below it a broken wire still shows.
 */
export const CODE_FORMATS = {
  hundredths: { title: 'hundredths of a percent, 0 to 10 000', n4: 0, n20: 10000, nmin: -500, nmax: 10500 },
  bits12: { title: '12 bit from 4 mA, 0 to 4095', n4: 0, n20: 4095, nmin: 0, nmax: 4095 },
  'bits12-live': { title: '12 bit from 0 mA, 819 to 4095', n4: 819, n20: 4095, nmin: 0, nmax: 4095 },
  'bits15-live': { title: '15 bit from 0 mA, 6553 to 32 767', n4: 6553, n20: 32767, nmin: 0, nmax: 32767 },
  'bits16-live': { title: '16 bit from 0 mA, 13 107 to 65 535', n4: 13107, n20: 65535, nmin: 0, nmax: 65535 },
} as const satisfies Record<string, CodeFormat & { readonly title: string }>

export type CodeFormatName = keyof typeof CODE_FORMATS
/** What a card is taken for until somebody tells its codes. */
export const USUAL_CODES: CodeFormat = {
  n4: CODE_FORMATS.hundredths.n4,
  n20: CODE_FORMATS.hundredths.n20,
  nmin: CODE_FORMATS.hundredths.nmin,
  nmax: CODE_FORMATS.hundredths.nmax,
}

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
