import { Generator } from '../statistics/generator.ts'

/** A raw edge at an input, before any filter. */
export interface RawEdge {
  readonly t: number
  readonly level: boolean
}
/** A cylinder that is not there: it strokes, is late, stops and bounces like a real one, from a seed alone. */
export interface Cylinder {
  readonly seed: number
  /** Cycle it is meant to keep, s. */
  readonly ideal_s: number
}

/** Strokes are made in blocks of their own, so that any moment can be looked at without all before it. */
const BLOCK_S = 600
const LEAST_CYCLE_S = 0.1
const BOUNCES = 3
const BOUNCE_S = 0.004
/** Share of the cycle during which the end position is held. */
const HELD = 0.3

/** Time of a cycle: mostly near the ideal, at times slow, jammed for some seconds, or stopped for minutes. */
function cycle_s(g: Generator, ideal: number): number {
  const luck = g.uniform()
  const usual = ideal * (1 + 0.04 * Math.abs(g.normal()))
  if (luck < 0.06) return ideal * (1.1 + 0.35 * g.uniform())
  if (luck < 0.08) return ideal * (2 + 4 * g.uniform())
  return luck < 0.083 ? 130 + 200 * g.uniform() : usual
}
function bouncing(g: Generator, t: number, level: boolean): RawEdge[] {
  const n = Math.floor(g.uniform() * (BOUNCES + 1))
  const out: RawEdge[] = [{ t, level }]
  let at = t
  for (let i = 0; i < n; i++) {
    at += BOUNCE_S * g.uniform()
    out.push({ t: at, level: !level })
    at += BOUNCE_S * g.uniform()
    out.push({ t: at, level })
  }
  return out
}
function block(c: Cylinder, index: number): RawEdge[] {
  const g = new Generator((c.seed * 7919 + index * 104_729) >>> 0)
  const end = (index + 1) * BLOCK_S
  // A shorter stroke than any cylinder makes would never fill the block.
  const ideal_s = Math.max(LEAST_CYCLE_S, c.ideal_s)
  const out: RawEdge[] = []
  // A block begins and ends with the cylinder back: blocks can be laid side by side.
  let t = index * BLOCK_S + 0.2 * ideal_s * g.uniform()
  for (;;) {
    const cycle = cycle_s(g, ideal_s)
    const held = HELD * Math.min(cycle, ideal_s)
    const at = t + cycle - held
    if (at + held + 1 >= end) return out
    out.push(...bouncing(g, at, true), ...bouncing(g, at + held, false))
    t = at + held
  }
}

/** Raw edges from one moment to another, oldest first. */
export function edgesBetween(c: Cylinder, from_s: number, to_s: number): RawEdge[] {
  const out: RawEdge[] = []
  for (let i = Math.floor(from_s / BLOCK_S); i <= Math.floor(to_s / BLOCK_S); i++)
    out.push(...block(c, i).filter((e) => e.t >= from_s && e.t < to_s))
  return out
}
/** Whether the end position is made at a moment. */
export const levelAt = (c: Cylinder, t_s: number): boolean =>
  edgesBetween(c, Math.floor(t_s / BLOCK_S) * BLOCK_S, t_s).at(-1)?.level ?? false
