import type { Family } from '../family/family.ts'
import type { LoopFacts } from '../loop/facts.ts'
import { usedBy, type Use } from '../plan/consumables.ts'
import { procedureOf } from '../procedure/catalogue.ts'
import type { ProcedureContext } from '../procedure/step.ts'
import type { HelperNeed, JobNeed, Work } from './job.ts'

/** What verifying a kind of meter usually takes; typical, learnt better from the plant's own runs. */
interface Usual {
  readonly minutes: number
  readonly setup: number
  readonly kit: string
  readonly helper?: HelperNeed
  readonly uses?: readonly Use[]
}
const USUAL: Readonly<Record<string, Usual>> = {
  pressure: { minutes: 45, setup: 15, kit: 'pressure' },
  orifice: { minutes: 60, setup: 15, kit: 'pressure' },
  temperature: { minutes: 60, setup: 15, kit: 'temperature' },
  'clamp-on': {
    minutes: 60,
    setup: 20,
    kit: 'portable flow meter',
    uses: [{ item: 'couplant', sensors: 2, face_cm2: 12, film_mm: 0.5 }],
  },
  coriolis: { minutes: 60, setup: 10, kit: 'loop' },
  thermal: {
    minutes: 45,
    setup: 20,
    kit: 'nitrogen',
    helper: 'throughout',
    uses: [{ item: 'nitrogenFlow', steps: [{ kg_h: 20, minutes: 4 }] }],
  },
  'guided-wave': { minutes: 60, setup: 10, kit: 'level' },
  'level-from-above': { minutes: 50, setup: 10, kit: 'level' },
  ph: {
    minutes: 40,
    setup: 10,
    kit: 'buffers',
    uses: [
      { item: 'buffer', pH: 4, beaker_ml: 50, rinses: 1, probes: 1 },
      { item: 'buffer', pH: 7, beaker_ml: 50, rinses: 1, probes: 1 },
      { item: 'water', changes: 2, probes: 1 },
    ],
  },
  switch: { minutes: 20, setup: 5, kit: 'loop' },
}
const UNKNOWN: Usual = { minutes: 45, setup: 10, kit: 'loop' }

/** The same of several steps added up. */
function usedUp(uses: readonly Use[]): Record<string, number> {
  const all: Record<string, number> = {}
  for (const [item, amount] of uses.map(usedBy)) all[item] = (all[item] ?? 0) + amount
  return all
}

/** Work that needs nothing but a hand and a screen. */
export const deskWork = (procedure: string, minutes: number): Work => ({
  procedure,
  standard_min: minutes,
  setup_min: 0,
  kit: null,
  helper: 'none',
  needs: [],
  uses: {},
  tools: [],
  permissions: [],
})

/** Name under which the usual time of a procedure is learnt. */
export const procedureName = (id: string): string => `run ${id}`

/** What a verification measures with: the quantity over the range within its tolerance, and the current. */
function needsOf(facts: LoopFacts, family: Family | null): JobNeed[] {
  const { range, allowed } = facts
  if (!range || !allowed || family?.id === 'ph') return []
  const span_mA = 16
  const signal: JobNeed = {
    what: 'mA meter',
    low: 4,
    high: 20,
    unit: 'mA',
    allowed: (allowed.top_pct / 100) * span_mA,
  }
  const quantity: JobNeed = {
    what: 'standard',
    low: Math.min(range.low, range.high),
    high: Math.max(range.low, range.high),
    unit: range.unit,
    allowed: allowed.at(range.high),
  }
  const applied = family?.appliedBy?.(facts.values) ?? null
  // What is measured in percent has a quantity of its own that nobody told.
  if (range.unit === '%') return [signal]
  const isApplied = family?.id === 'pressure' || family?.id === 'temperature' || applied === 'pressure'
  return isApplied ? [quantity, signal] : [signal]
}

/**
 * What a procedure takes at a loop: its own instruments, tools and permissions. What it uses up, as far as it says so.
 * @param visit - what verifying the loop takes: set up the same way, and all that is known where nothing else is
 * @param c - what the procedure would be made for; null where the loop neither measures nor switches
 */
export function procedureWork(
  run: { readonly id: string; readonly minutes: number | null },
  visit: Work,
  c: ProcedureContext | null,
): Work {
  const p = procedureOf(run.id)
  const base = {
    ...visit,
    procedure: procedureName(run.id),
    standard_min: run.minutes ?? p?.minutes ?? visit.standard_min,
  }
  if (!p || !c) return base
  return {
    ...base,
    helper: p.secondPerson ?? 'none',
    needs: (p.needs?.(c) ?? []).map(({ what, low, high, unit, allowed }) => ({
      what,
      low: Math.min(low, high),
      high: Math.max(low, high),
      unit,
      allowed,
    })),
    uses: usedUp(p.uses?.(c) ?? []),
    tools: typeof p.tools === 'function' ? p.tools(c) : p.tools,
    permissions: p.permissions,
  }
}

/** What verifying a loop takes. */
export function verificationWork(facts: LoopFacts): Work {
  const { family } = facts
  const usual = USUAL[family?.id ?? ''] ?? UNKNOWN
  return {
    procedure: `verify ${family?.id ?? 'loop'}`,
    standard_min: usual.minutes,
    setup_min: usual.setup,
    kit: usual.kit,
    helper: usual.helper ?? 'none',
    needs: needsOf(facts, family),
    uses: usedUp(usual.uses ?? []),
    tools: family?.needs.kit ?? [],
    permissions: ['Permit to work', 'Loop in manual, protection bypassed by who is allowed to'],
  }
}
