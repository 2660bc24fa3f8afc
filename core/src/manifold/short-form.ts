/** The short manifold: two blocks, an equaliser, one vent. */
export type ShortMove = 'openH' | 'closeH' | 'openL' | 'closeL' | 'openE' | 'closeE' | 'openV' | 'closeV'
export interface ShortManifold {
  readonly H: boolean
  readonly L: boolean
  readonly E: boolean
  readonly V: boolean
}
export type ShortRule = 'THROUGH_FLOW' | 'VENT_TO_PROCESS' | 'ONE_SIDED_VENT'
const broken = (m: ShortManifold): ShortRule | null =>
  m.H && m.L && m.E
    ? 'THROUGH_FLOW'
    : m.V && (m.H || m.L)
      ? 'VENT_TO_PROCESS'
      : m.V && !m.E
        ? 'ONE_SIDED_VENT'
        : null

/** A sequence from in service: the first broken rule and where, and what the valves are good for at the end. */
export function shortManifold(
  moves: readonly ShortMove[],
  start: ShortManifold = { H: true, L: true, E: false, V: false },
) {
  let m = start
  let rule: ShortRule | null = null
  let at: number | null = null
  for (const [i, move] of moves.entries()) {
    const valve = move.slice(-1) as keyof ShortManifold
    m = { ...m, [valve]: move.startsWith('open') }
    const now = broken(m)
    if (now && rule === null) {
      rule = now
      at = i
    }
  }
  return { valves: m, rule, at, zeroReady: !m.H && !m.L && m.E, inService: m.H && m.L && !m.E && !m.V }
}
