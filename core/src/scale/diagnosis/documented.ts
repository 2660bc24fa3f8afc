import { MEASURING_HIGH_MA, MEASURING_LOW_MA } from '../../signal/current-range.ts'
import { USUAL_CODES } from '../../signal/card-codes.ts'
import { stageOf, type Stage, type StationId } from '../../signal/stage.ts'
import type { Chain } from '../../signal/chain.ts'
import { loopScale } from '../../verify/reading-errors.ts'
import { shouldShow } from '../../verify/should-show.ts'

/**
 * The chain as it is documented: ranges as they should be, whatever the receivers are set to, so that a receiver left
 * behind comes out as an error. Null for a loop without a measuring range.
 */
export function documentedChain(stages: readonly Stage[], oneRoot: boolean): Chain | null {
  const transmitter = stageOf(stages, 'transmitter')
  const scale = loopScale(stages)
  if (!transmitter || !scale) return null
  const input = stageOf(stages, 'input')
  const output = stageOf(stages, 'output')
  const controller = stageOf(stages, 'controller')
  const display = stageOf(stages, 'display')
  const atTransmitter = transmitter.transfer.kind === 'sqrt'
  const root = oneRoot || atTransmitter || controller?.transfer.kind === 'sqrt'
  const table = transmitter.transfer.kind === 'table' ? transmitter.transfer.points : null
  const cutoff = transmitter.transfer.kind === 'sqrt' ? transmitter.transfer.cutoff : undefined
  const shown = display ? shouldShow(scale.output, display.range) : null
  return {
    lrv: transmitter.range.low,
    urv: transmitter.range.high,
    inUnit: transmitter.range.unit,
    transfer: table ? 'table' : root ? 'sqrt' : 'linear',
    sqrtAt: table || atTransmitter || controller?.transfer.kind !== 'sqrt' ? 'tx' : 'rx',
    ...(table ? { table: table.map(([x, y]): [number, number] => [x, y]) } : {}),
    ...(cutoff === undefined ? {} : { cutoff }),
    ...(transmitter.reverse && !transmitter.shows ? { reverse: true } : {}),
    shunt: stageOf(stages, 'shunt')?.resistance_ohm ?? 250,
    n4: input?.n4 ?? USUAL_CODES.n4,
    n20: input?.n20 ?? USUAL_CODES.n20,
    nmin: input?.nmin ?? USUAL_CODES.nmin,
    nmax: input?.nmax ?? USUAL_CODES.nmax,
    lo: scale.output.low,
    hi: scale.output.high,
    unit: scale.output.unit,
    ...(display && shown
      ? {
          dsp: {
            lo: shown.low,
            hi: shown.high,
            unit: shown.unit,
            decimals: display.decimals,
            from: display.from === 'controller' ? ('EU' as const) : ('MA' as const),
          },
        }
      : {}),
    signal: output?.signal ?? '4-20',
    inputSignal: output?.signal ?? '4-20',
    satLo: output?.satLow_mA ?? MEASURING_LOW_MA,
    satHi: output?.satHigh_mA ?? MEASURING_HIGH_MA,
  }
}

/** Stations of the trunk that this path has, in order; the ones that a diagnosis knows. */
export function readableStations(stages: readonly Stage[]): StationId[] {
  const has = (kind: Stage['kind']) => stages.some((s) => s.kind === kind)
  const list: (readonly [StationId, boolean])[] = [
    ['IN', true],
    ['PV', true],
    ['PCT', true],
    ['MA', has('output')],
    ['V', has('shunt')],
    ['CNT', has('input')],
    ['EU', has('controller')],
    ['DSP', has('display')],
  ]
  return list.filter(([, there]) => there).map(([id]) => id)
}
