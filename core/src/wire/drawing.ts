import type { TerminalRole } from '../part/part-kind.ts'
import { address, knownParts, type KnownPart, type Wiring } from '../part/wiring.ts'

/** A wiring drawing: boxes with terminals along the signal path, wires at right angles. Lengths in px at scale 1. */
export interface WiringDrawing {
  readonly width: number
  readonly height: number
  readonly columns: readonly { readonly title: string; readonly x: number; readonly width: number }[]
  readonly boxes: readonly DrawnPart[]
  readonly wires: readonly DrawnWire[]
}
export interface DrawnPart {
  readonly id: string
  readonly label: string
  readonly x: number
  readonly y: number
  readonly width: number
  readonly height: number
  readonly terminals: readonly DrawnTerminal[]
  /** Copper that all its terminals stand on, along the edges of its box: of a bus bar. */
  readonly bar: readonly (readonly [x: number, y: number])[] | null
}
export interface DrawnTerminal {
  readonly address: string
  readonly label: string
  readonly role: TerminalRole
  readonly side: 'left' | 'right'
  readonly x: number
  readonly y: number
}
export interface DrawnWire {
  readonly id: string
  readonly points: readonly (readonly [x: number, y: number])[]
  /** Middle of its longest stretch, where an arrow has room, and the way it runs from its first end, degrees. */
  readonly arrow: { readonly x: number; readonly y: number; readonly angle: number }
}

const BOX = 164
/** Names and volts of both sides stand beside each other where a part is wired on both. */
const LETTER = 7.5
const VOLTS_BOTH = 148
function widthFor(part: KnownPart): number {
  const longest = (side: 'left' | 'right') =>
    Math.max(0, ...part.terminals.filter((t) => t.side === side).map((t) => t.label.length))
  const [left, right] = [longest('left'), longest('right')]
  return left === 0 || right === 0 ? BOX : Math.max(BOX, VOLTS_BOTH + LETTER * (left + right))
}
const HEAD = 54
const PITCH = 34
const FOOT = 10
const BETWEEN = 22
const TRACK = 14
const LEAST_GAP = 60
const TOP = 34

/** Columns from the field to the rack; a column nothing stands in is left out. */
const COLUMNS = [
  { id: 'field', title: 'Field' },
  { id: 'box', title: 'Junction box' },
  { id: 'run', title: 'Cable' },
  { id: 'terminals', title: 'Cabinet terminals' },
  { id: 'cabinet', title: 'Cabinet' },
  { id: 'rack', title: 'Supply and receivers' },
] as const
type ColumnId = (typeof COLUMNS)[number]['id']

function columnOf(p: KnownPart): ColumnId {
  const place = p.kind.placeOf?.(p.s) ?? p.kind.place
  if (place === 'cabinet' && p.kind.duty === 'through') return 'terminals'
  return place === 'tool' ? 'cabinet' : place
}

const RANK = [
  'source',
  'feed',
  'bar',
  'through',
  'transmitter',
  'sensor',
  'inLoop',
  'repeater',
  'switching',
  'loose',
  'mains',
  'receiver',
  'input',
  'load',
  'link',
  'meter',
]

interface Stop {
  readonly y: number
  /** Number of the gap the terminal looks into: the one right of column n is n. */
  readonly gap: number
  readonly fromLeft: boolean
  readonly address: string
}

/** Tracks of one gap: vertical stretches side by side, none on top of another. */
class Gap {
  private readonly stretches: { track: number; low: number; high: number }[] = []
  private readonly stubs: { y: number; fromLeft: boolean; track: number; address: string }[] = []
  private first = 0
  private last = -1

  take(low: number, high: number, ends: readonly Stop[]): number {
    const free = (k: number) =>
      this.stretches.every((s) => s.track !== k || high + 8 < s.low || low - 8 > s.high)
    const clear = (k: number) =>
      ends.every((end) =>
        this.stubs.every(
          (s) =>
            Math.abs(s.y - end.y) > 6 ||
            s.address === end.address ||
            s.fromLeft === end.fromLeft ||
            (end.fromLeft ? k < s.track : k > s.track),
        ),
      )
    // Inner tracks first; a track further left than all is made when the order of stubs asks for it.
    const tries = Array.from({ length: 60 }, (_, i) => (i < 30 ? i : 29 - i))
    const k = tries.find((t) => free(t) && clear(t)) ?? tries.find(free) ?? 0
    this.stretches.push({ track: k, low, high })
    for (const end of ends)
      this.stubs.push({ y: end.y, fromLeft: end.fromLeft, track: k, address: end.address })
    this.first = Math.min(this.first, k)
    this.last = Math.max(this.last, k)
    return k
  }
  /** How many tracks in from the left a track lies. */
  place(track: number): number {
    return track - this.first + 1
  }
  private get tracks(): number {
    return this.last - this.first + 1
  }
  get width(): number {
    return Math.max(LEAST_GAP, (this.tracks + 1) * TRACK + 8)
  }
}

type Route =
  | { readonly kind: 'straight' }
  | { readonly kind: 'near'; readonly track: number }
  | { readonly kind: 'far'; readonly first: number; readonly lane: number; readonly last: number }

/** Lays the wiring out. The same wiring is always drawn the same. */
export function drawWiring(w: Wiring): WiringDrawing {
  const parts = knownParts(w)
  const columns = COLUMNS.filter((c) => parts.some((p) => columnOf(p) === c.id))
  const boxes = new Map<string, { column: number; y: number; height: number; part: KnownPart }>()
  let bottom = TOP
  columns.forEach((c, column) => {
    let y = TOP
    const here = parts
      .filter((p) => columnOf(p) === c.id)
      .sort((a, b) => RANK.indexOf(a.kind.duty) - RANK.indexOf(b.kind.duty))
    for (const part of here) {
      const rows = Math.max(
        ...(['left', 'right'] as const).map((s) => part.terminals.filter((t) => t.side === s).length),
      )
      const height = HEAD + rows * PITCH + FOOT
      boxes.set(part.id, { column, y, height, part })
      y += height + BETWEEN
    }
    bottom = Math.max(bottom, y - BETWEEN)
  })
  const stops = new Map<string, Stop>()
  for (const { column, y, part } of boxes.values())
    for (const side of ['left', 'right'] as const)
      part.terminals
        .filter((t) => t.side === side)
        .forEach((t, row) => {
          const at = address(part.id, t.id)
          stops.set(at, {
            y: y + HEAD + row * PITCH + PITCH / 2,
            gap: side === 'right' ? column : column - 1,
            fromLeft: side === 'right',
            address: at,
          })
        })

  const gaps = new Map<number, Gap>()
  const gapAt = (n: number): Gap => {
    const gap = gaps.get(n) ?? new Gap()
    gaps.set(n, gap)
    return gap
  }
  const lanes: { y: number; from: number; to: number }[] = []
  const blocked = (y: number, from: number, to: number): boolean =>
    [...boxes.values()].some(
      (b) => b.column > from && b.column <= to && y > b.y - 10 && y < b.y + b.height + 10,
    ) ||
    lanes.some((l) => Math.abs(l.y - y) < 10 && l.from < to && l.to > from) ||
    [...stops.values()].some((s) => Math.abs(s.y - y) < 8 && s.gap >= from && s.gap <= to)
  /** The free height for a stretch over whole columns that makes the shortest way. */
  const lane = (a: Stop, b: Stop): number => {
    const [from, to] = [Math.min(a.gap, b.gap), Math.max(a.gap, b.gap)]
    const heights = Array.from({ length: Math.ceil((bottom + 300) / 13) }, (_, i) => TOP - 14 + i * 13)
    const cost = (y: number) => Math.abs(y - a.y) + Math.abs(y - b.y)
    const free = heights.filter((y) => !blocked(y, from, to)).sort((p, q) => cost(p) - cost(q))
    const y = free[0] ?? bottom + 300
    lanes.push({ y, from, to })
    return y
  }
  const entries = Object.entries(w.wires).flatMap(([id, wire]) => {
    const [a, b] = [stops.get(wire.from), stops.get(wire.to)]
    return a && b ? [{ id, a, b }] : []
  })
  const routes = new Map<string, Route>()
  // Short wires first: they keep the inner tracks.
  const length = (e: (typeof entries)[number]) => Math.abs(e.a.gap - e.b.gap) * 1000 + Math.abs(e.a.y - e.b.y)
  for (const e of [...entries].sort((x, y) => length(x) - length(y) || Number(x.id) - Number(y.id))) {
    const { a, b } = e
    if (a.gap === b.gap) {
      routes.set(
        e.id,
        a.y === b.y && a.fromLeft !== b.fromLeft
          ? { kind: 'straight' }
          : { kind: 'near', track: gapAt(a.gap).take(Math.min(a.y, b.y), Math.max(a.y, b.y), [a, b]) },
      )
      continue
    }
    const y = lane(a, b)
    const take = (s: Stop) => gapAt(s.gap).take(Math.min(s.y, y), Math.max(s.y, y), [s])
    routes.set(e.id, { kind: 'far', first: take(a), lane: y, last: take(b) })
  }

  const widths = columns.map((_c, i) =>
    Math.max(BOX, ...[...boxes.values()].filter((b) => b.column === i).map((b) => widthFor(b.part))),
  )
  const widthOf = (column: number) => widths[column] ?? BOX
  // Widths are known once every track is taken.
  const leftGap = gaps.get(-1)?.width ?? 12
  const xs: number[] = []
  let x = leftGap
  columns.forEach((_c, i) => {
    xs.push(x)
    const gap = gaps.get(i)
    x += widthOf(i) + (gap ? gap.width : i === columns.length - 1 ? 12 : LEAST_GAP)
  })
  const trackX = (gap: number, track: number): number => {
    const place = TRACK * (gaps.get(gap)?.place(track) ?? 1)
    return gap < 0 ? place : (xs[gap] ?? 0) + widthOf(gap) + place
  }
  const pointOf = (s: Stop): readonly [number, number] => [
    s.fromLeft ? (xs[s.gap] ?? 0) + widthOf(s.gap) : (xs[s.gap + 1] ?? 0),
    s.y,
  ]
  const wires = entries.map(({ id, a, b }): DrawnWire => {
    const route = routes.get(id)
    const [p, q] = [pointOf(a), pointOf(b)]
    const points: (readonly [number, number])[] = [p]
    if (route?.kind === 'near') {
      const tx = trackX(a.gap, route.track)
      points.push([tx, a.y], [tx, b.y])
    } else if (route?.kind === 'far') {
      const [x1, x2] = [trackX(a.gap, route.first), trackX(b.gap, route.last)]
      points.push([x1, a.y], [x1, route.lane], [x2, route.lane], [x2, b.y])
    }
    points.push(q)
    return { id, points, arrow: arrowOf(points) }
  })
  const low = Math.max(bottom, ...wires.flatMap((v) => v.points.map((p) => p[1])))
  return {
    width: columns.length === 0 ? 400 : x,
    height: low + 20,
    columns: columns.map((c, i) => ({ title: c.title, x: xs[i] ?? 0, width: widthOf(i) })),
    boxes: [...boxes.values()].map(({ column, y, height, part }) => {
      const terminals = part.terminals.flatMap((t) => {
        const stop = stops.get(address(part.id, t.id))
        if (!stop) return []
        const [tx, ty] = pointOf(stop)
        return [{ address: stop.address, label: t.label, role: t.role, side: t.side, x: tx, y: ty }]
      })
      const [left, width] = [xs[column] ?? 0, widthOf(column)]
      return {
        id: part.id,
        label: part.kind.label(part.s),
        x: left,
        y,
        width,
        height,
        terminals,
        bar: part.kind.duty === 'bar' ? barOf(terminals, y) : null,
      }
    }),
    wires,
  }
}

/** Of a bus bar, below its name: where its copper crosses from the places to the feed. */
const CROSSES = 46
function barOf(terminals: readonly DrawnTerminal[], top: number): DrawnPart['bar'] {
  const side = (of: DrawnTerminal['side']) => terminals.filter((t) => t.side === of)
  const [places, feeds] = [side('left'), side('right')]
  const [place, feed] = [places.at(-1), feeds.at(-1)]
  if (!place || !feed) return null
  return [
    [place.x, place.y],
    [place.x, top + CROSSES],
    [feed.x, top + CROSSES],
    [feed.x, feed.y],
  ]
}

function arrowOf(points: DrawnWire['points']): DrawnWire['arrow'] {
  let best = { x: 0, y: 0, angle: 0 }
  let longest = -1
  points.forEach(([x2, y2], i) => {
    const before = points[i - 1]
    if (!before) return
    const [x1, y1] = before
    const size = Math.abs(x2 - x1) + Math.abs(y2 - y1)
    if (size <= longest) return
    longest = size
    const angle = x2 > x1 ? 0 : x2 < x1 ? 180 : y2 > y1 ? 90 : 270
    best = { x: (x1 + x2) / 2, y: (y1 + y2) / 2, angle }
  })
  return best
}
