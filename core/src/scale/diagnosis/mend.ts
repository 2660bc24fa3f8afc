import type { Finding } from '../../finding.ts'
import { stageKindOf } from '../../signal/chain.ts'
import { compilePath, computeFromStation, shownValue } from '../../signal/path.ts'
import type { Stage } from '../../signal/stage.ts'
import { fractionAt, type Link } from './links.ts'
import type { LocateTask, SegmentResult } from './locate.ts'
import type { SimpleShape } from './shapes.ts'

/** Procedures that mend a mistake of one step of the line; the setting itself where it is one. */
const PROCEDURES: Readonly<Partial<Record<Link, Partial<Readonly<Record<SimpleShape, string>>>>>> = {
  'IN>PV': {
    OFFSET: 'zero-trim',
    OFFSET_IN: 'zero-trim',
    GAIN: 'sensor-trim',
    OFFSET_GAIN: 'sensor-trim',
  },
  'PV>PCT': {
    RANGE_HI: 're-range',
    RANGE_LO: 're-range',
    RANGE_BOTH: 're-range',
    REVERSED: 'configuration',
    REVERSED_IN: 'configuration',
    SQRT_EXTRA: 'configuration',
    SQRT_MISSING: 'configuration',
    CUTOFF: 'configuration',
  },
  'PCT>MA': {
    OFFSET: 'output-trim',
    OFFSET_IN: 'output-trim',
    GAIN: 'output-trim',
    OFFSET_GAIN: 'output-trim',
  },
}

/**
 * The procedure that mends what was named, where every link that it may lie in asks for the same one: a stretch that is
 * not resolved is read further first.
 * @param absolute - the device measures from vacuum: its zero is no act in open air
 * @returns the identifier of the procedure, or null
 */
export function procedureFor({ links, explanation, state }: SegmentResult, absolute: boolean): string | null {
  const shape = explanation?.ranked[0]?.shape
  const sure = explanation?.answer === 'named' || explanation?.answer === 'likely'
  if (state !== 'OUT' || !shape || !sure) return null
  const found = new Set(links.map((link) => PROCEDURES[link]?.[shape as SimpleShape] ?? null))
  const [only] = found
  if (found.size !== 1 || !only) return null
  return only === 'zero-trim' && absolute ? 'sensor-trim' : only
}

/**
 * Findings about the loop's own settings that make what was read: run as they are entered, they give every reading of
 * the stretch. Each brings its fix; where the settings make other readings, the fault is not in them.
 * @param findings - the audit of these stages
 */
export function settingsThatMake(
  stages: readonly Stage[],
  findings: readonly Finding[],
  { chain, levels, u, tol }: LocateTask,
  { from, to, state }: SegmentResult,
): Finding[] {
  if (state === 'WITHIN') return []
  const path = compilePath(stages)
  const at = path.stations.findIndex((s) => s.id === to)
  const allowed =
    2 * Math.abs(fractionAt(chain, to, u[to] ?? 0) - fractionAt(chain, to, 0)) + (tol[to] ?? 0) / 100
  const read = levels.filter((l) => l.values[from] !== undefined && l.values[to] !== undefined)
  const made = read.every((l) => {
    const out = at < 0 ? null : computeFromStation(path, from, l.values[from] ?? 0)?.[at]
    const value = out ? shownValue(out) : null
    return (
      value !== null &&
      Math.abs(fractionAt(chain, to, value) - fractionAt(chain, to, l.values[to] ?? 0)) <= allowed
    )
  })
  const place = stageKindOf(to)
  return made && read.length > 0
    ? findings.filter((f) => f.fix && f.severity !== 'note' && f.where.includes(place))
    : []
}
