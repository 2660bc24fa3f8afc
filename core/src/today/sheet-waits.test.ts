import { describe, expect, test } from 'vitest'
import type { SheetLine } from '../family/family.ts'
import { sheetWaits, type SheetKnown } from './sheet-waits.ts'

const line = (says: string, value: string, more: Partial<SheetLine> = {}): SheetLine => ({
  says,
  value,
  ...more,
})
const SHEET = [line('Span', '2.5 bar'), line('Damping', '2 s'), line('Write protect', 'on', { act: true })]
const with_ = (says: string, value: string) => SHEET.map((l) => (l.says === says ? line(says, value) : l))
const read = (...lines: [says: string, read: string, same: boolean][]) => ({
  on: '2026-11-20',
  lines: lines.map(([says, text, same]) => ({ says, read: text, same })),
})
const BOTH = read(['Span', '2.5 bar', true], ['Damping', '2 s', true])
const known = (over: Partial<SheetKnown>): SheetKnown => ({
  ...{ lines: SHEET, before: SHEET, readBacks: [BOTH], changedOn: '2026-11-23' },
  ...over,
})

describe('whether a device has to be read back', () => {
  test.each<[says: string, over: Partial<SheetKnown>, why: string | null, since?: string]>([
    ['read back, all the same', { readBacks: [BOTH] }, null],
    [
      'changed since it was read back',
      { lines: with_('Span', '3 bar'), readBacks: [BOTH] },
      'Changed since it was read back on 2026-11-20: “Span”.',
      '2026-11-23',
    ],
    // 250 kPa is 2.5 bar.
    ['said in another unit', { lines: with_('Span', '250 kPa'), readBacks: [BOTH] }, null],
    [
      'the device showed something else',
      { readBacks: [read(['Span', '3 bar', false], ['Damping', '2 s', true])] },
      'Its device showed another “Span” on 2026-11-20.',
      '2026-11-20',
    ],
    // Not the device was wrong but the sheet: it says now what the device showed.
    [
      'the sheet was put right by the device',
      { lines: with_('Span', '3 bar'), readBacks: [read(['Span', '3 bar', false])] },
      null,
    ],
    [
      'put right, to another value still',
      { lines: with_('Span', '4 bar'), readBacks: [read(['Span', '3 bar', false])] },
      'Its device showed another “Span” on 2026-11-20.',
      '2026-11-20',
    ],
    [
      'both',
      {
        lines: with_('Damping', '4 s'),
        readBacks: [read(['Span', '3 bar', false], ['Damping', '2 s', true])],
      },
      'Its device showed another “Span” on 2026-11-20. Changed since it was read back on 2026-11-20: “Damping”.',
      '2026-11-20',
    ],
    [
      'read back twice, the second time without the line that was wrong',
      {
        readBacks: [read(['Span', '3 bar', false]), { ...read(['Damping', '2 s', true]), on: '2026-11-22' }],
      },
      'Its device showed another “Span” on 2026-11-20.',
      '2026-11-20',
    ],
    [
      'put right at the device, and seen',
      {
        readBacks: [read(['Span', '3 bar', false]), { ...read(['Span', '2.5 bar', true]), on: '2026-11-22' }],
      },
      null,
    ],
    // Nobody read it, and it is as it was.
    ['a line that was not read', { readBacks: [read(['Span', '2.5 bar', true])] }, null],
    [
      'a new line',
      { lines: [...SHEET, line('Units', 'bar')] },
      'Changed since it was read back on 2026-11-20: “Units”.',
    ],
    ['an act is in no device', { before: SHEET.slice(0, 2) }, null],
    ['a line that is no more', { lines: SHEET.slice(1) }, null],
    [
      'many are not all named',
      { before: [line('Other', '1')], lines: ['A', 'B', 'C', 'D', 'E'].map((s) => line(s, '1 bar')) },
      'Changed since it was read back on 2026-11-20: “A”, “B”, “C” and 2 more.',
    ],
  ])('%s', (_, over, why, since) => {
    const told = sheetWaits(known(over))
    expect(told?.why ?? null).toBe(why)
    expect(since === undefined || told?.since === since).toBe(true)
  })
})
