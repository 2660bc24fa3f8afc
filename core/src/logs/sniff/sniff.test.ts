import { Generator } from '../../statistics/generator.ts'
import { wallTime } from './times.ts'
import { describe, expect, test } from 'vitest'
import { headingOf } from './heading-unit.ts'
import { numberBy, voteOn } from './numbers.ts'
import { freshState, rowReader } from './read-rows.ts'
import { sniff, type LogMapping } from './sniff.ts'

const at = (iso: string) => Date.parse(iso)
const sniffed = (text: string, zone?: string) => {
  const told = sniff(text.split('\n'), zone)
  if (!told) throw new Error('nothing sniffed')
  return told
}

describe('what a file is', () => {
  const rows: readonly [string, string, object][] = [
    [
      'commas, points, ISO times',
      'Time,Flow [m³/h],Temp (°C)\n2026-03-01T00:00:00Z,41.5,20.1\n2026-03-01T00:00:01Z,41.6,20.2',
      {
        delimiter: ',',
        decimal: '.',
        headerLines: 1,
        columns: [
          { name: 'Time', unit: null, kind: 'time' },
          { name: 'Flow', unit: 'm3/h', kind: 'value' },
          { name: 'Temp', unit: 'degC', kind: 'value' },
        ],
        time: { format: 'YMD', unit_s: 1 },
      },
    ],
    [
      'semicolons, decimal commas, a head of the device, date and clock apart',
      'Device;7\nSite;intake\n\nDatum;Uhr;Flow l/s;Signal\n01.03.2026;00:00:00;1,5;80\n13.03.2026;00:00:05;1,25;81',
      {
        delimiter: ';',
        decimal: ',',
        headerLines: 4,
        columns: [
          { name: 'Datum', unit: null, kind: 'date' },
          { name: 'Uhr', unit: null, kind: 'clock' },
          { name: 'Flow', unit: 'L/s', kind: 'value' },
          { name: 'Signal', unit: '%', kind: 'quality' },
        ],
        time: { format: 'DMY', unit_s: 1 },
      },
    ],
    [
      'a line of units below the names',
      'elapsed\tFlow\tPressure\ns\tm3/h\tbar\n0\t1.5\t2\n1\t1.6\t2\n2\t1.7\t2',
      {
        delimiter: '\t',
        headerLines: 2,
        columns: [
          { name: 'elapsed', unit: 's', kind: 'time' },
          { name: 'Flow', unit: 'm3/h', kind: 'value' },
          { name: 'Pressure', unit: 'bar', kind: 'value' },
        ],
        time: { format: 'RELATIVE', unit_s: 1 },
      },
    ],
    [
      'a comma that is both',
      'Time,Flow m3/h,Temp °C\n2026-03-01 00:00:00,41,5,20,1\n2026-03-01 00:00:01,41,6,20,2',
      { delimiter: ',', decimal: ',', isDecimalDelimiter: true, headerLines: 1 },
    ],
    [
      'blanks',
      '0.0  12.1\n0.5  12.2\n1.0  12.3',
      { delimiter: ' ', headerLines: 0, time: { format: 'NONE', unit_s: 1 } },
    ],
    [
      'seconds since 1970',
      't|mA\n1772323200|4.1\n1772323201|4.2',
      { time: { format: 'EPOCH_S', unit_s: 1 } },
    ],
    [
      'milliseconds since 1970',
      't|mA\n1772323200000|4.1\n1772323200500|4.2',
      { time: { format: 'EPOCH_MS', unit_s: 0.001 } },
    ],
    [
      'days of a spreadsheet',
      'when;mA\n46082.25;4.1\n46082.5;4.2',
      { time: { format: 'SERIAL_DAY', unit_s: 86_400 } },
    ],
    ['a clock alone', 'clock;mA\n23:59:58;4.1\n00:00:01;4.2', { time: { format: 'ELAPSED', unit_s: 1 } }],
    ['minutes', 'Time (min);mA\n0;4.1\n1;4.2\n2;4.2', { time: { format: 'RELATIVE', unit_s: 60 } }],
    [
      'month first',
      'time;mA\n03/01/2026 10:00;4.1\n03/14/2026 10:00;4.2',
      { time: { format: 'MDY', unit_s: 1 } },
    ],
    [
      'an order told by rising times',
      'time;mA\n01/02/2026 10:00;4.1\n02/02/2026 10:00;4.2\n03/02/2026 10:00;4.2',
      { time: { format: 'DMY', unit_s: 1 } },
    ],
  ]
  test.each(rows)('%s', (_what, text, mapping) => {
    expect(sniffed(text).mapping).toMatchObject(mapping)
  })
  test('no two fields anywhere is nothing', () => {
    expect(sniff(['hello', 'world'])).toBeNull()
    expect(sniff([])).toBeNull()
  })
})

describe('times', () => {
  test.each<[string, string, string | undefined, number, number]>([
    [
      'in UTC',
      'time;mA\n2026-03-01 10:00:00;4\n2026-03-01 10:00:01.5;5',
      undefined,
      at('2026-03-01T10:00:00Z'),
      at('2026-03-01T10:00:01.500Z'),
    ],
    [
      'in a zone',
      'time;mA\n2026-07-01 10:00;4\n2026-07-01 10:01;5',
      'Europe/Lisbon',
      at('2026-07-01T09:00:00Z'),
      at('2026-07-01T09:01:00Z'),
    ],
    [
      'their own offset wins',
      'time;mA\n2026-07-01 10:00+02:00;4\n2026-07-01 10:01+02:00;5',
      'Asia/Tokyo',
      at('2026-07-01T08:00:00Z'),
      at('2026-07-01T08:01:00Z'),
    ],
    [
      'half a day by letters',
      'time;mA\n2026-07-01 12:30 AM;4\n2026-07-01 12:30 PM;5',
      undefined,
      at('2026-07-01T00:30:00Z'),
      at('2026-07-01T12:30:00Z'),
    ],
    ['over midnight', 'clock;mA\n23:59:58;4.1\n00:00:01;4.2', undefined, 86_398_000, 86_401_000],
    [
      'days of a spreadsheet',
      'when;mA\n46082.25;4.1\n46082.5;4.2',
      undefined,
      at('2026-03-01T06:00:00Z'),
      at('2026-03-01T12:00:00Z'),
    ],
  ])('%s', (_what, text, zone, first, last) => {
    expect(sniffed(text, zone)).toMatchObject({ first, last, wrong: [] })
  })
  test('an hour that the clock jumped over is taken with the offset before, and said', () => {
    const told = sniffed(
      'time;mA\n2026-03-29 00:30;4\n2026-03-29 01:30;5\n2026-03-29 02:30;6',
      'Europe/Lisbon',
    )
    expect(told.findings).toContainEqual({ code: 'LOCAL_NONEXISTENT', line: 3 })
    expect(told.last).toBe(at('2026-03-29T01:30:00Z'))
  })
  test('an hour that comes twice has its first meaning until the clock falls back in it', () => {
    const walls = ['00:30', '01:00', '01:30', '01:00', '01:30', '02:30']
    const told = sniffed(
      `time;mA\n${walls.map((w, i) => `2026-10-25 ${w};${i}`).join('\n')}`,
      'Europe/Lisbon',
    )
    expect(told.findings.map((f) => f.code)).toContain('LOCAL_AMBIGUOUS')
    const times = walls.map(
      (_, n) =>
        sniffed(
          `time;mA\n${walls
            .slice(0, Math.max(2, n + 1))
            .map((w, i) => `2026-10-25 ${w};${i}`)
            .join('\n')}`,
          'Europe/Lisbon',
        ).last,
    )
    expect(times.slice(2).map((t) => new Date(t ?? 0).toISOString().slice(11, 16))).toEqual([
      '00:30',
      '01:00',
      '01:30',
      '02:30',
    ])
  })
})

describe('numbers', () => {
  test.each<[string[], object]>([
    [['1.5', '2.25'], { decimal: '.', finding: null }],
    [['1,5', '2'], { decimal: ',', finding: null }],
    [['1.234,5'], { decimal: ',', thousands: '.', finding: null }],
    [['1,234.5', '1,234'], { decimal: '.', thousands: ',', finding: null }],
    [['1,234', '2,345'], { decimal: ',', finding: 'UNDECIDED_DECIMAL', at: 0 }],
    [['1,234,567', '2,345'], { decimal: '.', thousands: ',', finding: null }],
    [['1.5', '2,5'], { decimal: '.', finding: 'MIXED_DECIMAL', at: 1 }],
    [['0,123'], { decimal: ',', finding: null }],
    [['12', '13'], { decimal: '.', finding: null }],
  ])('%j', (fields, expected) => {
    expect(voteOn(fields)).toMatchObject(expected)
  })
  test.each<[string, '.' | ',', number | null]>([
    ['1.234,5', ',', 1234.5],
    ["1'234.5", '.', 1234.5],
    ['1 234,5', ',', 1234.5],
    ['2,5', '.', null],
    ['1,23,456', '.', null],
    ['-1.5e3', '.', -1500],
    ['−4', ',', -4],
    ['0x10', '.', null],
    ['1e999', '.', null],
    ['12abc', '.', null],
    ['', '.', null],
  ])('%s with %s is %s', (field, decimal, value) => {
    expect(numberBy(field, decimal)).toBe(value)
  })
})

describe('headings', () => {
  test.each([
    ['Flow [m³/h]', 'Flow', 'm3/h'],
    ['Flow (cbm/h)', 'Flow', 'm3/h'],
    ['Flow / l/min', 'Flow', 'L/min'],
    ['Flow, gpm', 'Flow', 'USgal/min'],
    ['Flow_l/s', 'Flow', 'L/s'],
    ['dp mmH2O', 'dp', 'mmH2O@conv'],
    ['P kg/cm2', 'P', 'kgf/cm2'],
    ['Temp °C', 'Temp', 'degC'],
    ['Valve position', 'Valve position', null],
  ])('%s', (heading, name, unit) => {
    expect(headingOf(heading)).toEqual({ name, unit })
  })
})

describe('nothing is dropped in silence', () => {
  test('each wrong row with its line and reason; the right ones counted', () => {
    const told = sniffed(
      'time;Flow\n2026-03-01 10:00:00;1.5\n2026-03-01 10:00:01;oops\nnonsense\n\n2026-13-01 10:00:02;1.6\n2026-03-01 10:00:03;--\n2026-03-01 10:00:04;1.7\n2026-03-01 10:00:05;1.7\n2026-03-01 10:00:06;1.7\n2026-03-01 10:00:07;1.7\n2026-03-01 10:00:08;1.7\n2026-03-01 10:00:09;1.7\n2026-03-01 10:00:10;1.7',
    )
    expect(told.wrong).toEqual([
      { line: 3, reason: 'NUMBER' },
      { line: 4, reason: 'FIELDS' },
      { line: 6, reason: 'TIME' },
    ])
    expect(told.rows).toBe(11)
    expect(told.findings).toEqual([{ code: 'UNIT_MISSING', line: 1 }])
  })
  test('two decimal signs: the point is taken, the others are wrong', () => {
    const told = sniffed('time;Flow m3/h\n2026-03-01 10:00;1.5\n2026-03-01 10:01;2,5\n2026-03-01 10:02;3.5')
    expect(told.findings).toEqual([{ code: 'MIXED_DECIMAL', line: 3 }])
    expect(told.wrong).toEqual([{ line: 3, reason: 'NUMBER' }])
  })
})

describe('the commonest fields, read without a pattern', () => {
  test.each<[string, '.' | ',', number | null]>([
    ['42.125', '.', 42.125],
    ['42,125', ',', 42.125],
    ['-0.07', '.', -0.07],
    ['0', '.', 0],
    ['123456789012.345', '.', 123456789012.345],
    ['0.1234567890123', '.', 0.1234567890123],
    ['.5', '.', 0.5],
    ['5.', '.', 5],
    ['1,234.5', '.', 1234.5],
    ['1.234,5', ',', 1234.5],
    ['1e3', '.', 1000],
    ['+7', '.', 7],
    ['--7', '.', null],
    ['-', '.', null],
    ['1.2.3', '.', null],
    ['0x1f', '.', null],
    ['12a', '.', null],
  ])('%s by %s is %s', (field, decimal, value) => {
    expect(numberBy(field, decimal)).toBe(value)
  })
  test('any number of up to fifteen digits is the very same as JavaScript reads it', () => {
    const g = new Generator(5150)
    for (let k = 0; k < 20_000; k++) {
      const digits = Math.floor(8 * g.uniform())
      const text = ((g.uniform() - 0.5) * 10 ** Math.floor(7 * g.uniform())).toFixed(digits)
      expect(numberBy(text, '.')).toBe(Number(text))
      expect(numberBy(text.replace('.', ','), ',')).toBe(Number(text))
    }
  })
  test('any second of a hundred years is the same time, with a blank or a T', () => {
    const g = new Generator(1970)
    for (let k = 0; k < 20_000; k++) {
      const at = 1000 * Math.floor(Date.UTC(1980, 0, 1) / 1000 + g.uniform() * 100 * 365 * 86_400)
      const iso = new Date(at).toISOString().slice(0, 19)
      expect(wallTime(iso, 'YMD')?.wall).toBe(at)
      expect(wallTime(iso.replace('T', ' '), 'YMD')?.wall).toBe(at)
    }
  })
  test.each([
    ['no such day', '2026-02-30 10:00:00'],
    ['no such month', '2026-13-01 10:00:00'],
    ['no such hour', '2026-02-03 24:00:00'],
    ['no such minute', '2026-02-03 10:60:00'],
    ['no digit', '2026-02-03 1o:00:00'],
  ])('%s is no time', (_, field) => {
    expect(wallTime(field, 'YMD')).toBeNull()
  })
})

describe('a line read in one pass', () => {
  const mapping: LogMapping = {
    delimiter: ';',
    decimal: ',',
    isDecimalDelimiter: false,
    headerLines: 1,
    columns: [
      { name: 'Time', unit: null, kind: 'time' },
      { name: 'Note', unit: null, kind: 'text' },
      { name: 'Flow', unit: 'm3/h', kind: 'value' },
      { name: 'Signal', unit: '%', kind: 'quality' },
    ],
    time: { format: 'YMD', unit_s: 1 },
    zone: 'Europe/Berlin',
  }
  test.each<[string, string, unknown]>([
    ['as most are', '2026-03-01 10:00:00;x;41,5;80', { kind: 'row', values: [41.5, 80] }],
    ['with a line end of two signs', '2026-03-01 10:00:00;x;41,5;80\r', { kind: 'row', values: [41.5, 80] }],
    ['without values', '2026-03-01 10:00:00;x;;', { kind: 'row', values: [null, null] }],
    [
      'a sign that parts inside quotes',
      '2026-03-01 10:00:00;"a;b";41,5;80',
      { kind: 'row', values: [41.5, 80] },
    ],
    ['a field too few', '2026-03-01 10:00:00;x;41,5', { kind: 'wrong', reason: 'FIELDS' }],
    ['a field too many', '2026-03-01 10:00:00;x;41,5;80;1', { kind: 'wrong', reason: 'FIELDS' }],
    ['no number', '2026-03-01 10:00:00;x;4l,5;80', { kind: 'wrong', reason: 'NUMBER' }],
    ['no such day', '2026-02-30 10:00:00;x;41,5;80', { kind: 'wrong', reason: 'TIME' }],
    ['an offset', '2026-03-01T10:00:00Z;x;41,5;80', { kind: 'row', t: at('2026-03-01T10:00:00Z') }],
    ['nothing', '', null],
    ['nothing but a line end', '\r', null],
  ])('%s', (_, line, told) => {
    const read = rowReader(mapping)(`before\n${line}\nbehind`, 2, 7, 7 + line.length)
    expect(told === null ? { row: read } : read).toMatchObject(told ?? { row: null })
  })
  test('is the very same as read field by field, through a change of the clocks as well', () => {
    const g = new Generator(909)
    const [plain, cut] = [rowReader(mapping, freshState()), rowReader(mapping, freshState())]
    let wall = Date.UTC(2026, 9, 24, 20)
    for (let k = 0; k < 5000; k++) {
      wall += 1000 * Math.floor(20 * g.uniform())
      // Half way the clock falls back.
      if (k === 2500) wall -= 3_600_000
      const number = (100 * g.normal()).toFixed(Math.floor(5 * g.uniform())).replace('.', ',')
      const fields = [
        new Date(wall).toISOString().slice(0, 19).replace('T', ' '),
        'x',
        g.uniform() < 0.1 ? '' : number,
        String(Math.floor(100 * g.uniform())),
      ]
      expect(plain(fields.join(';'), 2)).toEqual(cut(fields.join(' ; '), 2))
    }
  })
})
