import { sayNumber } from '../quantity/round.ts'
import { printedUnit } from '../quantity/units.ts'
import { USUAL_CODES } from '../signal/card-codes.ts'
import { stageOf, type Stage, type StageOf } from '../signal/stage.ts'
import { STATION_NAMES } from '../signal/station-names.ts'

/** Receivers whose other settings go when their input type is changed. */
export const RETYPED = ['input', 'converter', 'display'] as const
export type Retyped = (typeof RETYPED)[number]
/** What a receiver can be told to take. */
export const INPUT_KINDS = {
  '4-20': '4-20 mA',
  '0-20': '0-20 mA',
  '1-5 V': '1-5 V',
  '0-10 V': '0-10 V',
  sensor: 'a sensor: resistance or thermocouple',
} as const
export type InputKind = keyof typeof INPUT_KINDS

/** One setting that is lost, as it was: to be keyed in again. */
export interface ToKeyIn {
  /** The receiver, by its name on the line. */
  readonly of: string
  readonly says: string
  readonly value: string
}

/** A receiver fresh from its maker, or from a change of its input type. */
const FRESH = { low: 0, high: 100, decimals: 1 } as const
const say = (x: number | undefined) => (x === undefined ? 'not told' : sayNumber(x, 8))
const TRANSFERS = { linear: 'linear', sqrt: 'square root', table: 'a table' } as const

function rangeLines(s: StageOf<'converter'> | StageOf<'display'>): readonly (readonly [string, string])[] {
  const u = printedUnit(s.range.unit)
  return [
    ['unit', u],
    ['value at 4 mA', `${say(s.range.low)} ${u}`],
    ['value at 20 mA', `${say(s.range.high)} ${u}`],
    ['decimals', String(s.decimals)],
  ]
}

/** What a change of its input type takes from a receiver, in the order in which it is keyed in again. */
export function lostSettings(stages: readonly Stage[], kind: Retyped): ToKeyIn[] {
  const lines = (): readonly (readonly [string, string])[] => {
    switch (kind) {
      case 'input': {
        const s = stageOf(stages, 'input')
        return s
          ? [
              ['signal', INPUT_KINDS[s.signal]],
              ['code at 4 mA', say(s.n4)],
              ['code at 20 mA', say(s.n20)],
              ['lowest code', say(s.nmin)],
              ['highest code', say(s.nmax)],
              ...(s.volts20 === undefined ? [] : [['volts at 20 mA', `${say(s.volts20)} V`] as const]),
            ]
          : []
      }
      case 'converter': {
        const s = stageOf(stages, 'converter')
        return s ? [['channel', String(s.channel)], ...rangeLines(s)] : []
      }
      case 'display': {
        const s = stageOf(stages, 'display')
        return s ? [...rangeLines(s), ['transfer', TRANSFERS[s.transfer.kind]]] : []
      }
    }
  }
  return lines().map(([says, value]) => ({ of: STATION_NAMES[kind], says, value }))
}

/** The line after the change, the receiver at its defaults; and the fields that nobody has told it since. */
export function withType(
  stages: readonly Stage[],
  kind: Retyped,
  type: InputKind,
): { readonly stages: Stage[]; readonly assumed: readonly string[] } {
  const range = (s: { readonly range: { readonly unit: string } }) => ({
    low: FRESH.low,
    high: FRESH.high,
    unit: s.range.unit,
  })
  const changed = stages.map((s): Stage => {
    if (s.kind !== kind) return s
    switch (s.kind) {
      case 'input': {
        return { kind: 'input', ...USUAL_CODES, signal: type === '0-20' ? '0-20' : '4-20' }
      }
      case 'converter':
        return { ...s, channel: 1, range: range(s), decimals: FRESH.decimals }
      case 'display':
        return { ...s, range: range(s), decimals: FRESH.decimals, transfer: { kind: 'linear' } }
      default:
        return s
    }
  })
  const fields: Readonly<Record<Retyped, readonly string[]>> = {
    input: ['n4', 'n20', 'nmin', 'nmax'],
    converter: ['channel', 'range.low', 'range.high', 'decimals'],
    display: ['range.low', 'range.high', 'decimals', 'transfer.kind'],
  }
  return { stages: changed, assumed: fields[kind].map((f) => `path.${kind}.${f}`) }
}

/** Ranges that makers deliver: a receiver that has one of them and fits nothing was probably never told its own. */
const DEFAULTS: readonly (readonly [number, number])[] = [
  [0, 100],
  [0, 1],
  [0, 10],
  [0, 1000],
  [4, 20],
  [1, 5],
  [0, 0],
]
/** Whether a range has the numbers of a default, whatever its unit. */
export const isDefaultRange = (r: { readonly low: number; readonly high: number }): boolean =>
  DEFAULTS.some(([low, high]) => r.low === low && r.high === high)
