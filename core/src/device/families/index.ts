import { CLAMP_ON } from './clamp-on.ts'
import { CORIOLIS } from './coriolis.ts'
import type { DeviceFamily } from './family.ts'
import { GUIDED_WAVE } from './guided-wave.ts'
import { LEVEL } from './level.ts'
import { OTHER } from './other.ts'
import { PH } from './ph.ts'
import { PRESSURE } from './pressure.ts'
import { TEMPERATURE } from './temperature.ts'
import { THERMAL } from './thermal.ts'

/** Every family; the first that fits a loop's type is taken. */
export const DEVICE_FAMILIES: readonly DeviceFamily[] = [
  GUIDED_WAVE,
  LEVEL,
  CLAMP_ON,
  CORIOLIS,
  THERMAL,
  PH,
  TEMPERATURE,
  PRESSURE,
  OTHER,
]
const byId = new Map(DEVICE_FAMILIES.map((f) => [f.id, f]))
export const deviceFamily = (id: string): DeviceFamily => byId.get(id) ?? OTHER
export const deviceFamilyFor = (type: string): DeviceFamily =>
  DEVICE_FAMILIES.find((f) => f.fits(type)) ?? OTHER
