import type { StoredEvent } from '@calm/contract/events'
import { expect, test } from 'vitest'
import { notesAtReadings, placeOfReading } from './reading-notes.ts'

const RUN = '11111111-1111-4111-8111-111111111111'
const OTHER = '22222222-2222-4222-8222-222222222222'
const SHA = 'a'.repeat(64)
const event = (n: number, type: string, payload: object) =>
  ({ id: `e${n}`, type, payload, byName: 'Wren' }) as unknown as StoredEvent
const note = (n: number, over: object) =>
  event(n, 'note.kept', { text: `word ${n}`, run: RUN, where: 'as found, point 2', pictures: [], ...over })
const at = (events: StoredEvent[], phase: 'asFound' | 'asLeft' = 'asFound') => {
  const notes = notesAtReadings(events, RUN, phase, [0, 1, 2])
  return [0, 1, 2].map((i) => (notes[i] ?? []).map((x) => x.says))
}

test('a place is said as people say it', () => {
  expect([placeOfReading('asFound', 0), placeOfReading('asLeft', 4)]).toEqual([
    'as found, point 1',
    'as left, point 5',
  ])
})
test.each<[string, StoredEvent[], string[][]]>([
  ['none', [], [[], [], []]],
  ['at its point, in their order', [note(1, {}), note(2, {})], [[], ['word 1', 'word 2'], []]],
  ['of another verification', [note(1, { run: OTHER })], [[], [], []]],
  ['at what was read as left', [note(1, { where: 'as left, point 2' })], [[], [], []]],
  ['in words of their own', [note(1, { where: 'junction box' })], [[], [], []]],
  ['something else that happened', [event(1, 'zero.set', { run: RUN })], [[], [], []]],
])('notes %s', (_, events, told) => {
  expect(at(events)).toEqual(told)
})
test('as left has its own, and a picture stands with its note', () => {
  const file = { sha256: SHA, type: 'image/png', bytes: 68 }
  const events = [note(1, { where: 'as left, point 2', text: '', pictures: [file] })]
  expect(notesAtReadings(events, RUN, 'asLeft', [1])[1]).toEqual([
    { id: 'e1', says: '', byName: 'Wren', pictures: [SHA] },
  ])
})
