import type { Entries } from './settings.ts'

/** The distances that the device has to hold, as far as somebody has typed them. */
export const told = (
  s: Entries,
  isTyped: (name: keyof Entries) => boolean,
): Readonly<Record<string, number>> => ({
  ...(isTyped('empty_m') ? { empty_m: s.empty_m } : {}),
  ...(isTyped('full_m') && s.hundred === 'entered' ? { full_m: s.full_m } : {}),
})
