import type { NewLog } from '@calm/contract/logs'
import { Generator } from '@calm/core/statistics/generator'

/** A log of the demo plant: made up, with a story in it. */
export interface DemoLog {
  readonly tag: string
  readonly by: string
  readonly at: string
  readonly log: Omit<NewLog, 'id'>
  readonly t: Float64Array
  readonly v: Float64Array
}

const mapping = (name: string, unit: string): NewLog['mapping'] => ({
  delimiter: ';',
  decimal: ',',
  isDecimalDelimiter: false,
  headerLines: 1,
  columns: [
    { name: 'Time', unit: null, kind: 'time' },
    { name, unit, kind: 'value' },
  ],
  time: { format: 'YMD', unit_s: 1 },
  zone: 'UTC',
})

interface Story {
  readonly tag: string
  readonly title: string
  readonly of: NewLog['of']
  readonly site?: string
  readonly channel: string
  readonly unit: string
  readonly from: string
  readonly rows: number
  readonly every_s: number
  readonly digits: number
  readonly seed: number
  /** Standard deviation of the noise, and how alike neighbours are. */
  readonly sd: number
  readonly phi: number
  readonly value: (s: number, i: number) => number
  /** What becomes of a value once it is noisy and rounded; null: it was not recorded. */
  readonly fault?: (x: number, i: number) => number | null
}

const HOUR = 3600
/** The intake runs at one of a few flows, each for some hours. */
const INTAKE = [860, 1010, 930, 1120, 780, 1010, 890, 1060]
const intake = (s: number) => {
  const part = Math.floor(s / (7 * HOUR))
  const now = INTAKE[part % INTAKE.length] ?? 0
  const before = part === 0 ? now : (INTAKE[(part - 1) % INTAKE.length] ?? now)
  return before + (now - before) * (1 - Math.exp(-(s % (7 * HOUR)) / 8))
}
const DAYS = 200_000
let held: number | null = null

const STORIES: readonly Story[] = [
  {
    tag: 'FT-101',
    title: 'Intake main, two days in November',
    of: 'installed',
    channel: 'Flow',
    unit: 'm3/h',
    from: '2026-11-09T06:00:00Z',
    rows: DAYS,
    every_s: 1,
    digits: 1,
    seed: 101,
    sd: 1.1,
    phi: 0.5,
    // Its couplant dries: it reads less and less.
    value: (s) => intake(s) * (1.004 - (0.034 * s) / DAYS),
  },
  {
    tag: 'FT-101',
    title: 'Portable meter beside it',
    of: 'reference',
    site: '12 m downstream',
    channel: 'Flow',
    unit: 'm3/h',
    from: '2026-11-09T06:00:00Z',
    rows: DAYS / 5,
    every_s: 5,
    digits: 1,
    seed: 102,
    sd: 0.8,
    phi: 0.2,
    value: intake,
  },
  {
    tag: 'PT-103',
    title: 'Discharge pressure, the week of the second pump',
    of: 'installed',
    channel: 'Pressure',
    unit: 'bar(g)',
    from: '2026-11-09T00:00:00Z',
    rows: DAYS,
    every_s: 1,
    digits: 3,
    seed: 103,
    sd: 0.02,
    phi: 0.5,
    // The pump comes on nine minutes apart and runs for three of them.
    value: (s) => {
      const at = s % 540
      return at < 180 ? 3.3 + 0.9 * (1 - Math.exp(-at / 25)) : 3.3 + 0.9 * Math.exp(-(at - 180) / 110)
    },
  },
  {
    tag: 'FT-203',
    title: 'Permeate flow, after the display was replaced',
    of: 'installed',
    channel: 'Flow',
    unit: 'm3/h',
    from: '2026-11-12T08:00:00Z',
    rows: 6000,
    every_s: 2,
    digits: 2,
    seed: 203,
    sd: 0.15,
    phi: 0.5,
    value: () => 24.2,
    fault: (x, i) => (i < 3400 ? x : Math.round((x / 3.6) * 100) / 100),
  },
  {
    tag: 'PT-405',
    title: 'Instrument air over a night',
    of: 'installed',
    channel: 'Pressure',
    unit: 'bar(g)',
    from: '2026-11-13T20:00:00Z',
    rows: 7200,
    every_s: 5,
    digits: 3,
    seed: 405,
    sd: 0.03,
    phi: 0.6,
    value: () => 7.1,
    fault: (x, i) => (i >= 4100 && i < 4700 ? (held ??= x) : x),
  },
  {
    tag: 'TT-205',
    title: 'Feed temperature from the old trend',
    of: 'installed',
    channel: 'Temperature',
    unit: 'degC',
    from: '2026-11-13T06:00:00Z',
    rows: 5000,
    every_s: 10,
    digits: 2,
    seed: 205,
    sd: 0.12,
    phi: 0.3,
    value: () => 21.4,
    fault: (x) => Math.round(x / 0.25) * 0.25,
  },
  {
    tag: 'LT-301',
    title: 'Brine tank, an hour of filling',
    of: 'installed',
    channel: 'Level',
    unit: 'm',
    from: '2026-11-16T09:00:00Z',
    rows: 3600,
    every_s: 1,
    digits: 3,
    seed: 301,
    sd: 0.004,
    phi: 0.4,
    value: () => 2.12,
    fault: (x, i) => (i === 900 || i === 2310 ? x + 0.6 : x),
  },
  {
    tag: 'FT-304',
    title: 'Wash water at full flow',
    of: 'installed',
    channel: 'Flow',
    unit: 'm3/h',
    from: '2026-11-16T13:00:00Z',
    rows: 4000,
    every_s: 1,
    digits: 2,
    seed: 304,
    sd: 0.5,
    phi: 0.2,
    value: () => 24.7,
    fault: (x) => Math.min(x, 25),
  },
  {
    tag: 'FT-402',
    title: 'Process air, with a lost link',
    of: 'installed',
    channel: 'Mass flow',
    unit: 'kg/h',
    from: '2026-11-17T07:00:00Z',
    rows: 5000,
    every_s: 2,
    digits: 1,
    seed: 402,
    sd: 9,
    phi: 0.5,
    value: () => 1710,
    fault: (x, i) => (i >= 2600 && i < 2960 ? null : x),
  },
]

function samplesOf(s: Story): Pick<DemoLog, 't' | 'v'> {
  const g = new Generator(s.seed)
  const [t, v]: [number[], number[]] = [[], []]
  const [start, grid] = [Date.parse(s.from), 10 ** s.digits]
  held = null
  let a = g.normal()
  for (let i = 0; i < s.rows; i++) {
    a = s.phi * a + Math.sqrt(1 - s.phi ** 2) * g.normal()
    const x = Math.round(grid * (s.value(i * s.every_s, i) + s.sd * a)) / grid
    const kept = s.fault ? s.fault(x, i) : x
    if (kept === null) continue
    t.push(start + i * s.every_s * 1000)
    v.push(kept)
  }
  return { t: Float64Array.from(t), v: Float64Array.from(v) }
}

/** Logs of the demo plant in the order in which they were read in. */
export const demoLogs = (): DemoLog[] =>
  STORIES.map((s, i) => ({
    tag: s.tag,
    by: 'wren',
    at: new Date(Date.parse('2026-11-18T07:10:00.000Z') + i * 240_000).toISOString(),
    log: {
      title: s.title,
      of: s.of,
      source: 'file',
      instrument: null,
      site: s.site ?? '',
      files: [`${s.tag} ${s.from.slice(0, 10)}.csv`],
      mapping: mapping(s.channel, s.unit),
    },
    ...samplesOf(s),
  }))
