import type { ElementKind } from '../element.ts'
import { discrete } from './discrete.ts'
import { passive } from './passive.ts'
import { receivers } from './receivers.ts'
import { sources } from './sources.ts'
import { transmitters } from './transmitters.ts'

/** Every kind of element the solver knows. */
export const ELEMENT_KINDS: readonly ElementKind[] = [
  ...sources,
  ...passive,
  ...transmitters,
  ...receivers,
  ...discrete,
]

const byType = new Map(ELEMENT_KINDS.map((k) => [k.type, k]))
export const elementKind = (type: string): ElementKind | null => byType.get(type) ?? null
