import { keysOf } from '../../quantity/setting.ts'
import { sayNumber } from '../../quantity/round.ts'
import { constantsOf } from './characterization.ts'
import { boreIn, plateLines } from './memory-lost.ts'
import { BORE_UNITS, type Entries } from './settings.ts'

/** The plate for a device that has lost its memory; only what somebody typed is on a plate. */
export function told(
  s: Entries,
  isTyped: (name: keyof Entries) => boolean,
): Readonly<Record<string, number | string>> {
  const { constants } = constantsOf(s)
  const others = keysOf(BORE_UNITS).filter((u) => u !== s.boreUnit)
  const say = (u: Entries['boreUnit']) => `${sayNumber(boreIn(s.bore_mm, u), 6)} ${BORE_UNITS[u]}`
  return {
    boreUnit: BORE_UNITS[s.boreUnit],
    ...Object.fromEntries(Object.entries(plateLines(s)).map(([name, line]) => [`${name}Line`, line])),
    ...(isTyped('bore_mm')
      ? {
          bore: Number(boreIn(s.bore_mm, s.boreUnit).toPrecision(10)),
          boreSays: `${say(s.boreUnit)}, which is ${others.map(say).join(', ')}`,
        }
      : {}),
    ...(constants.flowFactor ? { flowFactor: constants.flowFactor.value } : {}),
    ...(constants.driveFrequency ? { driveFrequency: constants.driveFrequency.value } : {}),
    ...(s.access.trim() === '' ? {} : { access: s.access.trim() }),
  }
}
