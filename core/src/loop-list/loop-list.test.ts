import { describe, expect, test } from 'vitest'
import type { LoopDocument } from '../loop/document.ts'
import { usualRelay } from '../signal/relay-plan.ts'
import { stageOf } from '../signal/stage.ts'
import { LIST_COLUMNS, suggestMapping } from './columns.ts'
import { readList } from './read-list.ts'
import { readRow } from './read-row.ts'
import { writeRow } from './write-row.ts'

const TITLES = LIST_COLUMNS.map((c) => c.title)
const PRESSURE = [
  'PT-9',
  'Feed',
  '200 Membranes',
  'pressure',
  '0',
  '85',
  'bar g',
  'linear',
  '4-20 mA',
  '0',
  '85',
  'bar g',
  '0,2',
  '6',
  '2026-06-15',
  'trip',
  '',
  '',
]
const row = (changes: Partial<Record<(typeof TITLES)[number], string>>) =>
  PRESSURE.map((cell, i) => changes[TITLES[i] ?? 'Tag'] ?? cell)
const mapping = suggestMapping(TITLES)
const none = () => null

describe('headings', () => {
  test('our own, in any order and case, with unknown ones left to a person', () => {
    expect(suggestMapping(['TAG', 'urv', 'Colour', 'last_cal', 'Description'])).toEqual([
      'tag',
      'urv',
      null,
      'lastCalibrated',
      'service',
    ])
  })
  test('a heading that comes twice is taken once', () => {
    expect(suggestMapping(['Tag', 'tag'])).toEqual(['tag', null])
  })
})

describe('what is wrong with a row is said at its cell', () => {
  const rows: readonly [
    why: string,
    changes: Parameters<typeof row>[0],
    code: string,
    where: string,
    says: RegExp,
  ][] = [
    ['no tag', { Tag: '' }, 'NO_TAG', 'tag', /no tag/],
    ['a tag with spaces', { Tag: 'PT 9' }, 'BAD_TAG', 'tag', /without spaces/],
    ['no upper end', { URV: '' }, 'MISSING_RANGE', 'urv', /missing/],
    ['a range without span', { LRV: '85' }, 'MISSING_RANGE', 'urv', /must differ/],
    ['an unknown unit', { Unit: 'stones' }, 'UNKNOWN_UNIT', 'unit', /“stones”/],
    ['a water column without temperature', { Unit: 'mm H2O' }, 'WATER_UNTOLD', 'unit', /mmH2O \(4 °C\)/],
    [
      'an impossible date',
      { 'Last calibrated': '2025-13-05' },
      'IMPOSSIBLE_DATE',
      'lastCalibrated',
      /“2025-13-05”/,
    ],
    [
      'a 29th of February too many',
      { 'Last calibrated': '29.02.2025' },
      'IMPOSSIBLE_DATE',
      'lastCalibrated',
      /calendar/,
    ],
    ['a word for a number', { LRV: 'zero' }, 'NOT_A_NUMBER', 'lrv', /“zero”/],
    ['a unit in the number cell', { URV: '85 bar' }, 'NOT_A_NUMBER', 'urv', /own column/],
    ['a negative tolerance', { 'Tolerance (% span)': '-1' }, 'NOT_POSSIBLE', 'tolerance', /not negative/],
    ['half a month', { 'Interval (months)': '0,5' }, 'NOT_POSSIBLE', 'interval', /./],
    ['an odd transfer function', { Transfer: 'cubic' }, 'UNKNOWN_TRANSFER', 'transfer', /cubic/],
  ]
  test.each(rows)('%s', (_why, changes, code, where, says) => {
    const [read] = readList([row(changes)], mapping, none)
    expect(read?.standing).toBe('bad')
    expect(read?.document).toBeNull()
    const finding = read?.findings.find((f) => f.code === code)
    expect(finding?.where).toEqual([where])
    expect(finding?.says).toMatch(says)
  })
  test('the second of two rows with one tag is held back, the first is kept', () => {
    const [first, second] = readList([row({}), row({ Tag: 'pt-9' })], mapping, none)
    expect(first?.standing).toBe('new')
    expect(second?.findings[0]).toMatchObject({ code: 'DUPLICATE_TAG', where: ['tag'] })
    expect(second?.findings[0]?.says).toContain('row 2')
  })
  test('what was typed in a bad row is kept', () => {
    const [read] = readList([row({ Unit: 'stones', Remark: 'keep me' })], mapping, none)
    expect(read?.cells).toMatchObject({ unit: 'stones', remark: 'keep me', lrv: '0' })
  })
})

describe('what a good row becomes', () => {
  const doc = (changes: Parameters<typeof row>[0]): LoopDocument => {
    const [read] = readList([row(changes)], mapping, none)
    if (!read?.document) throw new Error(read?.findings[0]?.says ?? 'no document')
    return read.document
  }
  test('decimal comma, unit spelling, tolerance', () => {
    const d = doc({
      LRV: '0,35',
      URV: '4,10',
      Unit: 'm',
      'Receiver LRV': '0,35',
      'Receiver URV': '4,10',
      'Receiver unit': 'm',
    })
    expect(stageOf(d.path, 'transmitter')?.range).toEqual({ low: 0.35, high: 4.1, unit: 'm' })
    expect(d.tolerance?.pctSpan).toBe(0.2)
    expect(d.asTyped['path.transmitter.range.high']).toBe('4,10')
  })
  test('a date the way people write it', () => {
    expect(doc({ 'Last calibrated': '5.2.2026' }).lastCalibrated).toBe('2026-02-05')
  })
  test('a switch has no signal path and needs no range', () => {
    const read = readRow({ tag: 'LSH-1', type: 'switch, float', signal: 'dry contact NC' })
    expect(read.document?.path).toEqual([])
  })
  test('an orifice listed in flow keeps its flow range and a dp range in percent', () => {
    const t = stageOf(doc({ Transfer: 'square root', LRV: '0', URV: '25', Unit: 'm³/h' }).path, 'transmitter')
    expect(t).toMatchObject({
      transfer: { kind: 'sqrt' },
      range: { high: 100, unit: '%' },
      shows: { high: 25, unit: 'm3/h' },
    })
  })
  test('a panel display hangs in the loop and has no controller', () => {
    const d = doc({ Type: 'display', Unit: '%', 'Receiver unit': '%', URV: '100', 'Receiver URV': '50' })
    expect(stageOf(d.path, 'display')).toMatchObject({ from: 'current', range: { high: 50 } })
    expect(stageOf(d.path, 'controller')).toBeUndefined()
  })
  test('defaults that nobody confirmed are marked', () => {
    expect(doc({}).unconfirmed).toContain('path.shunt.resistance_ohm')
  })
  test('exported again it is the same row, to the letter', () => {
    for (const changes of [
      {},
      { LRV: '1,45', URV: '0,25', Unit: 'm distance' },
      { Transfer: 'square root', Unit: 'm³/h', 'Receiver unit': 'm³/h' },
      { Type: 'display' },
    ])
      expect(writeRow(doc(changes))).toEqual(row(changes))
  })
  test('a value changed since is exported as it is now', () => {
    const d = doc({ URV: '85,0' })
    const t = stageOf(d.path, 'transmitter')
    const changed = {
      ...d,
      path: d.path.map((s) => (s === t ? { ...t, range: { ...t.range, high: 90.5 } } : s)),
    }
    expect(writeRow(changed)[5]).toBe('90,5')
  })
  test('a number keeps how it was typed only while it still is that number, and a unit too', () => {
    const d = doc({})
    const written = (asTyped: Readonly<Record<string, string>>) => {
      const cells = writeRow({ ...d, asTyped })
      return [cells[5], cells[6]]
    }
    const [high, unit] = ['path.transmitter.range.high', 'path.transmitter.range.unit']
    expect(written({})).toEqual(['85', 'bar g'])
    expect(written({ [high]: '85.000', [unit]: 'bar(g)' })).toEqual(['85.000', 'bar(g)'])
    expect(written({ [high]: 'about 85', [unit]: 'psi g' })).toEqual(['85', 'bar g'])
    expect(written({ [high]: '84.999', [unit]: 'no unit' })).toEqual(['85', 'bar g'])
  })
  test('what is not there is an empty cell', () => {
    const d = doc({})
    const cells = writeRow({ ...d, path: [], tolerance: null, interval_months: null, lastCalibrated: null })
    expect(cells.filter((_, i) => [4, 5, 6, 7].includes(i))).toEqual(['', '', '', ''])
    expect(cells.slice(9, 15)).toEqual(['', '', '', '', '', ''])
  })
})

describe('a list imported again', () => {
  const [before] = readList([row({})], mapping, none)
  const known = (tag: string) => (tag === 'PT-9' ? (before?.document ?? null) : null)
  test('says same when nothing differs', () => {
    expect(readList([row({})], mapping, known)[0]).toMatchObject({ standing: 'same', changes: [] })
  })
  test('names what differs', () => {
    const [read] = readList([row({ URV: '90' })], mapping, known)
    expect(read?.standing).toBe('changed')
    expect(read?.changes.map((c) => [c.path, c.before, c.after])).toEqual([
      ['path.transmitter.range.high', 85, 90],
    ])
  })
})

describe('what no list tells stays as the loop has it', () => {
  const [first] = readList([row({})], mapping, none)
  const relay = { ...usualRelay('LSH', 0, 85), alarm: 'high' as const }
  const made = first?.document
  if (!made) throw new Error('The row is good.')
  const here: LoopDocument = {
    ...made,
    trips: [relay],
    toKeyIn: [{ of: 'controller', says: 'range', value: '0 to 85' }],
    floor: 3,
    assignee: 'Wren',
    tolerance: { mode: 'sum', pctSpan: 0.2, pctReading: 0.5, abs: 0 },
    path: made.path.map((s) =>
      s.kind === 'transmitter' ? { ...s, reverse: true, transfer: { kind: 'sqrt', cutoff: 0.02 } } : s,
    ),
  }
  const known = () => here
  test('the same row again is the same loop', () => {
    expect(readList([row({})], mapping, known)[0]).toMatchObject({ standing: 'same', document: here })
  })
  test('a new end of the range changes that and nothing else', () => {
    const [read] = readList([row({ URV: '90', 'Tolerance (% span)': '0,3' })], mapping, known)
    expect(read?.changes.map((c) => [c.path, c.before, c.after])).toEqual([
      ['path.transmitter.range.high', 85, 90],
      ['tolerance.pctSpan', 0.2, 0.3],
    ])
  })
  test('columns that the file does not have say nothing', () => {
    const short = ['Tag', 'LRV', 'URV', 'Unit']
    const [read] = readList([['PT-9', '0', '85', 'bar g']], suggestMapping(short), known)
    expect(read).toMatchObject({ standing: 'same', changes: [] })
  })
  test('relays and limits are not left in the numbers of another unit', () => {
    const [read] = readList([row({ Unit: 'psi g' })], mapping, known)
    expect([read?.standing, read?.findings.map((f) => f.code)]).toEqual(['bad', ['LEFT_IN_ANOTHER_UNIT']])
    const standing = (loop: LoopDocument) =>
      readList([row({ Unit: 'psi g' })], mapping, () => loop)[0]?.standing
    expect(standing({ ...here, trips: [] })).toBe('changed')
    // The sensor's limits stand in it too.
    const path = here.path.map((s) => (s.kind === 'sensor' ? { ...s, limits: { low: -1, high: 160 } } : s))
    expect(standing({ ...here, trips: [], path })).toBe('bad')
  })
  test.each<[string, number | undefined]>([
    ['', 3],
    ['2', 2],
    ['+2', 2],
    ['0', 0],
    ['Ground', 0],
    ['-1', -1],
  ])('a floor written “%s” is %s', (Floor, floor) => {
    expect(readList([row({ Floor })], mapping, known)[0]?.document?.floor).toBe(floor)
  })
  test('somebody else looks after it; an empty cell leaves who does', () => {
    const name = (cell: string) =>
      readList([row({ 'Assigned to': cell })], mapping, known)[0]?.document?.assignee
    expect([name(''), name(' Dunlin ')]).toEqual(['Wren', 'Dunlin'])
  })
  test.each(['2.5', 'roof', '300', '-'])('“%s” is no floor', (Floor) => {
    expect(readList([row({ Floor })], mapping, known)[0]?.findings).toMatchObject([
      { code: 'NOT_A_FLOOR', where: ['floor'] },
    ])
  })
})

describe('dates whose order is asked once for a list', () => {
  const read = (typed: string, dateOrder?: 'dayFirst' | 'monthFirst') => {
    const cells = { tag: 'ZS-1', type: 'switch', signal: 'dry contact NO', lastCalibrated: typed }
    const { document, findings } = readRow(cells, { water: null, byKind: {}, dateOrder })
    return document?.lastCalibrated ?? findings.map((f) => f.code)
  }
  test.each<[string, 'dayFirst' | 'monthFirst' | undefined, string | string[]]>([
    ['3/4/2026', undefined, ['DATE_ORDER_UNTOLD']],
    ['3/4/2026', 'dayFirst', '2026-04-03'],
    ['3/4/2026', 'monthFirst', '2026-03-04'],
    ['03-04-2026', 'monthFirst', '2026-03-04'],
    ['25/4/2026', 'dayFirst', '2026-04-25'],
    ['25/4/2026', 'monthFirst', ['IMPOSSIBLE_DATE']],
    ['30/2/2026', 'dayFirst', ['IMPOSSIBLE_DATE']],
    // These say it themselves.
    ['2026-04-03', 'monthFirst', '2026-04-03'],
    ['3.4.2026', 'monthFirst', '2026-04-03'],
  ])('%s, %s', (typed, dates, told) => {
    expect(read(typed, dates)).toEqual(told)
  })
})
