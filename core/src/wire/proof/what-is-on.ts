import { contactCloses, type RelayPlan } from '../../signal/relay-plan.ts'
import { address, type KnownPart } from '../../part/wiring.ts'
import type { Meant, SolvedState } from './states.ts'

/** A coil, lamp or motor is driven within these shares of its own voltage, and left alone below the last. */
const DRIVEN = { least: 0.75, most: 1.2, off: 0.15 }

/** Volts across a coil, lamp or motor, whichever way round; null without a reading. */
export function acrossLoad(s: SolvedState, p: KnownPart): number | null {
  const [a, b] = [s.e.volts(address(p.id, 'a1')), s.e.volts(address(p.id, 'a2'))]
  return a === null || b === null ? null : Math.abs(a - b)
}
/** Whether a load is on at its own voltage, or off; null for anything between. */
export function loadOn(s: SolvedState, p: KnownPart): boolean | null {
  const volts = p.kind.switchedLoad?.(p.s).volts
  const v = acrossLoad(s, p)
  if (v === null || volts === undefined) return null
  if (v >= DRIVEN.least * volts && v <= DRIVEN.most * volts) return true
  return v <= DRIVEN.off * volts ? false : null
}
export const bitOf = (s: SolvedState, p: KnownPart): number | string | null =>
  s.e.values[`bit(${p.id})`] ?? null

/** A relay that a controller moves by a plan. */
export interface DrivenRelay {
  readonly controller: KnownPart
  readonly plan: RelayPlan
  readonly com: string
  readonly energised: (s: SolvedState) => boolean
  /** Whether what hangs on it is meant to be on. */
  readonly closed: (s: SolvedState) => boolean
}
/** Every relay of every controller that has a plan, in the order of the plans. */
export const drivenRelays = (parts: readonly KnownPart[], meant: Meant): DrivenRelay[] =>
  parts.flatMap((p) =>
    (p.kind.relays?.(p.s) ?? []).flatMap((r, i): DrivenRelay[] => {
      const plan = meant.relays?.plans[i]
      if (!plan) return []
      const energised = (s: SolvedState) => s.e.memory.get(`${p.id}${r.element}`)?.on === true
      return [
        {
          controller: p,
          plan,
          com: address(p.id, r.com),
          energised,
          closed: (s) => contactCloses(plan, energised(s)),
        },
      ]
    }),
  )
/** The one among them that something is on and off with, in every state. */
export const followedRelay = (
  relays: readonly DrivenRelay[],
  all: readonly SolvedState[],
  on: (s: SolvedState) => boolean | null,
): DrivenRelay | null =>
  relays.find(
    (r) => all.every((s) => on(s) === r.closed(s)) && new Set(all.map((s) => r.closed(s))).size === 2,
  ) ?? null
