import { z } from 'zod'
import { Log, LogComparison, LogJudgement, LogView, NewLog, NewPiece } from '../logs.ts'
import { logs } from './addresses.ts'
import { EVERYONE, WORKERS, type Endpoint } from './endpoint.ts'
import { ofLoop } from './of-loop.ts'

const ofLog = ofLoop.extend({ log: z.uuid('A log has another address.') })
const instant = z.coerce.number().min(-8.64e15).max(8.64e15)
const channel = z.coerce.number().int().min(0).max(59).default(0)
const Stretch = z.object({ channel, from: instant, to: instant })
const inOrder = { path: ['to'], message: 'The end must lie behind the beginning.' }
const isInOrder = (q: { readonly from: number; readonly to: number }) => q.from < q.to

/** Other lines of the loop's logs in the same stretch: each log's identifier, a dot, and the channel; by commas. */
const Beside = z
  .string()
  .regex(
    /^[0-9a-f-]{36}\.\d{1,3}(,[0-9a-f-]{36}\.\d{1,3}){0,3}$/,
    'Up to four lines, each the log, a dot and its channel, by commas.',
  )
  .transform((text) =>
    text.split(',').map((line) => {
      const [log = '', channel = ''] = line.split('.')
      return { log, channel: Number(channel) }
    }),
  )

export const logsApi = {
  [logs.list]: {
    says: 'Logs of all loops, the newest first',
    allow: EVERYONE,
    answer: z.array(Log),
  },
  [logs.begin]: {
    says: 'Begin to read in a log; sending twice is harmless',
    allow: WORKERS,
    params: ofLoop,
    body: NewLog,
    answer: Log,
    status: 201,
    problems: ['not-found', 'conflict'],
  },
  [logs.one]: {
    says: 'A log, and how far it is read in',
    allow: EVERYONE,
    params: ofLog,
    answer: Log,
    problems: ['not-found'],
  },
  [logs.piece]: {
    says: 'The next lines of a log; the same piece again changes nothing',
    allow: WORKERS,
    params: ofLog,
    body: NewPiece,
    largest: '5mb',
    answer: Log,
    problems: ['not-found', 'conflict'],
  },
  [logs.keep]: {
    says: 'The log is whole: it goes into the record of its loop',
    allow: WORKERS,
    params: ofLog,
    body: z.strictObject({ at: z.iso.datetime() }),
    answer: Log,
    problems: ['not-found', 'conflict'],
  },
  [logs.giveUp]: {
    says: 'Give up reading in a log: nothing of it stays',
    allow: WORKERS,
    params: ofLog,
    status: 204,
    answer: z.null(),
    problems: ['not-found', 'conflict'],
  },
  [logs.view]: {
    says: 'A stretch of a log as wide as it is drawn: true minimum and maximum of each pixel',
    allow: EVERYONE,
    params: ofLog,
    query: Stretch.extend({ width: z.coerce.number().int().min(1).max(4000) }).refine(isInOrder, inOrder),
    answer: LogView,
    problems: ['not-found', 'conflict'],
  },
  [logs.judgement]: {
    says: 'What a stretch of a log amounts to, and what it has',
    allow: EVERYONE,
    params: ofLog,
    query: Stretch.extend({
      spikeK: z.coerce.number().min(3).max(1000).optional(),
      /** Judges also what is too long to be judged at once, part by part: it takes a while. */
      byParts: z.literal('true').optional(),
    }).refine(isInOrder, inOrder),
    answer: LogJudgement,
    problems: ['not-found', 'conflict'],
  },
  [logs.compare]: {
    says: 'Two logs of one quantity: lag, difference, line, and where both stand still',
    allow: EVERYONE,
    params: ofLog,
    query: Stretch.extend({
      with: z.uuid(),
      withChannel: channel,
      maxLag: z.coerce.number().min(0).max(86_400).default(60),
      Ua: z.coerce.number().min(0).default(0),
      Ub: z.coerce.number().min(0).default(0),
    }).refine(isInOrder, inOrder),
    answer: LogComparison,
    problems: ['not-found', 'conflict'],
  },
  [logs.report]: {
    says: 'A stretch of a log on paper: seen, judged, in numbers, and other lines behind it',
    allow: EVERYONE,
    params: ofLog,
    query: Stretch.extend({ beside: Beside.optional() }).refine(isInOrder, inOrder),
    answer: 'application/pdf',
    problems: ['not-found', 'conflict'],
  },
  [logs.plot]: {
    says: 'The plot of a stretch as a drawing, with other lines under it',
    allow: EVERYONE,
    params: ofLog,
    query: Stretch.extend({ beside: Beside.optional() }).refine(isInOrder, inOrder),
    answer: 'image/svg+xml',
    problems: ['not-found', 'conflict'],
  },
  [logs.samples]: {
    says: 'A stretch of a log as CSV',
    allow: EVERYONE,
    params: ofLog,
    query: z.object({ from: instant, to: instant }).refine(isInOrder, inOrder),
    answer: 'text/csv',
    problems: ['not-found', 'conflict'],
  },
  [logs.parts]: {
    says: 'A stretch of a log as several CSV of at most so many rows, in one archive',
    allow: EVERYONE,
    params: ofLog,
    query: z
      .object({ from: instant, to: instant, rows: z.coerce.number().int().min(1000).max(1_000_000) })
      .refine(isInOrder, inOrder),
    answer: 'application/zip',
    problems: ['not-found', 'conflict'],
  },
} as const satisfies Readonly<Record<string, Endpoint>>
