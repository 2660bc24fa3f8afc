import type { Finding } from '../finding.ts'
import { auditPath } from './audit.ts'
import type { LoopDocument } from '../loop/document.ts'
import type { LoopFacts } from '../loop/facts.ts'
import { pulseFinding } from '../loop/pulse-finding.ts'
import { rangeFinding } from '../loop/range-finding.ts'

/**
 * The ranges along the line against each other, and against what the device is told: Scale, Set up and the list say
 * the same of them. A range that the set-up only assumes is a matter of the set-up.
 */
export function auditLoop(
  { path, tolerance }: Pick<LoopDocument, 'path' | 'tolerance'>,
  facts: LoopFacts,
): Finding[] {
  const device = facts.setUpBegun ? [rangeFinding(facts), pulseFinding(facts)] : []
  return [
    ...auditPath(path, facts.needsRoot, tolerance),
    ...device.flatMap((f) => (f && f.code !== 'SET_UP_RANGE_ASSUMED' ? [f] : [])),
  ]
}
