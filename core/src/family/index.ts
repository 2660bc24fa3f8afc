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

const byId = new Map(FAMILIES.map((f) => [f.id, f]))
export const familyOf = (id: string | null): Family | null => (id === null ? null : (byId.get(id) ?? null))
