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
export const familyOf = (id: string): Family | null => byId.get(id) ?? null

/** The family a loop's own words point to. */
export const familyFor = (type: string, signal: string): Family | null => {
  const words = `${type} ${signal}`.toLowerCase()
  return FAMILIES.find((f) => f.fits(words)) ?? null
}
