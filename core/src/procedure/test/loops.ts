import { contextOf } from '../../loop/procedure-context.ts'
import { familyOf } from '../../family/index.ts'
import { behaviourOf, standIn, type StandIn } from '../../device/stand-in.ts'
import { readRow } from '../../loop-list/read-row.ts'
import type { LoopDocument } from '../../loop/document.ts'
import type { Typed } from '../../quantity/setting.ts'
import { valuesOf } from '../../quantity/setting.ts'
import { stageOf } from '../../signal/stage.ts'
import { transmitter, type TransmitterErrors } from '../../transmitter/transmitter.ts'
import type { ProcedureContext } from '../step.ts'

interface Kind {
  readonly type: string
  /** None of a loop that switches. */
  readonly range: readonly [number, number, string] | null
  readonly told?: Typed
}
/** One loop of each kind, all of its entries typed. */
export const LOOPS: Readonly<Record<string, Kind>> = {
  gauge: { type: 'gauge pressure', range: [0, 6, 'bar(g)'], told: { duty: 'gauge', url_kPa: 1600 } },
  differential: {
    type: 'differential pressure',
    range: [0, 200, 'mbar'],
    told: { duty: 'differential', url_kPa: 62, manifold: 'three-valve' },
  },
  level: { type: 'radar level', range: [0, 4, 'm'] },
  'guided wave': { type: 'guided wave', range: [0, 2, 'm'] },
  pt100: { type: 'pt100', range: [0, 150, '°C'], told: { sensor: 'pt100', low_C: 0, high_C: 150 } },
  couple: { type: 'thermocouple', range: [0, 800, '°C'], told: { sensor: 'K', low_C: 0, high_C: 800 } },
  pH: { type: 'ph', range: [0, 14, 'pH'] },
  'clamp-on': { type: 'flow clamp on', range: [0, 500, 'm³/h'] },
  coriolis: { type: 'coriolis', range: [0, 13_600, 'kg/h'] },
  switch: {
    type: 'switch, inductive',
    range: null,
    told: { output: 'pnp', contact: 'no', alarmOn: 'notSensed', counter: true },
  },
  thermal: {
    type: 'thermal mass flow',
    range: [0, 60, 'kg/h'],
    told: { p0_list: '300 500 700 900', fs_kgh: 60, checkFs_kgh: 60, throat_mm: 3.2, Cd: 0.99 },
  },
}

/** Over the link and typed; what switches has no link. */
export const waysOf = (name: string): readonly boolean[] => (LOOPS[name]?.range ? [true, false] : [false])

export function loopOf(name: string): LoopDocument {
  const kind = LOOPS[name]
  if (!kind) throw new Error(name)
  const ends = kind.range?.slice(0, 2).map(String) ?? []
  const [lrv = '', urv = ''] = ends
  const unit = kind.range?.[2] ?? ''
  const { document } = readRow({
    tag: 'XT-9',
    type: kind.type,
    ...(kind.range
      ? {
          ...{ lrv, urv, unit, receiverLrv: lrv, receiverUrv: urv, receiverUnit: unit },
          ...{ signal: '4-20 mA', tolerance: '0.5' },
        }
      : { signal: 'PNP NO' }),
    interval: '12',
  })
  if (!document) throw new Error(`${name}: no document`)
  const family = familyOf(document.family)
  if (!family) throw new Error(`${name}: no family`)
  const values = { ...valuesOf(family.settings, document.setUp?.values ?? {}), ...kind.told }
  return { ...document, setUp: { ...document.setUp, values }, unconfirmed: [] }
}
export function contextFor(name: string): ProcedureContext {
  const context = contextOf(loopOf(name))
  if (!context) throw new Error(`${name}: no range`)
  return context
}
/** A device for the loop, with errors of its own as shares of the span and in mA. */
export function deviceFor(
  name: string,
  seed: number,
  errors: Partial<TransmitterErrors> = {},
  more: Partial<StandIn> = {},
): StandIn {
  const document = loopOf(name)
  const context = contextFor(name)
  const stage = stageOf(document.path, 'transmitter')
  const { low, high, unit } = context.range
  const behaviour = behaviourOf(document)
  const span = Math.abs(high - low)
  return standIn(
    seed,
    transmitter(
      {
        LSL: context.limits.low,
        USL: context.limits.high,
        kind: context.kind,
        ...(stage ? { transfer: stage.transfer } : {}),
      },
      { ...errors, z: (errors.z ?? 0) * span },
      low,
      high,
    ),
    {
      family: document.family,
      told: document.setUp?.values ?? {},
      unit,
      relays: [],
      noise: span * behaviour.noise,
      ...more,
    },
  )
}
