import { OTHER_DEVICE } from '../device/other.ts'
import { GENERAL, TRIMS } from '../procedure/general/index.ts'
import { SENSOR_TRIM, ZERO_TRIM } from '../procedure/general/trims.ts'
import { clampOn } from './clamp-on/index.ts'
import { coriolis } from './coriolis/index.ts'
import type { Family } from './family.ts'
import { guidedWave } from './guided-wave/index.ts'
import { levelFromAbove } from './level-from-above/index.ts'
import { orifice } from './orifice/index.ts'
import { ph } from './ph/index.ts'
import { pressure } from './pressure/index.ts'
import { discrete } from './switch/index.ts'
import { temperature } from './temperature/index.ts'
import { thermal } from './thermal/index.ts'

/** Every family of devices. A family that saved loops name is retired, never deleted. */
export const FAMILIES: readonly Family[] = [
  clampOn,
  coriolis,
  thermal,
  orifice,
  levelFromAbove,
  guidedWave,
  pressure,
  temperature,
  ph,
  discrete,
]

/** What can be done at a loop of which nobody has said what it is: a range and a current, and nothing more. */
export const UNKNOWN_FAMILY: Pick<Family, 'title' | 'procedures' | 'references' | 'device'> = {
  title: 'Not told yet',
  procedures: [ZERO_TRIM, SENSOR_TRIM, ...TRIMS, ...GENERAL],
  references: [],
  device: OTHER_DEVICE,
}

const byId = new Map(FAMILIES.map((f) => [f.id, f]))
export const familyOf = (id: string | null): Family | null => (id === null ? null : (byId.get(id) ?? null))
