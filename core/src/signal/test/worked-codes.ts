/** Codes that the worked examples were made with: typed ones, no preset. */
export const WORKED_CODES = { n4: 0, n20: 27648, nmin: -4864, nmax: 32511 } as const
