import { convertRangeEnd, differenceIn } from '../quantity/units.ts'
import { equipmentU, suits } from '../verify/equipment-spec.ts'
import type { NamedInstrument } from './instruments.ts'
import type { ProcedureContext } from './step.ts'

/** How well what is applied and the current are known, standard uncertainties (k = 1); left out where nothing states it. */
export interface KnownTo {
  /** In the unit of the range. */
  readonly applied?: number
  readonly current?: number
}

/** The worst of the ends of a range, of the best instrument that covers it; null where none states an uncertainty. */
function uOver(
  instruments: readonly NamedInstrument[],
  low: number,
  high: number,
  unit: string,
): number | null {
  const all = instruments.flatMap(({ name, functions }) => {
    const told = suits(functions, name, low, high, unit)
    if (told.kind !== 'suits' || !told.function.uncertainty) return []
    const f = told.function
    const ends = [low, high].map((x) => convertRangeEnd(x, unit, f.unit))
    const worst = Math.max(...ends.map((e) => (e.kind === 'value' ? equipmentU(f, e.value) : NaN)))
    return [differenceIn(worst, f.unit, unit) ?? NaN]
  })
  const known = all.filter((u) => Number.isFinite(u))
  return known.length > 0 ? Math.min(...known) : null
}

/**
 * How well a procedure's instruments know what it reads by, over the range of the loop and over 4 to 20 mA.
 * @returns null where none of them states it for either
 */
export function knownTo(
  { range }: Pick<ProcedureContext, 'range'>,
  instruments: readonly NamedInstrument[],
): KnownTo | null {
  const [low, high] = [Math.min(range.low, range.high), Math.max(range.low, range.high)]
  const applied = uOver(instruments, low, high, range.unit)
  const current = uOver(instruments, 4, 20, 'mA')
  return applied === null && current === null
    ? null
    : { ...(applied === null ? {} : { applied }), ...(current === null ? {} : { current }) }
}
