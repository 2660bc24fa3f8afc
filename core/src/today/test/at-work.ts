import { defaultPath } from '../../loop/default-path.ts'
import { LoopDocument } from '../../loop/document.ts'
import { factsOf } from '../../loop/facts.ts'
import { PARTS } from '../../loop/parts.ts'
import type { DayFacts, PlannedJob } from '../day-problem.ts'
import type { LoopAtWork } from '../from-loop.ts'
import { UNTIL_SAID, type PlantAtWork } from '../plant-at-work.ts'
import { deskWork } from '../usual-work.ts'

/** A pressure loop with a range and a tolerance in percent of its span. */
export const pressureLoop = (low: number, high: number, unit: string, pctSpan: number) =>
  LoopDocument.parse({
    version: 4,
    tag: 'PT-1',
    service: 'Feed',
    area: 'Membranes',
    type: 'pressure',
    signal: '4-20 mA',
    family: 'pressure',
    path: defaultPath({ transmitter: { low, high, unit }, squareRoot: false, receiver: { low, high, unit } }),
    wiring: null,
    setUp: null,
    trips: [],
    toKeyIn: [],
    tolerance: { mode: 'max', pctSpan, pctReading: 0, abs: 0 },
    interval_months: 12,
    lastCalibrated: null,
    remark: '',
    asTyped: {},
    unconfirmed: [],
  })

/** A loop of which the record asks nothing, but for what is told. */
export const atWork = (over: Partial<LoopAtWork>): LoopAtWork => ({
  id: '11111111-1111-4111-8111-111111111111',
  tag: 'PT-1',
  service: 'Feed',
  area: 'Membranes',
  floor: 0,
  due: null,
  lastCalibrated: null,
  dueNow: null,
  leavesOn: null,
  parts: Object.fromEntries(PARTS.map((p) => [p, 'good'])) as LoopAtWork['parts'],
  open: null,
  toKeyIn: 0,
  readBack: null,
  facts: factsOf(pressureLoop(0, 10, 'bar(g)', 0.5)),
  context: null,
  ...over,
})

export const WREN = {
  id: 'aaaaaaaa-aaaa-4aaa-8aaa-aaaaaaaaaaaa',
  name: 'Wren',
  role: 'technician',
  areas: [],
  areaRoles: {},
} as const
export const DUNLIN = {
  id: 'bbbbbbbb-bbbb-4bbb-8bbb-bbbbbbbbbbbb',
  name: 'Dunlin',
  role: 'technician',
  areas: [],
  areaRoles: {},
} as const
export const PLANT: PlantAtWork = {
  ...UNTIL_SAID,
  walk: [
    { a: 'Workshop', b: 'Membranes', minutes: 6 },
    { a: 'Workshop', b: 'Intake', minutes: 14 },
  ],
  holders: [{ role: 'shift lead', name: 'Turnstone', from: '06:00', to: '14:00' }],
}

export const planned = (title: string, over: Partial<PlannedJob> = {}): PlannedJob => ({
  key: `key of ${title}`,
  title,
  kind: 'byHand',
  loop: null,
  area: 'Membranes',
  floor: 0,
  why: '',
  to: null,
  due: '2026-11-24',
  importance: 3,
  work: deskWork('a job', 30),
  after: [],
  does: null,
  since: null,
  wish: {},
  minutes: 30,
  ...over,
})
/** A Tuesday, before anybody is there. */
export const facts = (over: Partial<DayFacts> = {}): DayFacts => ({
  now: Date.parse('2026-11-24T04:00Z'),
  day: '2026-11-24',
  days: 1,
  zone: 'UTC',
  plant: PLANT,
  presences: [],
  people: [WREN, DUNLIN],
  jobs: [planned('A')],
  instruments: [],
  locked: [],
  told: [],
  busy: [],
  ...over,
})
