/** Sizes of paper, points of 1/72 inch, upright. @see ISO 216; ANSI/ASME Y14.1 */
export const PAPERS = {
  A4: { width: 595, height: 842 },
  letter: { width: 612, height: 792 },
} as const
export type Paper = keyof typeof PAPERS
export const PAPER_NAMES = ['A4', 'letter'] as const satisfies readonly Paper[]
