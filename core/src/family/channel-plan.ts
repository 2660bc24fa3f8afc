import type { Signal } from '../device/behaviour.ts'
import type { Finding } from '../finding.ts'
import { all, unless, when, type Condition } from '../quantity/condition.ts'
import { sayNumber } from '../quantity/round.ts'
import { choice, number, type ValuesOf } from '../quantity/setting.ts'
import { printedUnit } from '../quantity/units.ts'
import type { PulseOutput, SheetLine, UsualParts } from './family.ts'

/** What a channel of a transmitter with several inputs and outputs can be. */
const KINDS = {
  none: 'not used',
  active: 'current output, active',
  passive: 'current output, passive',
  frequency: 'frequency output',
  pulse: 'pulse output',
  relay: 'relay',
  temperature: 'temperature input',
} as const
export type ChannelKind = keyof typeof KINDS
const SOURCES = { flow: 'flow', speed: 'sound speed', signal: 'signal', velocity: 'velocity' } as const
/** What each source is told in; the flow has its own range. */
const CARRIED_UNITS = { flow: 'm3/h', speed: 'm/s', signal: '%', velocity: 'm/s' } as const
const ACTIONS = {
  high: 'flow above its point',
  low: 'flow below its point',
  reverse: 'flow in reverse',
  fault: 'fault of the meter',
} as const
const ROLES = { pipe: 'of the pipe', supply: 'supply of the heat', return: 'return of the heat' } as const

/** The entries of one channel, there as soon as the one before it is used. */
const channel = <const I extends number>(i: I, before: Condition | undefined) => {
  const is = (...kinds: ChannelKind[]) => {
    const of = when(`ch${i}`, ...kinds)
    return before ? all(before, of) : of
  }
  return [
    choice(`ch${i}`, `Channel ${i}`, 'none', KINDS, before),
    choice(`ch${i}_source`, `Ch ${i} carries`, 'flow', SOURCES, is('active', 'passive', 'frequency')),
    number(
      `ch${i}_from`,
      `Ch ${i}: at 4 mA (or 0 Hz)`,
      '',
      0,
      -10_000,
      10_000,
      all(is('active', 'passive', 'frequency'), unless(`ch${i}_source`, 'flow')),
    ),
    number(
      `ch${i}_to`,
      `Ch ${i}: at 20 mA (or full frequency; 0: not told)`,
      '',
      0,
      -10_000,
      10_000,
      all(is('active', 'passive', 'frequency'), unless(`ch${i}_source`, 'flow')),
    ),
    number(`ch${i}_top_Hz`, `Ch ${i} at full flow, Hz`, '', 1000, 0.1, 20_000, is('frequency')),
    number(`ch${i}_pulse_m3`, `Ch ${i}: one pulse is`, 'm3', 1, 1e-6, 1e6, is('pulse')),
    number(`ch${i}_width_ms`, `Ch ${i}: pulse width, ms`, '', 50, 0.01, 10_000, is('pulse')),
    choice(`ch${i}_acts`, `Ch ${i} acts at`, 'high', ACTIONS, is('relay')),
    number(
      `ch${i}_point`,
      `Ch ${i} acts at (0: not told)`,
      'm3/h',
      0,
      0,
      1e6,
      all(is('relay'), when(`ch${i}_acts`, 'high', 'low')),
    ),
    number(
      `ch${i}_back`,
      `Ch ${i} lets go at (0: not told)`,
      'm3/h',
      0,
      0,
      1e6,
      all(is('relay'), when(`ch${i}_acts`, 'high', 'low')),
    ),
    choice(`ch${i}_reads`, `Ch ${i} reads`, 'pipe', ROLES, is('temperature')),
  ] as const
}
const used = (i: number): Condition => unless(`ch${i}`, 'none')

/** Up to six channels of one transmitter, in the order of its terminals. */
export const CHANNEL_SETTINGS = [
  ...channel(1, undefined),
  ...channel(2, used(1)),
  ...channel(3, all(used(1), used(2))),
  ...channel(4, all(used(1), used(2), used(3))),
  ...channel(5, all(used(1), used(2), used(3), used(4))),
  ...channel(6, all(used(1), used(2), used(3), used(4), used(5))),
] as const

/** What a current or a frequency stands for; null where it is not told. */
interface Carries {
  readonly source: keyof typeof SOURCES
  readonly range: { readonly from: number; readonly to: number } | null
}
/** One channel as it was planned. */
export type Channel =
  | ({ readonly kind: 'active' | 'passive'; readonly of: number } & Carries)
  | ({ readonly kind: 'frequency'; readonly of: number; readonly top_Hz: number } & Carries)
  | { readonly kind: 'pulse'; readonly of: number; readonly pulse_m3: number; readonly width_ms: number }
  | {
      readonly kind: 'relay'
      readonly of: number
      readonly acts: keyof typeof ACTIONS
      /** On and off, m³/h; null where it has none, or nobody told it. */
      readonly points: { readonly on: number; readonly off: number } | null
    }
  | { readonly kind: 'temperature'; readonly of: number; readonly reads: keyof typeof ROLES }

type Place = 1 | 2 | 3 | 4 | 5 | 6
function carriedBy(s: Entries, of: Place): Carries {
  const source = s[`ch${of}_source`]
  const [from, to] = [s[`ch${of}_from`], s[`ch${of}_to`]]
  return { source, range: source === 'flow' || from === to ? null : { from, to } }
}
/** One channel by its entries; null where it is not used. */
function channelOf(s: Entries, of: Place): Channel | null {
  switch (s[`ch${of}`]) {
    case 'none':
      return null
    case 'active':
    case 'passive':
      return { kind: s[`ch${of}`] as 'active' | 'passive', of, ...carriedBy(s, of) }
    case 'frequency':
      return { kind: 'frequency', of, ...carriedBy(s, of), top_Hz: s[`ch${of}_top_Hz`] }
    case 'pulse':
      return { kind: 'pulse', of, pulse_m3: s[`ch${of}_pulse_m3`], width_ms: s[`ch${of}_width_ms`] }
    case 'relay': {
      const acts = s[`ch${of}_acts`]
      const [on, off] = [s[`ch${of}_point`], s[`ch${of}_back`]]
      const hasPoints = (acts === 'high' || acts === 'low') && on > 0 && off > 0 && on !== off
      return { kind: 'relay', of, acts, points: hasPoints ? { on, off } : null }
    }
    case 'temperature':
      return { kind: 'temperature', of, reads: s[`ch${of}_reads`] }
  }
}
type Entries = ValuesOf<typeof CHANNEL_SETTINGS>
/** The channels that are used: the first that is not ends the plan. */
export function channelsOf(s: Entries): Channel[] {
  const all = ([1, 2, 3, 4, 5, 6] as const).map((of) => channelOf(s, of))
  const end = all.indexOf(null)
  return (end < 0 ? all : all.slice(0, end)).filter((c) => c !== null)
}

/** What a channel carries, and between which ends. */
function sayCarried({ source, range }: Carries, top: string): string {
  if (source === 'flow') return `flow, 0 to ${top}`
  const unit = printedUnit(CARRIED_UNITS[source])
  return range
    ? `${SOURCES[source]}, ${sayNumber(range.from, 6)} to ${sayNumber(range.to, 6)} ${unit}`
    : `${SOURCES[source]}, range not told`
}
/** Each channel as a line of the sheet. @param top - what full flow is called there, with its unit */
export function channelLines(channels: readonly Channel[], top: string): SheetLine[] {
  const part = 'Outputs and inputs'
  const of = (c: Channel): string => {
    switch (c.kind) {
      case 'active':
      case 'passive':
        return `${KINDS[c.kind]}: ${sayCarried(c, top)}`
      case 'frequency':
        return c.source === 'flow'
          ? `frequency: flow, ${sayNumber(c.top_Hz)} Hz at ${top}`
          : `frequency up to ${sayNumber(c.top_Hz)} Hz: ${sayCarried(c, top)}`
      case 'pulse':
        return `a pulse of ${sayNumber(c.width_ms)} ms every ${sayNumber(c.pulse_m3, 6)} m³`
      case 'relay':
        return `relay: ${ACTIONS[c.acts]}${c.points ? `, on at ${sayNumber(c.points.on, 6)} m³/h, off at ${sayNumber(c.points.off, 6)} m³/h` : ''}`
      case 'temperature':
        return `temperature input, ${ROLES[c.reads]}`
    }
  }
  return channels.map((c) => ({ says: `Channel ${c.of}`, value: of(c), part }))
}

/** What of a plan cannot work, at its entry. @param flow_m3h - the largest flow */
export function channelFindings(channels: readonly Channel[], flow_m3h: number): Finding[] {
  const out: Finding[] = []
  const tell = (code: string, severity: Finding['severity'], where: string, says: string, rule?: string) =>
    out.push({ code, severity, where: [where], says, ...(rule ? { rule } : {}) })
  for (const c of channels) {
    if (c.kind === 'pulse') {
      const rate_Hz = flow_m3h / 3600 / c.pulse_m3
      const widest_ms = 500 / rate_Hz
      if (c.width_ms > widest_ms)
        tell(
          'PULSES_TOO_FAST',
          'stop',
          `ch${c.of}_pulse_m3`,
          `At full flow channel ${c.of} would make ${sayNumber(rate_Hz, 3)} pulses a second: a pulse may last ${sayNumber(widest_ms, 3)} ms and is set to ${sayNumber(c.width_ms)} ms. Take a larger volume for a pulse; litres typed for cubic metres make a thousand times as many.`,
          'half the period at full flow',
        )
      else if (rate_Hz < 1 / 3600)
        tell(
          'PULSES_TOO_SLOW',
          'warn',
          `ch${c.of}_pulse_m3`,
          `At full flow channel ${c.of} makes one pulse in ${sayNumber(1 / rate_Hz / 3600, 3)} hours. Was the volume typed in litres?`,
        )
    }
    if (c.kind === 'frequency' && c.top_Hz * 1.05 > 10_000)
      tell(
        'FREQUENCY_TOO_HIGH',
        'warn',
        `ch${c.of}_top_Hz`,
        `At 105 % channel ${c.of} makes ${sayNumber(c.top_Hz * 1.05, 5)} Hz; most counters take up to 10 000 Hz.`,
        'typical',
      )
    if ('source' in c && c.source !== 'flow' && c.range === null)
      tell(
        'CHANNEL_RANGE_UNTOLD',
        'warn',
        `ch${c.of}_to`,
        `Channel ${c.of} carries the ${SOURCES[c.source]}: say what its two ends stand for, else its receiver shows anything.`,
      )
    if (c.kind === 'relay' && (c.acts === 'high' || c.acts === 'low')) {
      if (c.points === null)
        tell(
          'CHANNEL_POINT_UNTOLD',
          'warn',
          `ch${c.of}_point`,
          `Channel ${c.of} acts at a flow: say where, and where it lets go again; at one point it chatters.`,
        )
      else if (c.acts === 'high' ? c.points.off > c.points.on : c.points.off < c.points.on)
        tell(
          'CHANNEL_POINTS_CROSSED',
          'stop',
          `ch${c.of}_back`,
          `Channel ${c.of} acts ${c.acts === 'high' ? 'above' : 'below'} ${sayNumber(c.points.on, 6)} m³/h and lets go at ${sayNumber(c.points.off, 6)}: the two are exchanged.`,
        )
      else if (Math.max(c.points.on, c.points.off) > flow_m3h)
        tell(
          'CHANNEL_POINT_OUTSIDE',
          'warn',
          `ch${c.of}_point`,
          `Channel ${c.of} has a point above the largest flow, ${sayNumber(flow_m3h, 6)} m³/h: it is never reached.`,
        )
    }
    if (c.kind === 'passive')
      tell(
        'PASSIVE_NEEDS_FEED',
        'note',
        `ch${c.of}`,
        `Channel ${c.of} is passive: it only controls a current that the card or a supply has to drive.`,
      )
  }
  const heat = channels.flatMap((c) => (c.kind === 'temperature' ? [c.reads] : []))
  if (heat.includes('supply') !== heat.includes('return'))
    tell(
      'HEAT_NEEDS_BOTH',
      'warn',
      `ch${channels.find((c) => c.kind === 'temperature')?.of ?? 1}_reads`,
      'Heat is counted from two temperatures: supply and return; one of them has no channel.',
    )
  return out
}

/** A meter at a moment, as far as its channels carry it. */
export interface Carried {
  /** Flow as a share of the largest one, flow_m3h. */
  readonly share: number
  readonly flow_m3h: number
  readonly speed_m_s: number | null
  readonly signal_pct: number | null
  readonly velocity_m_s: number | null
  readonly temperature_C: number
  readonly measures: boolean
}
/** A current goes a little past its ends, and no further. @see NAMUR NE 43 */
const [LEAST_SHARE, MOST_SHARE] = [-0.0125, 1.03125]

/** What a channel carries, as a share of its range; null where nobody told the range, or it is not measured. */
function shareOf({ source, range }: Carries, at: Carried): number | null {
  if (!at.measures) return null
  if (source === 'flow') return at.share
  const value = { speed: at.speed_m_s, signal: at.signal_pct, velocity: at.velocity_m_s }[source]
  if (value === null || range === null) return null
  return Math.min(MOST_SHARE, Math.max(LEAST_SHARE, (value - range.from) / (range.to - range.from)))
}
/** Whether a relay is energised. A moment has no past: between its points it is taken as let go. */
function energised(c: Extract<Channel, { kind: 'relay' }>, at: Carried): boolean | null {
  if (c.acts === 'fault') return !at.measures
  if (c.acts === 'reverse') return at.measures && at.share < 0
  if (!c.points || !at.measures) return c.points ? false : null
  const flow = at.share * at.flow_m3h
  return c.acts === 'high' ? flow >= c.points.on : flow <= c.points.on
}

/** What the channels give and read at a moment; one whose range or points nobody told gives nothing here. */
export function channelSignals(channels: readonly Channel[], at: Carried): Signal[] {
  const of = (c: Channel): { value: number; unit: string; what: string } | null => {
    switch (c.kind) {
      case 'active':
      case 'passive': {
        const share = shareOf(c, at)
        const what = c.source === 'flow' ? KINDS[c.kind] : `${KINDS[c.kind]}, ${SOURCES[c.source]}`
        return share === null ? null : { value: 4 + 16 * share, unit: 'mA', what }
      }
      case 'frequency': {
        const share = c.source === 'flow' && !at.measures ? 0 : shareOf(c, at)
        return share === null
          ? null
          : { value: c.top_Hz * Math.max(0, share), unit: 'Hz', what: KINDS.frequency }
      }
      case 'pulse':
        return {
          value: at.measures ? (at.flow_m3h * Math.max(0, at.share)) / 3600 / c.pulse_m3 : 0,
          unit: 'Hz',
          what: `${KINDS.pulse}, pulses a second`,
        }
      case 'relay': {
        const acts = energised(c, at)
        return acts === null
          ? null
          : { value: acts ? 1 : 0, unit: '', what: `relay, ${ACTIONS[c.acts]}: 1 is energised` }
      }
      case 'temperature':
        return { value: at.temperature_C, unit: 'degC', what: `temperature ${ROLES[c.reads]}` }
    }
  }
  return channels.flatMap((c) => {
    const told = of(c)
    return told
      ? [{ name: `ch${c.of}`, title: `Channel ${c.of}: ${told.what}`, value: told.value, unit: told.unit }]
      : []
  })
}

/** What stands on the Wire bench for the first current output of the plan. */
export function senderOf(channels: readonly Channel[]): UsualParts['sender'] {
  const first = channels.find((c) => c.kind === 'active' || c.kind === 'passive')
  return {
    kind: first?.kind === 'passive' ? 'four-wire-passive' : 'four-wire-active',
    settings: { fed: 'mains' },
  }
}

/** A pulse as long as nobody looks at, where a frequency output was not told one, ms. */
const USUAL_WIDTH_MS = 0.05
const COUNTER_HZ = 10_000

/** The first channel that counts the flow, as the Scale bench needs it. @param flow_m3h - the largest flow */
export function pulsesOf(channels: readonly Channel[], flow_m3h: number): PulseOutput | null {
  const first = channels.find((c) => c.kind === 'pulse' || (c.kind === 'frequency' && c.source === 'flow'))
  if (first?.kind === 'frequency')
    return {
      atRate: flow_m3h,
      unit: 'm3/h',
      frequency_Hz: first.top_Hz,
      width_ms: Math.min(USUAL_WIDTH_MS, 400 / first.top_Hz),
      limit_Hz: COUNTER_HZ,
      rests: ['flow_m3h', `ch${first.of}_top_Hz`],
    }
  return first?.kind === 'pulse'
    ? {
        atRate: flow_m3h,
        unit: 'm3/h',
        frequency_Hz: flow_m3h / 3600 / first.pulse_m3,
        width_ms: first.width_ms,
        limit_Hz: COUNTER_HZ,
        rests: ['flow_m3h', `ch${first.of}_pulse_m3`],
      }
    : null
}
