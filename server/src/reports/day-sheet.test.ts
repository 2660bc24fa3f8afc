import type { JobTold } from '@calm/contract/today'
import type { Paper } from '@calm/core/paper'
import { deskWork } from '@calm/core/today/usual-work'
import { expect, test } from 'vitest'
import { dayPdf, type DaySheetData, type DaySheetPerson } from './day-sheet.ts'
import { stationery } from '../test/stationery.ts'

const pages = (pdf: Buffer) => [...pdf.toString('latin1').matchAll(/\/Type \/Page\b/g)].length

const job = (n: number): JobTold => ({
  key: `${n}`,
  title: `FT-${100 + n} verify`,
  kind: 'verify',
  loop: {
    id: '11111111-1111-4111-8111-111111111111',
    tag: `FT-${100 + n}`,
    service: 'Raw water to filter 2',
  },
  area: '100 Intake',
  floor: n % 3,
  why: 'Its drift may leave the tolerance on 2026-12-19, before it would be due; bad in its last verification.',
  to: null,
  due: '2026-11-24',
  importance: 3,
  work: {
    ...deskWork('verify', 30),
    permissions: ['Permit to work', 'Loop in manual, protection bypassed by who is allowed to'],
  },
  after: [],
  does: null,
  since: null,
  wish: {
    holds: [{ at: 10, minutes: 5, role: 'shift lead' }],
    order: 'WO-2611-014',
    agreed: 'Told the control room',
  },
  minutes: 30,
  learntFrom: 0,
})
const dayOf = (jobs: number, kit: number): DaySheetPerson => ({
  name: 'Wren',
  there: 'There from 07:00 to 15:30',
  placings: Array.from({ length: jobs }, (_, i) => {
    const at = `2026-11-24T${String(Math.floor(i / 2)).padStart(2, '0')}:${i % 2 === 0 ? '00' : '30'}:00Z`
    return {
      job: `${i}`,
      person: '11111111-1111-4111-8111-111111111111',
      helper: null,
      helperName: null,
      instruments: [],
      start: at,
      end: at,
      leaves: at,
      day: '2026-11-24',
      locked: false,
      says: '',
      told: job(i),
    }
  }),
  cautions: ['Depressurise and vent before anything is opened.', 'Hot surfaces.'],
  pack: Array.from({ length: kit }, (_, i) => ({ what: `Pressure calibrator ${i}`, for: 'FT-101 verify' })),
})
const printed = (people: DaySheetPerson[], paper: Paper) => {
  const data: DaySheetData = {
    stationery: stationery(paper),
    day: '2026-11-24',
    zone: 'UTC',
    made: 'Planned by Heron.',
    people,
    callFor: { 'shift lead': 'Turnstone, 06:00 to 14:00' },
  }
  return dayPdf(data)
}

test.each<[string, number, number]>([
  ['an empty day', 0, 0],
  ['a usual day', 5, 6],
  ['a full day', 9, 14],
  ['as many as a shift holds', 12, 16],
])('%s is one page a person, on both papers', async (_, jobs, kit) => {
  const people = [dayOf(jobs, kit), dayOf(2, 3)]
  expect([pages(await printed(people, 'A4')), pages(await printed(people, 'letter'))]).toEqual([2, 2])
})
test('what no page holds goes on to the next one; nothing is left out', async () => {
  expect(pages(await printed([dayOf(40, 60)], 'A4'))).toBeGreaterThan(1)
})
