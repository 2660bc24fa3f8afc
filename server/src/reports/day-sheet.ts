import type { JobTold, PlacingTold } from '@calm/contract/today'
import { sayDayAs } from '@calm/core/quantity/date-form'
import { wallOf } from '@calm/core/today/wall-time'
import type { Content, TableCell } from 'pdfmake/interfaces.js'
import { pdfLibrary } from './fonts.ts'
import { heading, mono, printed, rule } from './sheet-parts.ts'
import type { Stationery } from './stationery.ts'

export interface DaySheetPerson {
  readonly name: string
  readonly there: string
  readonly placings: readonly (PlacingTold & { readonly told: JobTold; readonly helperName: string | null })[]
  readonly pack: readonly { readonly what: string; readonly for: string }[]
}
export interface DaySheetData {
  readonly stationery: Stationery
  readonly day: string
  readonly zone: string
  readonly made: string
  readonly people: readonly DaySheetPerson[]
  readonly cautions: readonly string[]
}

/** A box to tick, of characters that every font has. */
const box = '[  ]'

function pageOf(d: DaySheetData, p: DaySheetPerson, isFirst: boolean): Content[] {
  const at = (iso: string) => wallOf(Date.parse(iso), d.zone).time
  const head = (text: string): TableCell => ({ text, bold: true })
  const rows = p.placings.map((x): TableCell[] => {
    const { told: j } = x
    const agreed = [j.wish.order ? `Order ${j.wish.order}` : '', j.wish.agreed ?? ''].filter((t) => t !== '')
    return [
      mono(`${at(x.start)}\n${at(x.end)}`),
      {
        stack: [
          { text: j.title, bold: true, font: 'Mono' },
          ...(j.loop ? [{ text: j.loop.service }] : []),
          { text: j.why, fontSize: 8 },
          ...(agreed.length > 0 ? [{ text: agreed.join('. '), fontSize: 8, bold: true }] : []),
          ...(x.helperName === null ? [] : [{ text: `With ${x.helperName}`, fontSize: 8 }]),
        ],
      },
      { text: `${j.area}\nleave ${at(x.leaves)}` },
      {
        stack: [
          ...j.work.permissions,
          ...(j.wish.holds ?? []).map((h) => `Hold: ${h.role}, after ${h.at} min`),
        ].map((text) => ({ text: `${box} ${text}`, fontSize: 8 })),
      },
      { text: `${box} done\n${box} stopped:`, fontSize: 8 },
    ]
  })
  return [
    {
      text: `${p.name}, ${sayDayAs(d.day, d.stationery.dates)}`,
      fontSize: 17,
      bold: true,
      margin: [0, 0, 0, 2],
      ...(isFirst ? {} : { pageBreak: 'before' }),
    },
    { text: `${p.there}. ${d.made}` },
    heading('Jobs'),
    p.placings.length === 0
      ? { text: 'Nothing is planned.' }
      : {
          layout: rule,
          table: {
            headerRows: 1,
            dontBreakRows: true,
            widths: [38, '*', 82, 128, 58],
            body: [['Time', 'Job', 'Place', 'Before it begins', 'After'].map(head), ...rows],
          },
        },
    heading('To pack'),
    p.pack.length === 0
      ? { text: 'Nothing but the usual tools.' }
      : {
          layout: rule,
          table: {
            widths: ['*', '*'],
            body: p.pack.map((k): TableCell[] => [`${box} ${k.what}`, { text: k.for, fontSize: 8 }]),
          },
        },
    ...(d.cautions.length === 0
      ? []
      : [heading('Mind'), { ul: d.cautions.map((text) => ({ text, fontSize: 8 })) } as Content]),
    {
      text: 'Calm Loop advises. Local codes, permits, the device’s manual and licensed practice decide.',
      fontSize: 7.5,
      margin: [0, 8, 0, 0],
    },
  ]
}

/** A day on paper, one page a person: order, tag, place, hold points, kit; black on white. */
export async function dayPdf(d: DaySheetData): Promise<Buffer> {
  return pdfLibrary()
    .createPdf(
      printed(
        {
          ...d,
          runId: d.day,
          stands: `plan of ${d.day}`,
          document: { tag: d.day, service: 'Day sheet' },
        },
        `Day sheet ${d.day}`,
        null,
        d.people.flatMap((p, i) => pageOf(d, p, i === 0)),
      ),
    )
    .getBuffer()
}
