import { describe, expect, test } from 'vitest'
import type { PartState } from '../loop/parts.ts'
import type { Setting, SettingValue, Typed } from '../quantity/setting.ts'
import { Generator } from '../statistics/generator.ts'
import { judgePosition } from './judge-position.ts'
import { judgeSite, missingEntries, type SitePointName } from './judge-site.ts'
import { entriesOfSite, SITE_GROUPS, SiteFound } from './site.ts'
import type { LogOfSite, PositionTry } from './site-shape.ts'

const tries = (...pairs: [number, number][]): PositionTry[] =>
  pairs.map(([at, signal_pct]) => ({ at, signal_pct }))

describe('where the sensor hears best', () => {
  test.each<[string, [number, number][], PartState, number | null, string]>([
    ['nothing tried', [], 'notYet', null, 'no position was tried'],
    [
      'two places',
      [
        [30, 80],
        [40, 70],
        [30, 81],
      ],
      'notYet',
      null,
      'two positions were tried',
    ],
    // The worked example: 31.17 is nearest to 30, which has been measured.
    [
      'the peak lies at a place that was tried, and it stands there',
      [
        [10, 61],
        [20, 78],
        [40, 80],
        [50, 66],
        [30, 84],
      ],
      'good',
      null,
      'best of 5 tries',
    ],
    [
      'it stands elsewhere',
      [
        [10, 61],
        [20, 78],
        [30, 84],
        [40, 80],
        [50, 66],
      ],
      'look',
      30,
      'put it back',
    ],
    [
      'it grows beyond the tries',
      [
        [10, 61],
        [20, 70],
        [30, 78],
      ],
      'look',
      40,
      'go on to 40 mm',
    ],
    [
      'and the other way',
      [
        [10, 78],
        [20, 70],
        [30, 61],
      ],
      'look',
      0,
      'go on to 0 mm',
    ],
    [
      'no peak, the best in the end',
      [
        [10, 61],
        [20, 70],
        [30, 60],
        [40, 72],
      ],
      'look',
      50,
      'Go on to 50 mm',
    ],
    [
      'no peak, the best between',
      [
        [10, 70],
        [20, 60],
        [30, 71],
        [40, 61],
        [50, 70.5],
      ],
      'look',
      null,
      'scatter',
    ],
    [
      'a peak between two tries',
      [
        [10, 60],
        [30, 80],
        [60, 78],
        [80, 55],
      ],
      'look',
      43,
      'measure there',
    ],
  ])('%s', (_what, at, state, next, says) => {
    const j = judgePosition(tries(...at), 'mm')
    expect(j.says).toContain(says)
    expect(j.state).toBe(state)
    expect(j.next === null ? null : Math.round(j.next)).toBe(next)
  })
  test('an index has no unit', () => {
    expect(judgePosition(tries([1, 61], [2, 70], [3, 78]), '').says).toContain('go on to 4.')
  })
})

/** A sane place: 12 inch water main, everything entered. */
const VALUES: Typed = {
  site: 'RAW1',
  by: 'od',
  od_mm: 323.8,
  wall_mm: 9.53,
  material: 'carbon_steel',
  liner: 'none',
  fluid: 'water',
  t_C: 15,
  gauge_kPa: 300,
  flow_m3h: 500,
  disturbance: 'bend',
  upstream_D: 15,
  downstream_D: 6,
  serialA: 'K21-A',
  serialB: 'K21-B',
  wedge_m_s: 2470,
  wedge_deg: 38,
  wedge_mm: 15,
  speedRead_m_s: 1466,
}
/** About the place that the calculation gives: 252.5 mm. */
const FOUND = tries([242, 61], [247, 78], [257, 80], [262, 66], [252, 84])
const LOG: LogOfSite = {
  id: '6a4e6d2e-6b0e-4a1e-9f57-8f1f6b1f0a01',
  title: 'Raw water, ten minutes',
  rows: 600,
  unread: 0,
  simulated: false,
  of: 'reference',
  days: ['2026-11-18', '2026-11-18'],
  channel: 'Flow',
  unit: 'm3/h',
  mean: 312.4,
  U: 0.8,
  heard_pct: 99.5,
  stops: [],
  looks: [],
}
const judged = (
  change: Typed = {},
  more: { tries?: PositionTry[]; log?: LogOfSite | null; loop?: Typed | null } = {},
) =>
  judgeSite(
    { values: { ...VALUES, ...change }, tries: more.tries ?? FOUND },
    more.log === undefined ? LOG : more.log,
    more.loop ?? null,
  )
const without = (...names: string[]) => {
  const values = Object.fromEntries(Object.entries(VALUES).filter(([n]) => !names.includes(n)))
  return judgeSite({ values, tries: FOUND }, LOG, null)
}
const pointOf = (j: ReturnType<typeof judgeSite>, of: SitePointName) => j.points.find((p) => p.of === of)

describe('a site is good by its evidence only', () => {
  test('everything entered, tried, read and recorded', () => {
    const j = judged()
    expect(j.points.filter((p) => p.state !== 'good')).toEqual([])
    expect(j.state).toBe('good')
    expect(j.says).toBe('Good: pipe, fluid, straight run, sensors, position, signal, speed of sound, log.')
  })
  test.each<[string, string[], SitePointName, string]>([
    ['wall', ['wall_mm'], 'pipe', 'wall'],
    ['liner: its default is none, and nobody looked', ['liner'], 'pipe', 'liner'],
    ['material', ['material'], 'pipe', 'material'],
    ['temperature', ['t_C'], 'fluid', 'temperature'],
    ['fluid', ['fluid'], 'fluid', 'fluid'],
    ['straight run', ['upstream_D'], 'place', 'straight upstream'],
    ['what stands upstream', ['disturbance'], 'place', 'nearest upstream'],
    ['serial', ['serialB'], 'sensors', 'serial of the downstream sensor'],
    ['speed of sound', ['speedRead_m_s'], 'sound', 'neither'],
  ])('nobody entered the %s: not judged', (_what, names, of, says) => {
    const j = without(...names)
    expect(pointOf(j, of)?.state).toBe('notYet')
    expect(pointOf(j, of)?.says.join(' ')).toContain(says)
    expect(j.state).toBe('notYet')
  })
  test('nothing entered: nothing is good, and nothing of somebody else’s 12 inch pipe is told as a fault', () => {
    const j = judgeSite({ values: { site: 'X' }, tries: [] }, null, null)
    expect(new Set(j.points.map((p) => p.state))).toEqual(new Set(['notYet']))
    expect(j.state).toBe('notYet')
  })
  test('the speed of sound proves nothing where the pipe is not known whole', () => {
    expect(pointOf(without('liner'), 'sound')).toMatchObject({ state: 'notYet' })
  })
  test('nor where the plate of the sensors was not read: spacing and times rest on the wedge', () => {
    const j = without('wedge_deg')
    expect(pointOf(j, 'sensors')?.says.join(' ')).toContain('wedge angle')
    expect(pointOf(j, 'sound')?.says).toEqual(['Not judged: it rests on sensors, not entered whole.'])
  })
  test('no log, or one too long to be judged: not judged', () => {
    expect(pointOf(judged({}, { log: null }), 'log')?.state).toBe('notYet')
    expect(judged({}, { log: null }).state).toBe('notYet')
    expect(pointOf(judged({}, { log: { ...LOG, stops: null, looks: null } }), 'log')?.state).toBe('notYet')
  })
})

describe('what is wrong is told at its point', () => {
  test.each<[string, Typed, SitePointName, PartState, string]>([
    ['too short a straight run', { upstream_D: 4 }, 'place', 'look', '10 D are wanted'],
    ['after a pump', { disturbance: 'pump' }, 'place', 'look', '50 D are wanted'],
    ['the speed of sound of another liquid', { speedRead_m_s: 1300 }, 'sound', 'stop', 'too low'],
    ['sensors of two pairs', { serialB: 'K22-A' }, 'sensors', 'stop', 'pair'],
    ['a wall that leaves no bore', { wall_mm: 190 }, 'pipe', 'stop', 'no bore'],
    ['a circumference for a diameter', { od_mm: 1017.2, flow_m3h: 500 }, 'pipe', 'look', 'circumference'],
  ])('%s', (_what, change, of, state, says) => {
    const p = pointOf(judged(change), of)
    expect(p?.says.join(' ')).toContain(says)
    expect(p?.state).toBe(state)
    expect(judged(change).state).not.toBe('good')
  })
  test.each<[number, PartState]>([
    [100, 'good'],
    [95, 'good'],
    [94.9, 'look'],
    [80, 'look'],
    [79.9, 'stop'],
    [0, 'stop'],
  ])('a signal that was there in %s %% of the samples: %s', (heard_pct, state) => {
    expect(pointOf(judged({}, { log: { ...LOG, heard_pct } }), 'signal')?.state).toBe(state)
  })
  test('a good share does not hide a bad last reading', () => {
    const j = judged({}, { tries: tries([242, 20], [247, 30], [257, 31], [262, 20], [252, 35]) })
    expect(pointOf(j, 'signal')?.state).toBe('stop')
    expect(pointOf(j, 'position')?.state).toBe('good')
    expect(j.says).toBe('Do not use readings from here: signal.')
  })
  test('a peak far from the calculated place is another pipe than the one that was entered', () => {
    const far = FOUND.map((t) => ({ ...t, at: t.at - 60 }))
    const p = pointOf(judged({}, { tries: far }), 'position')
    expect(p?.state).toBe('look')
    expect(p?.says[0]).toContain('mm away')
    // An index tells the same place in its own numbers.
    const rail = { rail: 'index', railFirst_mm: 200, railStep_mm: 5 }
    const asIndex = (shift: number) => FOUND.map((t) => ({ ...t, at: 1 + (t.at - 200) / 5 + shift }))
    expect(pointOf(judged(rail, { tries: asIndex(0) }), 'position')?.state).toBe('good')
    expect(pointOf(judged(rail, { tries: asIndex(6) }), 'position')?.state).toBe('look')
  })
  test('what was found in the log is told with it', () => {
    const j = judged({}, { log: { ...LOG, looks: ['Spikes at 10:14.'] } })
    expect(pointOf(j, 'log')).toMatchObject({ state: 'look' })
    expect(pointOf(j, 'log')?.says[0]).toBe('Spikes at 10:14.')
  })
  test.each<[string, Partial<LogOfSite>, string]>([
    ['a handful of samples', { rows: 3 }, '3 samples are too few'],
    ['a channel without a unit', { unit: null }, 'nobody told the unit'],
    ['lines that could not be read', { unread: 4 }, '4 of its lines'],
  ])('%s: that nothing was found in it proves nothing', (_what, change, says) => {
    const j = judged({}, { log: { ...LOG, ...change } })
    expect(pointOf(j, 'log')?.says[0]).toContain(says)
    expect([pointOf(j, 'log')?.state, j.state]).toEqual(['notYet', 'notYet'])
    // What was found is told all the same.
    const found = judged({}, { log: { ...LOG, ...change, stops: ['It stood still.'] } })
    expect(pointOf(found, 'log')?.state).toBe('stop')
  })
  test('the signal of a handful of samples is no share', () => {
    const j = judged({}, { log: { ...LOG, rows: 3, heard_pct: 0 } })
    expect(pointOf(j, 'signal')?.says).toEqual(['The last reading of the signal is 84 %.'])
  })
  test('the log of the loop’s own meter says nothing of the portable one', () => {
    const j = judged({}, { log: { ...LOG, of: 'installed', heard_pct: 10 } })
    expect(pointOf(j, 'log')).toMatchObject({ state: 'notYet' })
    expect(pointOf(j, 'signal')).toMatchObject({ state: 'good' })
    expect(j.state).toBe('notYet')
  })
  test.each<[string, LogOfSite['days'], PartState]>([
    ['2026-11-18', ['2026-11-18', '2026-11-18'], 'good'],
    ['2026-11-19', ['2026-11-18', '2026-11-18'], 'good'],
    ['2026-11-20', ['2026-11-18', '2026-11-18'], 'notYet'],
    ['2026-11-16', ['2026-11-18', '2026-11-18'], 'notYet'],
    ['2026-11-20', ['2026-11-18', '2026-11-25'], 'good'],
    ['2026-11-20', null, 'good'],
  ])('a survey of %s and a log of %s: %s', (on, days, state) => {
    const j = judgeSite({ values: VALUES, tries: FOUND }, { ...LOG, days }, null, on)
    expect(pointOf(j, 'log')?.state).toBe(state)
  })
  test('another pipe than the loop’s own set-up has: one truth', () => {
    const loop = { od_mm: 323.8, wall_mm: 6.35, t_C: 40, material: 'carbon_steel' }
    const p = pointOf(judged({}, { loop }), 'setUp')
    expect(p?.state).toBe('look')
    expect(p?.says).toEqual(['Wall: 9.53 mm here, 6.35 mm in the loop’s set-up. One of the two is wrong.'])
    expect(pointOf(judged({}, { loop: { wall_mm: 9.53 } }), 'setUp')?.state).toBe('good')
  })
})

describe('entries of a site', () => {
  const sent = { values: VALUES, tries: FOUND, note: '' }
  const paths = (s: unknown) => SiteFound.safeParse(s).error?.issues.map((i) => i.path.join('.')) ?? []
  test('are those of a clamp-on meter without its outputs', () => {
    expect(SiteFound.safeParse(sent).success).toBe(true)
    expect(SITE_GROUPS.map((g) => g.title)).toEqual([
      'Site',
      'Pipe',
      'Fluid',
      'Place',
      'Sensors',
      'After start-up',
    ])
    expect(entriesOfSite({ od_mm: 100, damping_s: 3, signal_pct: 70 })).toEqual({ od_mm: 100 })
  })
  test.each<[string, object, string]>([
    ['no name', { values: { ...VALUES, site: ' ' } }, 'values.site'],
    ['a wall of metres', { values: { ...VALUES, wall_mm: 9530 } }, 'values.wall_mm'],
    ['an entry that no meter has', { values: { ...VALUES, colour: 'red' } }, 'values.colour'],
    ['an entry that a site has not', { values: { ...VALUES, damping_s: 3 } }, 'values.damping_s'],
    ['a signal of 184 %', { tries: tries([10, 184]) }, 'tries.0.signal_pct'],
  ])('%s is told at its place', (_what, change, path) => {
    expect(paths({ ...sent, ...change })).toContain(path)
  })
})

describe('whatever somebody enters', () => {
  const g = new Generator(20_261_118)
  const pick = <T>(list: readonly T[]): T | undefined => list[Math.floor(g.uniform() * list.length)]
  /** A value that the entry may have, at its ends as often as between. */
  const any = (s: Setting): SettingValue => {
    if (s.kind === 'choice') return pick(s.options)?.value ?? s.standard
    if (s.kind === 'flag') return g.uniform() < 0.5
    if (s.kind === 'number')
      return pick([s.min, s.max, s.standard, s.min + g.uniform() * (s.max - s.min)]) ?? s.standard
    return s.kind === 'text' ? (pick(['', 'K21-A', 'K21-B', '9.5 9.6']) ?? '') : []
  }
  const SETTINGS = SITE_GROUPS.flatMap((x) => x.settings)
  const draw = (share: number): Typed =>
    Object.fromEntries(SETTINGS.flatMap((s) => (g.uniform() < share ? [[s.name, any(s)] as const] : [])))
  const someTries = () =>
    tries(
      ...Array.from({ length: Math.floor(g.uniform() * 7) }, (): [number, number] => [
        Math.round(g.uniform() * 300),
        Math.round(g.uniform() * 100),
      ]),
    )
  const someLog = (): LogOfSite | null =>
    pick([
      null,
      LOG,
      { ...LOG, heard_pct: Math.round(g.uniform() * 100) },
      { ...LOG, of: 'installed' as const },
    ]) ?? null

  test('600 random sites: a verdict always, and good only with all of its evidence', () => {
    for (let i = 0; i < 600; i++) {
      // Around the good one: so that some of them are good but for little.
      const values = { ...(i % 2 === 0 ? VALUES : {}), ...draw(i % 2 === 0 ? 0.05 : 0.8) }
      const at = i % 4 === 0 ? FOUND : someTries()
      const log = i % 8 === 0 ? LOG : someLog()
      const j = judgeSite({ values, tries: at }, log, null)
      const states = new Set(j.points.map((p) => p.state))
      expect(
        j.points.every((p) => p.says.length > 0 && p.says.every((x) => !/NaN|undefined|null/.test(x))),
      ).toBe(true)
      expect(j.state === 'good').toBe(states.size === 1 && states.has('good'))
      expect(j.state === 'stop').toBe(states.has('stop'))
      const isProved =
        missingEntries(values).length === 0 &&
        at.length >= 3 &&
        log?.of === 'reference' &&
        values['liner'] !== undefined
      expect(j.state !== 'good' || isProved).toBe(true)
    }
  })
  test('of the good one any evidence taken away leaves it not good', () => {
    for (const name of Object.keys(VALUES)) {
      const values = Object.fromEntries(Object.entries(VALUES).filter(([n]) => n !== name))
      const rests = !['site', 'by', 'gauge_kPa', 'flow_m3h'].includes(name)
      expect([name, judgeSite({ values, tries: FOUND }, LOG, null).state !== 'good' || !rests]).toEqual([
        name,
        true,
      ])
    }
  })
})
