/** The manifold as a graph: which rooms a valve joins. */
export type ManifoldKind = 'three-valve' | 'five-valve'
/** All that are judged: three valves may have one vent for both sides as well. */
export type AnyManifold = ManifoldKind | 'one-vent'
type Room = 'PH' | 'PL' | 'CH' | 'CL' | 'X' | 'ATM'
type Edge = readonly [Room, Room]

const VALVES: Readonly<Record<AnyManifold, Readonly<Record<string, Edge>>>> = {
  'three-valve': {
    H: ['PH', 'CH'],
    L: ['PL', 'CL'],
    E: ['CH', 'CL'],
    VH: ['CH', 'ATM'],
    VL: ['CL', 'ATM'],
  },
  'five-valve': {
    H: ['PH', 'CH'],
    L: ['PL', 'CL'],
    EH: ['CH', 'X'],
    EL: ['CL', 'X'],
    V: ['X', 'ATM'],
  },
  // Three valves and one vent for both sides: it empties the other one only through the equaliser.
  'one-vent': {
    H: ['PH', 'CH'],
    L: ['PL', 'CL'],
    E: ['CH', 'CL'],
    V: ['CH', 'ATM'],
  },
}
export const valvesOf = (kind: AnyManifold): readonly string[] => Object.keys(VALVES[kind])

export type ManifoldRule = 'THROUGH_FLOW' | 'VENT_TO_PROCESS' | 'ONE_SIDED_VENT' | 'ONE_SIDED_PRESSURE'
/** What each broken rule does to the plant and the cell. */
export const RULE_SAYS: Readonly<Record<ManifoldRule, string>> = {
  THROUGH_FLOW:
    'The process flows through the manifold: wet legs and seal liquid are blown out, and every instrument on these taps reads wrong.',
  VENT_TO_PROCESS: 'Live process goes to the vent.',
  ONE_SIDED_VENT: 'The vent is open to one side only: the other keeps what stands in it.',
  ONE_SIDED_PRESSURE:
    'Full static pressure stands on one side of the cell only: its zero shifts for good, or it breaks.',
}

export interface ManifoldState {
  readonly kind: AnyManifold
  readonly open: ReadonlySet<string>
  /** Chambers under pressure; a room shut off keeps what it had. */
  readonly pressurised: ReadonlySet<Room>
}
export interface ValveMove {
  readonly valve: string
  readonly to: 'open' | 'close'
}

/** In service both blocks are open; isolated, they are shut and everything else is open. */
export function manifold(kind: AnyManifold, start: 'in service' | 'isolated'): ManifoldState {
  const open = new Set(
    start === 'in service' ? ['H', 'L'] : valvesOf(kind).filter((v) => v !== 'H' && v !== 'L'),
  )
  return { kind, open, pressurised: new Set<Room>(start === 'in service' ? ['CH', 'CL'] : []) }
}

/** Rooms that are one room while these valves are open. */
function groups(kind: AnyManifold, open: ReadonlySet<string>): Room[][] {
  const rooms: Room[] = ['PH', 'PL', 'CH', 'CL', 'ATM', ...(kind === 'five-valve' ? (['X'] as const) : [])]
  const group = new Map<Room, Room>(rooms.map((r) => [r, r]))
  const top = (r: Room): Room => {
    const up = group.get(r) ?? r
    return up === r ? r : top(up)
  }
  for (const [valve, [a, b]] of Object.entries(VALVES[kind])) if (open.has(valve)) group.set(top(a), top(b))
  const out = new Map<Room, Room[]>()
  for (const r of rooms) out.set(top(r), [...(out.get(top(r)) ?? []), r])
  return [...out.values()]
}

/** One valve moved: the new state, and the first rule it breaks. */
export function moveValve(
  state: ManifoldState,
  move: ValveMove,
): { state: ManifoldState; broken: ManifoldRule | null } {
  const open = new Set(state.open)
  if (move.to === 'open') open.add(move.valve)
  else open.delete(move.valve)
  const rooms = groups(state.kind, open)
  const pressurised = new Set<Room>()
  let broken: ManifoldRule | null = null
  const break_ = (rule: ManifoldRule) => (broken ??= rule)
  const live = (g: readonly Room[]) => g.includes('PH') || g.includes('PL')
  if (rooms.some((g) => g.includes('PH') && g.includes('PL'))) break_('THROUGH_FLOW')
  if (rooms.some((g) => live(g) && g.includes('ATM'))) break_('VENT_TO_PROCESS')
  const vented = rooms.find((g) => g.includes('ATM')) ?? []
  if (state.kind === 'one-vent' && vented.includes('CH') !== vented.includes('CL')) break_('ONE_SIDED_VENT')
  for (const g of rooms) {
    const isLive = live(g) || (!g.includes('ATM') && g.some((r) => state.pressurised.has(r)))
    if (isLive) for (const r of g) if (r !== 'PH' && r !== 'PL') pressurised.add(r)
  }
  if (pressurised.has('CH') !== pressurised.has('CL')) break_('ONE_SIDED_PRESSURE')
  return { state: { kind: state.kind, open, pressurised }, broken }
}

export interface SequenceVerdict {
  readonly rule: ManifoldRule | null
  /** Index of the first bad move, from 0. */
  readonly at: number | null
  readonly end: ManifoldState
}
/** A whole sequence; the first bad move is told and the sequence goes on to its end. */
export function judgeSequence(start: ManifoldState, moves: readonly ValveMove[]): SequenceVerdict {
  let state = start
  let rule: ManifoldRule | null = null
  let at: number | null = null
  moves.forEach((m, i) => {
    const moved = moveValve(state, m)
    state = moved.state
    if (moved.broken && rule === null) {
      rule = moved.broken
      at = i
    }
  })
  return { rule, at, end: state }
}

/** Whether exactly these valves are open. */
export const onlyOpen = ({ open }: ManifoldState, ...valves: readonly string[]): boolean =>
  open.size === valves.length && valves.every((v) => open.has(v))

const move = (text: string): ValveMove => {
  const [to = 'open', valve = ''] = text.split(' ')
  return { to: to === 'open' ? 'open' : 'close', valve }
}
const moves = (text: string) => text.split(', ').map(move)

/** The orders of work, one side first; the other side first holds as well. */
export const SEQUENCES: Readonly<
  Record<AnyManifold, Readonly<Record<'out' | 'test' | 'back', readonly ValveMove[]>>>
> = {
  'three-valve': {
    out: moves('close L, open E, close H, open VH, open VL'),
    test: moves('close E, open E'),
    back: moves('close VH, close VL, open H, close E, open L'),
  },
  'five-valve': {
    out: moves('close L, open EL, open EH, close H, open V'),
    test: moves('close EH, open EH'),
    back: moves('close V, open H, close EH, close EL, open L'),
  },
  'one-vent': {
    out: moves('close L, open E, close H, open V'),
    test: [],
    back: moves('close V, open H, close E, open L'),
  },
}
