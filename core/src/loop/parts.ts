/** How a part of the work on a loop stands. */
export type PartState = 'notYet' | 'good' | 'look' | 'stop'

/** The parts of the work on a loop, in their order; apart from how they are judged, which knows a great deal. */
export const PARTS = ['wire', 'setUp', 'scale', 'trim', 'verify'] as const
export type Part = (typeof PARTS)[number]
