/** What a certificate says of itself. */
export interface Certified {
  readonly certificate: string
  readonly certifiedOn: string
  readonly dueOn: string
}

/** Whether a certificate speaks for a day (both as YYYY-MM-DD). */
const covers = (c: Certified, day: string): boolean => c.certifiedOn <= day && day <= c.dueOn

/** A certificate that was entered once more under its number was corrected: what was wrong about it speaks for nothing. */
const corrected = <C extends Certified>(history: readonly C[]): readonly C[] =>
  history.filter((c, i) => !history.slice(i + 1).some((later) => later.certificate === c.certificate))

/**
 * What stood on an instrument for work of one day: of everything the register ever had of it, the newest whose
 * certificate covers the day; else the newest of all, which then does not.
 * @param history - the oldest first
 */
export const certificateFor = <C extends Certified>(history: readonly C[], day: string): C | null =>
  corrected(history).findLast((c) => covers(c, day)) ?? history.at(-1) ?? null

/** The first of some days that no certificate of an instrument covers; null where each is covered. */
export const uncoveredDay = (history: readonly Certified[], days: readonly string[]): string | null =>
  [...days].sort().find((d) => !corrected(history).some((c) => covers(c, d))) ?? null
