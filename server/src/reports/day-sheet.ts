import type { JobTold, PlacingTold } from '@calm/contract/today'
import { sayDayAs } from '@calm/core/quantity/date-form'
import { asWritten } from '@calm/core/quantity/decimal-sign'
import { sayPlace } from '@calm/core/today/place'
import { wallOf } from '@calm/core/today/wall-time'
import type { Content, TableCell, TDocumentDefinitions } from 'pdfmake/interfaces.js'
import { pdfLibrary } from './fonts.ts'
import { heading, mono, printed, rule } from './sheet-parts.ts'
import type { Stationery } from './stationery.ts'

export interface DaySheetPerson {
  readonly name: string
  readonly there: string
  readonly placings: readonly (PlacingTold & { readonly told: JobTold; readonly helperName: string | null })[]
  readonly pack: readonly { readonly what: string; readonly for: string }[]
  /** Of the kinds of meter that this person comes to. */
  readonly cautions: readonly string[]
}
export interface DaySheetData {
  readonly stationery: Stationery
  readonly day: string
  readonly zone: string
  readonly made: string
  readonly people: readonly DaySheetPerson[]
  /** Whom to call for a hold point, by role. */
  readonly callFor: Readonly<Record<string, string>>
}

/** How much room a page takes: as it reads best, or closer, so that a full day stays one page. */
interface Room {
  readonly text: number
  readonly small: number
  /** What every job asks for is said once above them, and what is packed stands in two columns. */
  readonly saysOnce: boolean
}
const ROOMS: readonly [Room, ...Room[]] = [
  { text: 9, small: 8, saysOnce: false },
  { text: 8.5, small: 7.5, saysOnce: true },
  { text: 7.5, small: 6.5, saysOnce: true },
  { text: 6.5, small: 6, saysOnce: true },
]

/** A box to tick, of characters that every font has. */
const box = '[  ]'

type Line = DaySheetPerson['placings'][number]
const openJob = ({ told: j, helperName }: Line, agreed: readonly string[], room: Room): Content[] => [
  { text: asWritten(j.title), bold: true, font: 'Mono' },
  ...(j.loop ? [{ text: asWritten(j.loop.service) }] : []),
  { text: j.why, fontSize: room.small },
  ...(agreed.length > 0 ? [{ text: agreed.join('. '), fontSize: room.small, bold: true }] : []),
  ...(helperName === null ? [] : [{ text: `With ${asWritten(helperName)}`, fontSize: room.small }]),
]
/** The same in as few lines as it has. */
const closeJob = ({ told: j, helperName }: Line, agreed: readonly string[], room: Room): Content[] => [
  {
    text: [
      { text: asWritten(j.title), bold: true, font: 'Mono' },
      j.loop ? `  ${asWritten(j.loop.service)}` : '',
    ],
  },
  {
    text: [
      {
        text: [...agreed, helperName === null ? '' : `With ${asWritten(helperName)}`]
          .filter(Boolean)
          .join('. '),
        bold: true,
      },
      `${agreed.length > 0 || helperName !== null ? '. ' : ''}${j.why}`,
    ],
    fontSize: room.small,
  },
]

function packed(p: DaySheetPerson, room: Room): TableCell[][] {
  if (!room.saysOnce) return p.pack.map((k) => [`${box} ${k.what}`, { text: k.for, fontSize: room.small }])
  const cells = p.pack.map((k): TableCell => ({ text: `${box} ${k.what}: ${k.for}`, fontSize: room.small }))
  const half = Math.ceil(cells.length / 2)
  return cells.slice(0, half).map((cell, i) => [cell, cells[half + i] ?? ''])
}

function pageOf(d: DaySheetData, p: DaySheetPerson, isFirst: boolean, room: Room): Content[] {
  const asked = p.placings.map((x) => x.told.work.permissions)
  const always = room.saysOnce
    ? (asked[0] ?? []).filter((text) => asked.length > 1 && asked.every((list) => list.includes(text)))
    : []
  const ticked = (text: string): Content => ({ text: `${box} ${text}`, fontSize: room.small })
  const at = (iso: string) => wallOf(Date.parse(iso), d.zone).time
  const head = (text: string): TableCell => ({ text, bold: true })
  const rows = p.placings.map((x): TableCell[] => {
    const { told: j } = x
    const agreed = [
      j.wish.order ? `Order ${asWritten(j.wish.order)}` : '',
      j.wish.agreed ? asWritten(j.wish.agreed) : '',
    ].filter((t) => t !== '')
    return [
      mono(`${at(x.start)}\n${at(x.end)}`),
      { stack: room.saysOnce ? closeJob(x, agreed, room) : openJob(x, agreed, room) },
      { text: `${asWritten(sayPlace(j))}\nleave ${at(x.leaves)}` },
      {
        stack: [
          ...j.work.permissions.filter((text) => !always.includes(text)),
          ...(j.wish.holds ?? []).map((h) => {
            const call = d.callFor[h.role]
            return `Hold after ${h.at} min: ${asWritten(h.role)}${call === undefined ? '' : `, call ${asWritten(call)}`}`
          }),
        ].map(ticked),
      },
      { text: `${box} done\n${box} stopped:`, fontSize: room.small },
    ]
  })
  return [
    {
      text: `${asWritten(p.name)}, ${sayDayAs(d.day, d.stationery.dates)}`,
      fontSize: 17,
      bold: true,
      margin: [0, 0, 0, 2],
      ...(isFirst ? {} : { pageBreak: 'before' }),
    },
    { text: `${p.there}. ${d.made}` },
    heading('Jobs'),
    ...(always.length === 0
      ? []
      : [
          {
            text: `Before every job: ${always.join('; ')}`,
            fontSize: room.small,
            margin: [0, 0, 0, 3],
          } as Content,
        ]),
    p.placings.length === 0
      ? { text: 'Nothing is planned.' }
      : {
          layout: rule,
          table: {
            headerRows: 1,
            dontBreakRows: true,
            widths: room.saysOnce ? [32, '*', 74, 92, 44] : [38, '*', 82, 128, 58],
            body: [['Time', 'Job', 'Place', 'Before it begins', 'After'].map(head), ...rows],
          },
        },
    heading('To pack'),
    p.pack.length === 0
      ? { text: 'Nothing but the usual tools.' }
      : {
          layout: room.saysOnce ? 'noBorders' : rule,
          table: {
            widths: ['*', '*'],
            body: packed(p, room),
          },
        },
    ...(p.cautions.length === 0
      ? []
      : [heading('Mind'), { ul: p.cautions.map((text) => ({ text, fontSize: room.small })) } as Content]),
    {
      text: 'Calm Loop advises. Local codes, permits, the device’s manual and licensed practice decide.',
      fontSize: 7.5,
      margin: [0, 8, 0, 0],
    },
  ]
}

const lineOf = (room: Room) => (room.saysOnce ? 1.05 : 1.15)
const sheet = (d: DaySheetData, room: Room, content: Content[]): TDocumentDefinitions => {
  const paper = printed(
    {
      ...d,
      runId: d.day,
      stands: `plan of ${d.day}`,
      document: { tag: d.day, service: 'Day sheet' },
    },
    `Day sheet ${d.day}`,
    null,
    content,
  )
  return { ...paper, defaultStyle: { ...paper.defaultStyle, fontSize: room.text, lineHeight: lineOf(room) } }
}

/** Up to so many jobs a way of setting a day is worth a try: each try is laid out in full. */
const WORTH_UP_TO = [5, 9, 12] as const

/** The widest way of setting somebody's day that stays on one page; the closest where none does. */
async function roomFor(d: DaySheetData, p: DaySheetPerson): Promise<Room> {
  const from = WORTH_UP_TO.filter((most) => p.placings.length > most).length
  for (const room of ROOMS.slice(from)) if ((await pagesOf(d, p, room)) <= 1) return room
  return ROOMS.at(-1) ?? ROOMS[0]
}

async function pagesOf(d: DaySheetData, p: DaySheetPerson, room: Room): Promise<number> {
  let pages = 0
  const paper = sheet(d, room, pageOf(d, p, true, room))
  const footer = (_page: number, all: number) => {
    pages = all
    return ''
  }
  await pdfLibrary()
    .createPdf({ ...paper, footer })
    .getBuffer()
  return pages
}

/** A day on paper, one page a person: order, tag, place, hold points, whom to call, kit; black on white. */
export async function dayPdf(d: DaySheetData): Promise<Buffer> {
  const pages: Content[] = []
  for (const [i, p] of d.people.entries()) {
    const room = await roomFor(d, p)
    pages.push({ stack: pageOf(d, p, i === 0, room), fontSize: room.text, lineHeight: lineOf(room) })
  }
  return pdfLibrary()
    .createPdf(sheet(d, ROOMS[0], pages))
    .getBuffer()
}
