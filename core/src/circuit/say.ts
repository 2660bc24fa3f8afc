import { sayNumber } from '../quantity/round.ts'

/** Volts and milliamperes as the solver's sentences say them. */
export const volts = (v: number): string => `${sayNumber(v, 4)} V`
export const milliamps = (a: number): string => `${sayNumber(a * 1000, 4)} mA`
