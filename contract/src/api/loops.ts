import { QUARTER_LEVELS } from '@calm/core/scale/pocket-card'
import { z } from 'zod'
import { NewDiagnosis } from '../diagnoses.ts'
import { CircuitReadings, KeepCircuitReadings } from '../circuit-readings.ts'
import { KeepReadBack, SettingsReadBack } from '../read-back.ts'
import { NewNote } from '../notes.ts'
import { KeepSum } from '../sums.ts'
import { LoopHistory } from '../drift.ts'
import { ChainProofSchema, NewEvents, RunInfo, StoredEvent } from '../events.ts'
import { ChangeSeveral, LoopDetail, LoopRow, NewLoop, Revision, SaveRevision } from '../loops.ts'
import { WithReason } from '../people.ts'
import { loops } from './addresses.ts'
import { EVERYONE, PLANNERS, WORKERS, type Endpoint } from './endpoint.ts'
import { ofLoop } from './of-loop.ts'
import { LabelsAsked, LoopsAsked, Since } from './page.ts'

const MOST_LEVELS = 50
const LOWEST_PCT = -10
const HIGHEST_PCT = 110
/** Levels in percent of range, separated by commas; the quarter points where none are given. */
const CardLevels = z.object({
  levels: z
    .string()
    .max(400)
    .default(QUARTER_LEVELS.join(','))
    .transform((text) => text.split(',').map((x) => Number(x.trim())))
    .refine(
      (list) =>
        list.length <= MOST_LEVELS &&
        list.every((x) => Number.isFinite(x) && x >= LOWEST_PCT && x <= HIGHEST_PCT),
      { message: 'Up to 50 levels between −10 and 110 %, separated by commas.' },
    ),
})

export const loopsApi = {
  [loops.list]: {
    says: 'The plant’s loops by area, whole or a part of the list; those in use, or the archived ones',
    allow: EVERYONE,
    query: LoopsAsked,
    answer: z.array(LoopRow),
  },
  [loops.add]: {
    says: 'Add a loop',
    allow: WORKERS,
    byArea: true,
    body: NewLoop,
    answer: LoopDetail,
    status: 201,
    problems: ['conflict'],
  },
  [loops.several]: {
    says: 'Change area, floor, assignee, interval or tolerance of several loops, all or none; each gets a revision',
    allow: PLANNERS,
    byArea: true,
    body: ChangeSeveral,
    answer: z.object({ changed: z.int(), same: z.int() }),
    problems: ['conflict', 'not-found'],
  },
  [loops.labels]: {
    says: 'Labels of tags as sheets to be cut: a scanned one opens its loop',
    allow: EVERYONE,
    query: LabelsAsked,
    answer: 'application/pdf',
    problems: ['conflict'],
  },
  [loops.archive]: {
    says: 'Take a loop out of use; its record stays and nothing is added to it',
    allow: WORKERS,
    params: ofLoop,
    body: WithReason,
    answer: LoopDetail,
    problems: ['not-found', 'conflict'],
  },
  [loops.bringBack]: {
    says: 'Take an archived loop into use again',
    allow: WORKERS,
    params: ofLoop,
    body: WithReason,
    answer: LoopDetail,
    problems: ['not-found', 'conflict'],
  },
  [loops.one]: {
    says: 'One loop by tag or identifier',
    allow: EVERYONE,
    params: ofLoop,
    answer: LoopDetail,
    problems: ['not-found'],
  },
  [loops.save]: {
    says: 'Save a new revision',
    allow: WORKERS,
    params: ofLoop,
    body: SaveRevision,
    answer: LoopDetail,
    problems: ['not-found', 'conflict'],
  },
  [loops.revisions]: {
    says: 'All revisions, newest first',
    allow: EVERYONE,
    params: ofLoop,
    answer: z.array(Revision),
    problems: ['not-found'],
  },
  [loops.events]: {
    says: 'Everything recorded of the loop, in order, or since an event',
    allow: EVERYONE,
    params: ofLoop,
    query: Since,
    answer: z.array(StoredEvent),
    problems: ['not-found'],
  },
  [loops.record]: {
    says: 'Record what happened; sending twice is harmless',
    allow: WORKERS,
    params: ofLoop,
    body: NewEvents,
    answer: z.object({ accepted: z.int() }),
    problems: ['not-found', 'conflict'],
  },
  [loops.runs]: {
    says: 'Verifications and procedures of the loop, newest first',
    allow: EVERYONE,
    params: ofLoop,
    answer: z.array(RunInfo),
    problems: ['not-found'],
  },
  [loops.proof]: {
    says: 'Proof that the record is complete and unchanged',
    allow: EVERYONE,
    params: ofLoop,
    answer: ChainProofSchema,
    problems: ['not-found'],
  },
  [loops.wiring]: {
    says: 'The wiring as a drawing to hand over, SVG',
    allow: EVERYONE,
    params: ofLoop,
    answer: 'image/svg+xml',
    problems: ['not-found', 'conflict'],
  },
  [loops.wiringPaper]: {
    says: 'The wiring as a drawing to hand over, on one sheet',
    allow: EVERYONE,
    params: ofLoop,
    answer: 'application/pdf',
    problems: ['not-found', 'conflict'],
  },
  [loops.settingsSheet]: {
    says: 'The settings sheet as saved, to be keyed in by',
    allow: EVERYONE,
    params: ofLoop,
    answer: 'application/pdf',
    problems: ['not-found', 'conflict'],
  },
  [loops.pocketCard]: {
    says: 'Every station at chosen levels, on one small page',
    allow: EVERYONE,
    params: ofLoop,
    query: CardLevels,
    answer: 'application/pdf',
    problems: ['not-found'],
  },
  [loops.pocketCardTable]: {
    says: 'Every station at chosen levels, as CSV',
    allow: EVERYONE,
    params: ofLoop,
    query: CardLevels,
    answer: 'text/csv',
    problems: ['not-found'],
  },
  [loops.drift]: {
    says: 'Errors of a loop over its verifications, by level',
    allow: EVERYONE,
    params: ofLoop,
    answer: LoopHistory,
    problems: ['not-found'],
  },
  [loops.diagnose]: {
    says: 'Record where an error comes in; sending twice is harmless',
    allow: WORKERS,
    params: ofLoop,
    body: NewDiagnosis,
    answer: z.object({ stored: z.boolean() }),
    status: 201,
    problems: ['not-found', 'conflict'],
  },
  [loops.keepReadings]: {
    says: 'Judge what was read at the test points by the saved wiring, and keep it; sending twice is harmless',
    allow: WORKERS,
    params: ofLoop,
    body: KeepCircuitReadings,
    answer: CircuitReadings,
    status: 201,
    problems: ['not-found', 'conflict'],
  },
  [loops.keepReadBack]: {
    says: 'Compare what a device shows with the settings sheet, and keep it; sending twice is harmless',
    allow: WORKERS,
    params: ofLoop,
    body: KeepReadBack,
    answer: SettingsReadBack,
    status: 201,
    problems: ['not-found', 'conflict'],
  },
  [loops.keepNote]: {
    says: 'Keep a note with its pictures in the record; sending twice is harmless',
    allow: WORKERS,
    params: ofLoop,
    body: NewNote,
    largest: '5mb',
    answer: z.object({ stored: z.boolean() }),
    status: 201,
    problems: ['not-found', 'conflict'],
  },
  [loops.picture]: {
    says: 'A picture of a note, by its SHA-256',
    allow: EVERYONE,
    params: ofLoop.extend({ picture: z.string().regex(/^[0-9a-f]{64}$/, 'A SHA-256.') }),
    answer: 'image/jpeg',
    problems: ['not-found'],
  },
  [loops.keepSum]: {
    says: 'Do a quick sum and keep it in the record; sending twice is harmless',
    allow: WORKERS,
    params: ofLoop,
    body: KeepSum,
    answer: z.object({ stored: z.boolean() }),
    status: 201,
    problems: ['not-found', 'conflict'],
  },
} as const satisfies Readonly<Record<string, Endpoint>>
