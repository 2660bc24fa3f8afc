import type { Entries } from './settings.ts'

/** What the input has to do, as far as somebody has typed it: a default is nobody's word. */
export const told = (
  s: Entries,
  isTyped: (name: keyof Entries) => boolean,
): Readonly<Record<string, number | string>> => ({
  ...(s.tag !== '' ? { input: s.tag } : {}),
  ...(isTyped('output') ? { output: s.output } : {}),
  ...(isTyped('contact') ? { contact: s.contact } : {}),
  ...(isTyped('alarmOn') && s.alarmOn !== 'none' ? { alarmOn: s.alarmOn, delay_s: s.delay_s } : {}),
  ...(s.counter && isTyped('most_s') ? { most_s: s.most_s } : {}),
  ...(s.counter ? { counts: 1 } : {}),
})
