import { sayEntry } from '../family/sensor-choice.ts'
import { familyOf } from '../family/index.ts'
import type { Finding } from '../finding.ts'
import { FEWEST_JUDGED } from '../logs/findings/finding.ts'
import type { PartState } from '../loop/parts.ts'
import { sayCount, sayNumber } from '../quantity/round.ts'
import { labelOf, shownSettings, valuesOf, type Setting, type Typed } from '../quantity/setting.ts'
import { judgePosition, type CalculatedPlace, type PositionJudged } from './judge-position.ts'
import type { LogOfSite, PositionTry } from './site-shape.ts'
import { SITE_GROUPS, SURVEY_FAMILY } from './site.ts'

/** What a site is judged by; good is each of them, proved. */
export const SITE_POINTS = {
  pipe: 'Pipe',
  fluid: 'Fluid',
  place: 'Straight run',
  sensors: 'Sensors',
  position: 'Position',
  signal: 'Signal',
  sound: 'Speed of sound',
  log: 'Log',
  setUp: 'Against Set up',
} as const
export type SitePointName = keyof typeof SITE_POINTS

export interface SitePoint {
  readonly of: SitePointName
  readonly state: PartState
  readonly says: readonly string[]
}
export interface SiteJudgement {
  readonly state: PartState
  /** The verdict in a sentence. */
  readonly says: string
  readonly points: readonly SitePoint[]
  readonly position: PositionJudged
}

/** Shares of samples with a signal of at least 50 %: good, and the least with which it can be used; typical. */
const HEARD_PCT = [95, 80] as const
/** Signal of the last reading; typical, the meter's own limit wins. */
const SIGNAL_PCT = [60, 40] as const

const GROUP_OF: Partial<Record<SitePointName, string>> = {
  pipe: 'Pipe',
  fluid: 'Fluid',
  place: 'Place',
  sensors: 'Sensors',
}
/** What is told apart from the group in which it is entered. */
const SOUND = /^(SOUND_SPEED_|NO_SPEED|LIKELY_CAUSE)/

/** An entry that only a gas has: what flows is one where it is asked for. */
const GAS_ENTRY = 'filmLayers'
const settings = (): readonly Setting[] => familyOf(SURVEY_FAMILY)?.settings ?? []
const titleOf = (name: string) => labelOf(settings().find((s) => s.name === name)?.title ?? name).label

/** Entries without which a point cannot be judged; one of each list is enough. */
function needed(of: SitePointName, s: Typed): readonly (readonly string[])[] {
  const isGas = shownSettings(settings(), s).some((x) => x.name === GAS_ENTRY)
  switch (of) {
    case 'pipe':
      return [
        ...(s['by'] === 'table'
          ? [['nps'], ['schedule']]
          : [[s['by'] === 'od' ? 'od_mm' : 'circumference_mm'], ['wall_mm', 'readings']]),
        ['material'],
        ['liner'],
        ...(s['liner'] === 'none' ? [] : [['liner_mm']]),
        ...(isGas ? [['filmLayers']] : []),
      ]
    case 'fluid':
      return [['fluid'], ['t_C'], ...(isGas ? [['gauge_kPa']] : [])]
    case 'place':
      return [['disturbance'], ['upstream_D'], ['downstream_D']]
    case 'sensors':
      return [['serialA'], ['serialB'], ['wedge_m_s'], ['wedge_deg'], ['wedge_mm']]
    default:
      return []
  }
}
/** Entries that a verdict on a site needs and nobody made: each as it would be taken. */
export function missingEntries(values: Typed): Setting[] {
  const all: Typed = valuesOf(settings(), values)
  const told = (name: string) => values[name] !== undefined && values[name] !== ''
  const names = (['pipe', 'fluid', 'place', 'sensors'] as const).flatMap((of) =>
    needed(of, all).flatMap((any) => (any.some(told) ? [] : [any[0] ?? ''])),
  )
  return settings().filter((s) => names.includes(s.name) && s.kind !== 'text')
}

const stateOf = (findings: readonly Finding[]): PartState =>
  findings.some((f) => f.severity === 'stop')
    ? 'stop'
    : findings.some((f) => f.severity === 'warn')
      ? 'look'
      : 'good'

function signalPoint(tries: readonly PositionTry[], told: LogOfSite | null): SitePoint {
  // What the loop's own meter heard says nothing of the portable one.
  // Nor does a handful of samples tell how often there is a signal.
  const log = told?.of === 'reference' && told.rows >= FEWEST_JUDGED ? told : null
  const [last] = tries.slice(-1)
  const judged = [
    ...(log?.heard_pct === null || log === null
      ? []
      : [
          {
            state: graded(log.heard_pct, HEARD_PCT),
            says: `${sayNumber(log.heard_pct, 3)} % of ${log.rows} samples had a signal of at least 50 %${log.heard_pct >= HEARD_PCT[0] ? '' : log.heard_pct >= HEARD_PCT[1] ? ': use it with care' : ': find a better position'}.`,
          },
        ]),
    ...(last === undefined
      ? []
      : [
          {
            state: graded(last.signal_pct, SIGNAL_PCT),
            says: `The last reading of the signal is ${sayNumber(last.signal_pct, 3)} %${last.signal_pct >= SIGNAL_PCT[0] ? '' : ': couplant, paint, position, film, or the wrong pair'}.`,
          },
        ]),
  ]
  const state = (['stop', 'look', 'good'] as const).find((s) => judged.some((j) => j.state === s))
  return state
    ? { of: 'signal', state, says: judged.map((j) => j.says) }
    : { of: 'signal', state: 'notYet', says: ['Not judged: no signal was read.'] }
}
const graded = (x: number, [good, fair]: readonly [number, number]): PartState =>
  x >= good ? 'good' : x >= fair ? 'look' : 'stop'

function logPoint(log: LogOfSite | null, on: string | null): SitePoint {
  if (!log) return { of: 'log', state: 'notYet', says: ['Not judged: nothing was recorded here.'] }
  if (log.of !== 'reference')
    return {
      of: 'log',
      state: 'notYet',
      says: [`Not judged: “${log.title}” is of the loop’s own meter, not of the portable one.`],
    }
  if (on !== null && log.days && (on < dayBeside(log.days[0], -1) || on > dayBeside(log.days[1], 1)))
    return {
      of: 'log',
      state: 'notYet',
      says: [`Not judged: “${log.title}” was recorded on ${log.days[0]}, and this survey is of ${on}.`],
    }
  if (log.stops === null || log.looks === null)
    return { of: 'log', state: 'notYet', says: ['Not judged: the log is too long to be judged at once.'] }
  const unit = log.unit ?? ''
  const found = [...log.stops, ...log.looks]
  const against =
    log.rows < FEWEST_JUDGED
      ? `${log.rows} samples are too few, ${FEWEST_JUDGED} are needed`
      : log.unit === null
        ? `nobody told the unit of ${log.channel}`
        : log.unread > 0
          ? `${sayCount(log.unread)} of its lines could not be read`
          : null
  // What was found stays found; that nothing was found proves nothing then.
  if (found.length === 0 && against !== null)
    return { of: 'log', state: 'notYet', says: [`Not judged: ${against} (“${log.title}”).`] }
  const mean =
    log.mean === null
      ? ''
      : ` Mean ${sayNumber(log.mean, 5)}${log.U === null ? '' : ` ± ${sayNumber(log.U, 2)}`} ${unit}${log.U === null ? '' : ' (k = 2)'}.`
  const state = log.stops.length > 0 ? 'stop' : log.looks.length > 0 ? 'look' : 'good'
  return {
    of: 'log',
    state,
    says: [
      ...found,
      `${state === 'good' ? `Nothing was found in ${log.rows} samples of ${log.channel}, “${log.title}”.` : `In ${log.rows} samples of ${log.channel}, “${log.title}”.`}${mean}`,
    ],
  }
}

/** A day before or after, as dates in other time zones may be. */
function dayBeside(day: string, by: number): string {
  return new Date(Date.parse(day) + by * 86_400_000).toISOString().slice(0, 10)
}

/** What the loop itself says of its pipe and fluid: there is one truth about one place. */
function setUpPoint(values: Typed, loop: Typed | null): SitePoint[] {
  if (!loop) return []
  const of = new Set(
    SITE_GROUPS.filter((g) => g.title === 'Pipe' || g.title === 'Fluid').flatMap((g) =>
      g.settings.map((s) => s.name),
    ),
  )
  // The temperature and the flow of the day are of the day.
  for (const name of ['t_C', 'gauge_kPa', 'flow_m3h']) of.delete(name)
  const both = settings().filter(
    (s) => of.has(s.name) && values[s.name] !== undefined && loop[s.name] !== undefined,
  )
  if (both.length === 0) return []
  const others = both.filter((s) => values[s.name] !== loop[s.name])
  return [
    others.length === 0
      ? { of: 'setUp', state: 'good', says: ['Pipe and fluid are those of the loop’s own set-up.'] }
      : {
          of: 'setUp',
          state: 'look',
          says: others.map(
            (s) =>
              `${labelOf(s.title).label}: ${sayEntry(s, values[s.name])} here, ${sayEntry(s, loop[s.name])} in the loop’s set-up. One of the two is wrong.`,
          ),
        },
  ]
}

/**
 * A place of a survey judged by everything that makes a portable reading believable. What rests on entries that nobody
 * made is not judged.
 * @param on - day of the survey: a log of another day is none of it; null: not asked
 * @param loop - entries that somebody made or confirmed in the loop's own set-up, where it is a clamp-on meter
 */
export function judgeSite(
  site: { readonly values: Typed; readonly tries: readonly PositionTry[] },
  log: LogOfSite | null,
  loop: Typed | null,
  on: string | null = null,
): SiteJudgement {
  const family = familyOf(SURVEY_FAMILY)
  if (!family) throw new Error('no family of portable meters')
  const typed = site.values
  const all: Typed = valuesOf(family.settings, typed)
  const told = (name: string) => typed[name] !== undefined && typed[name] !== ''
  const result = family.compute(typed, { current_mA: null, root: null })
  // What speaks of an entry that nobody made speaks of nothing.
  const findings = result.findings.filter((f) => f.severity !== 'note' && f.where.some(told))
  const groups = new Map(SITE_GROUPS.map((g) => [g.title, new Set(g.settings.map((s) => s.name))]))
  const row = (label: string) => result.rows.find((r) => r.label === label)
  const say = (label: string, digits = 5) => {
    const r = row(label)
    return typeof r?.value === 'number' ? `${sayNumber(r.value, digits)}${r.unit ? ` ${r.unit}` : ''}` : ''
  }
  const good: Partial<Record<SitePointName, string>> = {
    pipe: `Outside ${say('Outside diameter')}, bore ${say('Bore')}, as entered.`,
    fluid: `A speed of sound of ${say('Sound speed expected')} is to be expected.`,
    sensors: `${String(all['serialA'])} and ${String(all['serialB'])}, ${say('Traverses')} ${all['traverses'] === '1' ? 'traverse' : 'traverses'}, ${say('Spacing of the frame', 4)} apart.`,
  }
  const byEntries = (['pipe', 'fluid', 'place', 'sensors'] as const).map((of): SitePoint => {
    const names = groups.get(GROUP_OF[of] ?? '') ?? new Set()
    const own = findings.filter((f) => !SOUND.test(f.code) && f.where.some((w) => names.has(w)))
    const missing = needed(of, all).filter((any) => !any.some(told))
    const state = stateOf(own)
    const bad = own.filter((f) => f.severity !== 'good').map((f) => f.says)
    if (state === 'stop') return { of, state, says: bad }
    if (missing.length > 0)
      return {
        of,
        state: 'notYet',
        says: [
          ...bad,
          `Not judged: nobody entered ${missing.map((any) => titleOf(any[0] ?? '').toLowerCase()).join(', ')}.`,
        ],
      }
    if (state === 'look') return { of, state, says: bad }
    const says = own.map((f) => f.says)
    return { of, state: 'good', says: says.length > 0 ? says : [good[of] ?? ''] }
  })
  const shaky = byEntries.filter((p) => p.of !== 'place' && p.state === 'notYet')
  const heard = findings.filter((f) => SOUND.test(f.code))
  const causes = result.findings.filter((f) => f.code === 'LIKELY_CAUSE').map((f) => f.says)
  const sound: SitePoint =
    shaky.length > 0
      ? {
          of: 'sound',
          state: 'notYet',
          says: [
            `Not judged: it rests on ${shaky.map((p) => SITE_POINTS[p.of].toLowerCase()).join(', ')}, not entered whole.`,
          ],
        }
      : heard.length === 0
        ? {
            of: 'sound',
            state: 'notYet',
            says: ['Not judged: neither a speed of sound nor a transit time was read.'],
          }
        : { of: 'sound', state: stateOf(heard), says: [...heard.map((f) => f.says), ...causes] }
  const position = judgePosition(
    site.tries,
    all['rail'] === 'index' ? '' : 'mm',
    shaky.length > 0 ? null : placeOf(all, row('Spacing of the frame')?.value),
  )
  const points: SitePoint[] = [
    ...byEntries,
    { of: 'position', state: position.state, says: [position.says] },
    signalPoint(site.tries, log),
    sound,
    logPoint(log, on),
    ...setUpPoint(typed, loop),
  ]
  return { ...verdictOf(points), points, position }
}

/** Where the calculation puts the sensor on its rail. */
function placeOf(s: Typed, spacing_mm: unknown): CalculatedPlace | null {
  if (typeof spacing_mm !== 'number') return null
  if (s['rail'] !== 'index') return { at: spacing_mm, spacing_mm, step_mm: 1 }
  const [first, step_mm] = [Number(s['railFirst_mm']), Number(s['railStep_mm'])]
  return { at: 1 + (spacing_mm - first) / step_mm, spacing_mm, step_mm }
}

const list = (points: readonly SitePoint[]) => points.map((p) => SITE_POINTS[p.of].toLowerCase()).join(', ')

/** The worst of the points; what nobody judged is never good. */
function verdictOf(points: readonly SitePoint[]): Pick<SiteJudgement, 'state' | 'says'> {
  const of = (state: PartState) => points.filter((p) => p.state === state)
  const [stop, look, notYet] = [of('stop'), of('look'), of('notYet')]
  const open = notYet.length > 0 ? ` Not judged: ${list(notYet)}.` : ''
  if (stop.length > 0) return { state: 'stop', says: `Do not use readings from here: ${list(stop)}.${open}` }
  if (look.length > 0) return { state: 'look', says: `Use it with care: ${list(look)}.${open}` }
  if (notYet.length > 0) return { state: 'notYet', says: `Not judged: ${list(notYet)}.` }
  return { state: 'good', says: `Good: ${list(points)}.` }
}
