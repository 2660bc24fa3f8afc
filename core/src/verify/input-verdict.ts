import { sayNumber } from '../quantity/round.ts'
import { printedUnit } from '../quantity/units.ts'
import type { InputResult } from './input-check.ts'
import { switchPoints, type SwitchTask } from './switch-points.ts'

/** The input forced both ways: what it read while the thing was there, and while it was not. */
export interface ForcedBothWays {
  readonly whileSensing: 0 | 1
  readonly whileNot: 0 | 1
}
/** A switch point that was ramped to, with the unit it is told in. */
export type PointCheck = SwitchTask & { readonly unit: string }

export interface InputVerdict {
  readonly passes: boolean
  readonly says: readonly string[]
}

/** A contact conducts while it senses (NO) or while it does not (NC): what the two readings have to be. */
export function judgeForced(f: ForcedBothWays, contact: 'no' | 'nc'): InputVerdict {
  if (f.whileSensing === f.whileNot)
    return {
      passes: false,
      says: [
        `The input reads ${f.whileSensing} both ways: the sensor, its wire, or the card does not follow.`,
      ],
    }
  const right = f.whileSensing === (contact === 'no' ? 1 : 0)
  return {
    passes: right,
    says: [
      right
        ? `Forced both ways: ${f.whileSensing} while it senses, ${f.whileNot} while it does not, as a ${contact.toUpperCase()} contact should; without current it reads 0.`
        : `It reads ${f.whileSensing} while it senses: the other contact is wired, or the meaning is turned round in the controller.`,
    ],
  }
}

/** Trip, reset and deadband of ramped points in sentences. */
export function judgePoints(p: PointCheck): InputVerdict {
  const r = switchPoints(p)
  const u = printedUnit(p.unit)
  const off = r.trip - p.setpoint
  const says = [
    `Trips at ${sayNumber(r.trip, 5)} ${u}, ${sayNumber(Math.abs(off), 3)} ${off < 0 ? 'below' : 'above'} its setpoint; ±${sayNumber(p.T, 3)} is allowed.`,
  ]
  if (r.reset !== null && r.deadband !== null)
    says.push(
      r.wrongSide
        ? `Resets at ${sayNumber(r.reset, 5)} ${u}, on the wrong side of its trip.`
        : `Resets at ${sayNumber(r.reset, 5)} ${u}, a deadband of ${sayNumber(r.deadband, 3)}.`,
    )
  if (r.repeatability !== null) says.push(`Repeats within ${sayNumber(r.repeatability, 3)} ${u}.`)
  if (Math.abs(p.rate) > r.fastest)
    says.push(
      `The ramp was faster than ${sayNumber(r.fastest, 3)} ${u}/s: ramp more slowly, else the delay moves the point.`,
    )
  return { passes: r.passes && Math.abs(p.rate) <= r.fastest, says }
}

/** All that was looked at, together; what was not looked at does not fail. */
export function inputVerdict(
  counted: InputResult | null,
  forced: InputVerdict | null,
  points: InputVerdict | null,
): InputVerdict {
  const parts = [
    ...(forced ? [forced] : []),
    ...(counted ? [{ passes: counted.inLimits, says: counted.says }] : []),
    ...(points ? [points] : []),
  ]
  return { passes: parts.length > 0 && parts.every((p) => p.passes), says: parts.flatMap((p) => p.says) }
}
