import { PAPERS, type Paper } from '../paper.ts'
import type { Wiring } from '../part/wiring.ts'
import { bridgedPath } from './bridges.ts'
import { drawWiring, type DrawnPart, type DrawnTerminal, type DrawnWire } from './drawing.ts'
import { potentials } from './potentials.ts'
import { WIRE_INK } from './wire-ink.ts'

/** What stands in the title block of a drawing that is handed over. */
export interface SheetHead {
  readonly tag: string
  readonly service: string
  readonly revision: number
  /** Time of that revision, as it is printed. */
  readonly date: string
  readonly by: string
}
const MARGIN = 24
const BLOCK = { width: 300, height: 62 }
/** A small wiring is not blown up to fill its sheet. */
const LARGEST_SCALE = 1.25

const escaped = (s: string) =>
  s.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;').replaceAll('"', '&quot;')

interface TextStyle {
  readonly size: number
  readonly anchor?: 'start' | 'middle' | 'end'
  readonly family?: 'Text' | 'Mono'
  readonly bold?: boolean
  /** White behind it, so that a wire does not run through it. */
  readonly clear?: boolean
}
function text(x: number, y: number, says: string, style: TextStyle): string {
  const { size, anchor = 'start', family = 'Mono', bold = false, clear = false } = style
  const as = `x="${x}" y="${y}" font-family="${family}" font-size="${size}" text-anchor="${anchor}"${bold ? ' font-weight="bold"' : ''}`
  const behind = clear
    ? `<text ${as} fill="white" stroke="white" stroke-width="3">${escaped(says)}</text>`
    : ''
  return `${behind}<text ${as} fill="black">${escaped(says)}</text>`
}

const barLine = (bar: NonNullable<DrawnPart['bar']>): string =>
  `<polyline points="${bar.map((p) => p.join(',')).join(' ')}" fill="none" stroke="black" stroke-width="5"/>`

/**
 * The wiring as a drawing to hand over: framed, with title block, legend and wire numbers, black on white with the
 * wires in their colours; nothing of what a screen happens to show. Times, selection and readings are not on it.
 * @returns an SVG document of the size of the paper
 */
export function wiringSheet(w: Wiring, head: SheetHead, paper: Paper): string {
  // On its side.
  const { width: height, height: width } = PAPERS[paper]
  const drawn = drawWiring(w)
  const room = { width: width - 4 * MARGIN, height: height - 3 * MARGIN - BLOCK.height - 12 }
  const scale = Math.min(LARGEST_SCALE, room.width / drawn.width, room.height / drawn.height)
  const left = (width - drawn.width * scale) / 2
  const top = MARGIN + 12 + Math.max(0, (room.height - drawn.height * scale) / 3)
  return [
    `<?xml version="1.0" encoding="UTF-8"?>`,
    `<svg xmlns="http://www.w3.org/2000/svg" width="${width}pt" height="${height}pt" viewBox="0 0 ${width} ${height}">`,
    `<title>Wiring of ${escaped(head.tag)}, revision ${head.revision}</title>`,
    `<rect x="0" y="0" width="${width}" height="${height}" fill="white"/>`,
    `<rect x="${MARGIN}" y="${MARGIN}" width="${width - 2 * MARGIN}" height="${height - 2 * MARGIN}" fill="none" stroke="black" stroke-width="1"/>`,
    `<g transform="translate(${left} ${top}) scale(${scale})">${drawing(w)}</g>`,
    titleBlock(head, width, height),
    legend(w, height),
    `</svg>`,
    '',
  ].join('\n')
}

function drawing(w: Wiring): string {
  const { columns, boxes, wires } = drawWiring(w)
  const ends = Object.values(w.wires).flatMap((x) => [x.from, x.to])
  const landings = (t: DrawnTerminal) => ends.filter((e) => e === t.address).length
  const marks = potentials(w)
  return [
    ...columns.map((c) =>
      text(c.x + c.width / 2, 11, c.title, { size: 12, anchor: 'middle', family: 'Text' }),
    ),
    ...wires.map((x) => wirePath(w, x, wires)),
    ...boxes.map(
      (b) =>
        `<rect x="${b.x}" y="${b.y}" width="${b.width}" height="${b.height}" rx="6" fill="white" stroke="black"/>` +
        text(b.x + b.width / 2, b.y + 18, b.id, { size: 14, anchor: 'middle', bold: true }) +
        text(b.x + b.width / 2, b.y + 34, b.label, { size: 11, anchor: 'middle', family: 'Text' }) +
        (b.bar ? barLine(b.bar) : ''),
    ),
    ...boxes.flatMap((b) =>
      b.terminals.map((t) => {
        const fill = landings(t) > 1 ? 'black' : 'white'
        const inside = t.side === 'left' ? 12 : -12
        return (
          `<circle cx="${t.x}" cy="${t.y}" r="6.5" fill="${fill}" stroke="black" stroke-width="1.6"/>` +
          text(t.x + inside, t.y + 4.5, t.label, {
            size: 12,
            anchor: t.side === 'left' ? 'start' : 'end',
            bold: true,
          })
        )
      }),
    ),
    ...wires.map((x) => wireMark(w, x, marks.get(x.id))),
  ].join('\n')
}

function wirePath(w: Wiring, x: DrawnWire, all: readonly DrawnWire[]): string {
  const d = bridgedPath(x, all)
  const letters = w.wires[x.id]?.colour
  const [ink, stripe] = letters ? WIRE_INK[letters] : ['#FFFFFF']
  const line = (stroke: string, wide: number, more = '') =>
    `<path d="${d}" fill="none" stroke="${stroke}" stroke-width="${wide}" stroke-linejoin="round"${more}/>`
  return line('black', 3.6) + line(ink, 2.2) + (stripe ? line(stripe, 2.2, ' stroke-dasharray="7 7"') : '')
}

/** Number, colour and potential of a wire, beside its first end. */
function wireMark(w: Wiring, x: DrawnWire, potential: string | undefined): string {
  const [first, second] = x.points
  if (!first || !second) return ''
  const right = second[0] >= first[0]
  const says = [x.id, w.wires[x.id]?.colour, potential].filter(Boolean).join(' ')
  return text(first[0] + (right ? 9 : -9), first[1] + 14, says, {
    size: 10,
    anchor: right ? 'start' : 'end',
    clear: true,
  })
}

function titleBlock(head: SheetHead, width: number, height: number): string {
  const x = width - MARGIN - BLOCK.width
  const y = height - MARGIN - BLOCK.height
  const rule = (y1: number) =>
    `<line x1="${x}" y1="${y1}" x2="${width - MARGIN}" y2="${y1}" stroke="black" stroke-width="0.5"/>`
  return [
    `<rect x="${x}" y="${y}" width="${BLOCK.width}" height="${BLOCK.height}" fill="white" stroke="black"/>`,
    text(x + 10, y + 24, head.tag, { size: 18, bold: true }),
    text(x + BLOCK.width - 10, y + 24, 'Wiring', { size: 11, anchor: 'end', family: 'Text' }),
    rule(y + 32),
    text(x + 10, y + 44, head.service.slice(0, 56), { size: 9, family: 'Text' }),
    rule(y + 48),
    text(x + 10, y + 58, `revision ${head.revision}, ${head.date}, ${head.by}`, { size: 8 }),
  ].join('\n')
}

function legend(w: Wiring, height: number): string {
  const colours = [...new Set(Object.values(w.wires).flatMap((x) => x.colour ?? []))].sort()
  const x = MARGIN + 10
  const y = height - MARGIN - BLOCK.height + 10
  const lines = [
    'Beside a wire: its number, the letters of its colour, and + − PE where a supply or earth is joined to it.',
    'A filled ring: more than one wire lands there. An arc: wires cross and are not joined.',
    `Colours: ${colours.join(' ') || 'none given'}, IEC 60757. Ferrules and terminations are on their own list.`,
    'Local code, the site’s permits and the device’s manual come first.',
  ]
  return lines.map((says, i) => text(x, y + i * 12, says, { size: 8, family: 'Text' })).join('\n')
}
