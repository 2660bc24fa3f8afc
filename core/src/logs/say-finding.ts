import type { Evidence, Finding, Severity } from '../finding.ts'
import { sayCount, sayNumber } from '../quantity/round.ts'
import { LOG_FINDINGS, type LogFinding, type LogFindingCode } from './findings/finding.ts'

/** A finding of a log in words, with the stretch it speaks of. */
export interface LogSaying extends Finding {
  readonly from: number
  readonly to: number
}

const SEVERITY: Readonly<Record<LogFindingCode, Severity>> = {
  BACKWARDS: 'warn',
  DUPLICATE: 'note',
  GAP: 'warn',
  SIGNAL_LOW: 'warn',
  OUT_OF_RANGE: 'warn',
  AT_LIMIT: 'stop',
  FROZEN: 'stop',
  QUANTISED: 'note',
  SPIKE: 'note',
  PERIODIC: 'note',
  NOISE_CHANGED: 'warn',
  UNIT_CHANGED: 'stop',
  STEP: 'note',
  DRIFT: 'warn',
}

/** Seconds as people say them. */
export function sayDuration(seconds: number): string {
  if (seconds < 120) return `${sayNumber(seconds, 4)} s`
  if (seconds < 7200) return `${sayNumber(seconds / 60, 3)} min`
  return seconds < 172_800 ? `${sayNumber(seconds / 3600, 3)} h` : `${sayNumber(seconds / 86_400, 3)} days`
}

const n = (f: LogFinding, key: string): number => Number(f.evidence[key] ?? 0)
const samples = (f: LogFinding) =>
  `${sayCount(n(f, 'samples'))} ${n(f, 'samples') === 1 ? 'sample' : 'samples'}`
const signed = (x: number) => `${x < 0 ? '−' : '+'}${sayNumber(Math.abs(x), 4)}`

function sentenceOf(f: LogFinding, unit: string, isStepped: boolean): string {
  const of = (x: number, digits = 4) => `${sayNumber(x, digits)}${unit === '' ? '' : ` ${unit}`}`
  const change = (x: number) => `${signed(x)}${unit === '' ? '' : ` ${unit}`}`
  switch (f.code) {
    case 'BACKWARDS':
      return `The clock went back by ${sayDuration(n(f, 'back_ms') / 1000)} and stayed behind for ${samples(f)}. Ask when it was set; its values are good.`
    case 'DUPLICATE':
      return n(f, 'conflicting') === 0
        ? `${samples(f)} ${n(f, 'samples') === 1 ? 'stands' : 'stand'} twice.`
        : `${samples(f)} ${n(f, 'samples') === 1 ? 'has' : 'have'} the time of the one before, ${sayCount(n(f, 'conflicting'))} of them another value. Ask which is meant.`
    case 'GAP':
      return `Nothing was recorded for ${sayDuration(n(f, 'seconds'))}: about ${sayCount(n(f, 'missing'))} samples are missing. Nothing is put in their place.`
    case 'SIGNAL_LOW':
      return `The signal was too weak for ${samples(f)}, lowest ${sayNumber(n(f, 'lowest'), 3)} %. Their values are not used; look at couplant and position.`
    case 'OUT_OF_RANGE':
      return `${samples(f)} lie outside the range of the loop, farthest ${of(n(f, 'farthest'))}.`
    case 'AT_LIMIT':
      return f.evidence['known'] === true
        ? `${samples(f)} stand at the end of the range, ${of(n(f, 'limit'))}: what lies beyond was not recorded.`
        : `${samples(f)} stand at ${of(n(f, 'limit'))} and none goes further: something limits this signal. Look for the limit.`
    case 'FROZEN':
      return `The value stood at ${of(n(f, 'value'))} for ${samples(f)} without its own noise. Look whether the device held its output.`
    case 'QUANTISED':
      return `The log moves in steps of ${of(n(f, 'step'))}, as coarse as its scatter: noise and small changes cannot be told.`
    case 'SPIKE':
      return `One value stands out by ${change(n(f, 'size'))}.`
    case 'PERIODIC':
      return `A wave of ${of(n(f, 'amplitude'), 3)} comes again every ${sayDuration(n(f, 'period_s'))}. Look what cycles with it: a pump, a valve, the control.`
    case 'NOISE_CHANGED':
      return `The scatter became ${sayNumber(n(f, 'ratio'), 3)} times what it was: from ${of(n(f, 'before'), 3)} to ${of(n(f, 'after'), 3)}. Look what changed then: damping, air in the fluid, a setting.`
    case 'UNIT_CHANGED':
      return n(f, 'offset') === 0
        ? `From here on the values are ${sayNumber(n(f, 'factor'), 6)} times the ones before, scatter too: the unit was changed. Correct it before these are used.`
        : 'From here on the values are those of before in the other temperature scale: the unit was changed. Correct it before these are used.'
    case 'STEP':
      return `The level changed by ${change(n(f, 'size'))}.`
    case 'DRIFT':
      // The line is the one beside its steps: it may run the other way than the whole, and further than the values reach.
      return isStepped
        ? `Between its steps it drifts by ${change(n(f, 'perHour'))} an hour, ${change(n(f, 'total'))} with the steps taken out.`
        : `It drifts: ${change(n(f, 'total'))} over the stretch, ${change(n(f, 'perHour'))} an hour.`
  }
}

const RULES: Partial<Readonly<Record<LogFindingCode, string>>> = {
  STEP: 'A level that changed is no fault by itself: the process may have been meant to.',
  AT_LIMIT: 'Where no limit is known, a pile of values at the largest or smallest one is a guess.',
}

function evidenceOf(f: LogFinding, unit: string): readonly Evidence[] {
  const of = (label: string, key: string, u: string) => ({
    label,
    value: n(f, key),
    ...(u === '' ? {} : { unit: u }),
  })
  switch (f.code) {
    case 'PERIODIC':
      return [
        of('period', 'period_s', 's'),
        of('amplitude', 'amplitude', unit),
        of('above its surroundings', 'ratio', 'times'),
      ]
    case 'DRIFT':
      return [of('in all', 'total', unit), of('an hour', 'perHour', unit)]
    default:
      return []
  }
}

/** What there are many of, where there are more than a list can bear. */
const MANY_OF: Readonly<Record<LogFindingCode, string>> = {
  BACKWARDS: 'times the clock went back',
  DUPLICATE: 'stretches in which samples stand twice',
  GAP: 'gaps',
  SIGNAL_LOW: 'stretches of too weak a signal',
  OUT_OF_RANGE: 'stretches outside the range',
  AT_LIMIT: 'stretches at a limit',
  FROZEN: 'stretches without their own noise',
  QUANTISED: 'stretches in coarse steps',
  SPIKE: 'values that stand out',
  PERIODIC: 'waves',
  NOISE_CHANGED: 'changes of the scatter',
  UNIT_CHANGED: 'changes of the unit',
  STEP: 'changes of the level',
  DRIFT: 'drifts',
}
const MANY = 20
const LISTED = 5

/** How much a finding weighs beside others of its kind: its size, else how long it lasted. */
function weightOf(f: LogFinding): number {
  if (f.code === 'STEP') return Math.abs(n(f, 'size'))
  if (f.code === 'DRIFT') return Math.abs(n(f, 'total'))
  if (f.code === 'NOISE_CHANGED') return Math.abs(Math.log(n(f, 'ratio')))
  if (f.code === 'BACKWARDS') return n(f, 'back_ms')
  return f.to - f.from
}

/** Of a kind of which there are many, the heaviest, and one saying of all. */
function fewOf(found: readonly LogFinding[]): {
  readonly listed: readonly LogFinding[]
  readonly all: LogSaying | null
} {
  const [first] = found
  if (!first || found.length <= MANY) return { listed: found, all: null }
  const last = found.reduce((a, b) => (b.to > a.to ? b : a))
  return {
    listed: found.toSorted((a, b) => weightOf(b) - weightOf(a)).slice(0, LISTED),
    all: {
      code: first.code,
      severity: SEVERITY[first.code],
      where: ['log'],
      says: `${found.length} ${MANY_OF[first.code]} in all. The ${LISTED} largest are listed; look nearer to see the others.`,
      from: first.from,
      to: last.to,
    },
  }
}

/** Many spikes are one thing: scatter with long tails. */
function tailsOf(spikes: readonly LogFinding[], unit: string): LogSaying | null {
  const [first, last] = [spikes[0], spikes.at(-1)]
  if (spikes.length <= MANY || !first || !last) return null
  const largest = spikes.reduce((most, f) => Math.max(most, Math.abs(n(f, 'size'))), 0)
  return {
    code: 'SPIKE',
    severity: SEVERITY.SPIKE,
    where: ['log'],
    says: `${spikes.length} values stand out, the largest by ${sayNumber(largest, 4)}${unit === '' ? '' : ` ${unit}`}: this is scatter with long tails, not single spikes.`,
    from: first.from,
    to: last.to,
  }
}

/**
 * What a log has, in words, in the order of time. Of a kind of which there are more than twenty the largest are told,
 * and how many there are; many spikes are one saying.
 * @param unit - of the values, as it is printed; empty where none is known
 */
export function sayFindings(findings: readonly LogFinding[], unit: string): readonly LogSaying[] {
  const isStepped = findings.some((f) => f.code === 'STEP')
  const said = (f: LogFinding): LogSaying => {
    const rule = RULES[f.code]
    return {
      code: f.code,
      severity: SEVERITY[f.code],
      where: ['log'],
      says: sentenceOf(f, unit, isStepped),
      evidence: evidenceOf(f, unit),
      ...(rule === undefined ? {} : { rule }),
      from: f.from,
      to: f.to,
    }
  }
  const kinds = LOG_FINDINGS.map((code) => findings.filter((f) => f.code === code))
  const told = kinds.flatMap((of) => {
    const tails = of[0]?.code === 'SPIKE' ? tailsOf(of, unit) : null
    if (tails) return [tails]
    const { listed, all } = fewOf(of)
    return [...(all ? [all] : []), ...listed.map(said)]
  })
  return told.sort((a, b) => a.from - b.from)
}
