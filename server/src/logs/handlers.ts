import { logs } from '@calm/contract/api/addresses'
import type { Clock } from '../clock.ts'
import type { Connection } from '../db/connection.ts'
import { progressTeller } from '../http/live.ts'
import { bind, type Bound } from '../http/endpoint.ts'
import { conflict, wrongValues } from '../http/problems.ts'
import { loopDetail, loopIdOf } from '../loops/store.ts'
import { logPlotSvg, type LogPlotLine } from '../reports/log-plot.ts'
import { printLog } from '../reports/work.ts'
import { stationeryOf } from '../reports/stationery.ts'
import { logCompare } from './compare.ts'
import { logJudge } from './judgement.ts'
import type { Pool } from '../work/pool.ts'
import { resultOf } from '../work/result.ts'
import { fileOf, sendCsv, sendParts } from './csv.ts'
import { hashOfLog } from './samples.ts'
import { logReader } from './pieces.ts'
import { allLogs, beginLog, giveUpLog, keepLog, keptChannels, keptLogOf, logOf } from './store.ts'
import { logViews } from './view.ts'

/** Upright strokes across a page. */
const PRINTED_STROKES = 700

/** Measured logs of the loops: read in by pieces, drawn, judged, compared. */
export function logHandlers(
  connection: Connection,
  pool: Pool,
  clock: Clock,
  room: () => Promise<void>,
): Bound[] {
  const { db } = connection
  const views = logViews(connection.pool)
  const judge = logJudge(connection, pool, views)
  const compare = logCompare(connection, pool, judge)
  const addPiece = logReader(db, pool)
  const inside = (channel: number, channels: number, path = 'channel') => {
    if (channel >= channels) throw wrongValues([{ path, says: `The log has ${channels} channels, from 0.` }])
    return channel
  }
  const channelIn = (log: { channels: readonly unknown[] }, channel: number, path?: string) =>
    inside(channel, log.channels.length, path)
  /** The channel that is printed, then the lines beside it, in one stretch. */
  async function linesOf(
    loopId: string,
    id: string,
    q: {
      readonly channel: number
      readonly from: number
      readonly to: number
      readonly beside?: readonly { readonly log: string; readonly channel: number }[] | undefined
    },
  ): Promise<LogPlotLine[]> {
    const lines: LogPlotLine[] = []
    for (const line of [{ log: id, channel: q.channel }, ...(q.beside ?? [])]) {
      const log = lines.find((l) => l.log.id === line.log)?.log ?? (await keptLogOf(db, loopId, line.log))
      const channel = channelIn(log, line.channel, lines.length === 0 ? 'channel' : 'beside')
      lines.push({ log, channel, view: await views.view(log.id, channel, q.from, q.to, PRINTED_STROKES) })
    }
    return lines
  }
  return [
    bind(logs.list, () => allLogs(db)),
    bind(logs.begin, async ({ params, body, person }) =>
      beginLog(db, await loopIdOf(db, params.loop), body, person, clock()),
    ),
    bind(logs.one, async ({ params }) => logOf(db, await loopIdOf(db, params.loop), params.log)),
    bind(logs.piece, async ({ params, body }) => {
      await room()
      return addPiece(await loopIdOf(db, params.loop), params.log, body)
    }),
    bind(logs.keep, async ({ params, body, person }) =>
      keepLog(db, await loopIdOf(db, params.loop), params.log, body.at, person, clock()),
    ),
    bind(logs.giveUp, async ({ params }) => {
      await giveUpLog(db, await loopIdOf(db, params.loop), params.log)
      return null
    }),
    bind(logs.view, async ({ params, query }) => {
      const channels = await keptChannels(db, params.loop, params.log)
      return views.view(params.log, inside(query.channel, channels), query.from, query.to, query.width)
    }),
    bind(logs.judgement, async ({ params, query, gone }) => {
      const loopId = await loopIdOf(db, params.loop)
      const log = await keptLogOf(db, loopId, params.log)
      channelIn(log, query.channel)
      const tell = query.byParts === undefined ? undefined : progressTeller(db, loopId)
      return judge(loopId, log, query, gone, tell)
    }),
    bind(logs.report, async ({ params, query, res, gone }) => {
      const loopId = await loopIdOf(db, params.loop)
      const { document } = await loopDetail(db, loopId)
      const [main, ...beside] = await linesOf(loopId, params.log, query)
      if (!main) throw conflict('This log has no such channel.')
      const partOf = async ({ log, channel, view }: LogPlotLine) => ({
        ...{ log, channel, view },
        judgement: await judge(loopId, log, { ...query, channel }, gone),
        sha256: await hashOfLog(db, log.id),
      })
      const behind = []
      for (const line of beside) behind.push(await partOf(line))
      const pdf = resultOf(
        await pool.run(
          printLog,
          {
            stationery: await stationeryOf(db),
            document: { tag: document.tag, service: document.service },
            ...(await partOf(main)),
            beside: behind,
          },
          { signal: gone },
        ),
      )
      if (!pdf) throw conflict('This report takes too long to print: choose a shorter stretch.')
      res
        .attachment(`${fileOf(main.log)}.pdf`)
        .type('application/pdf')
        .send(Buffer.from(pdf))
    }),
    bind(logs.plot, async ({ params, query, res, gone }) => {
      const loopId = await loopIdOf(db, params.loop)
      const { document } = await loopDetail(db, loopId)
      const { dates, sign } = await stationeryOf(db)
      const [main, ...beside] = await linesOf(loopId, params.log, query)
      if (!main) throw conflict('This log has no such channel.')
      const judgement = await judge(loopId, main.log, query, gone)
      res
        .attachment(`${fileOf(main.log)}.svg`)
        .type('image/svg+xml')
        .send(logPlotSvg({ dates, sign, document, ...main, judgement, beside }))
    }),
    bind(logs.compare, async ({ params, query, gone }) => {
      const loopId = await loopIdOf(db, params.loop)
      const [a, b] = [await keptLogOf(db, loopId, params.log), await keptLogOf(db, loopId, query.with)]
      const units = [
        a.channels[channelIn(a, query.channel)]?.unit ?? null,
        b.channels[channelIn(b, query.withChannel, 'withChannel')]?.unit ?? null,
      ]
      const [unit, other] = units
      if (!unit || !other)
        throw wrongValues([
          {
            path: unit ? 'withChannel' : 'channel',
            says: 'This channel has no unit: it cannot be compared.',
          },
        ])
      return compare(
        loopId,
        {
          ...query,
          a: { log: a, channel: query.channel, unit },
          b: { log: b, channel: query.withChannel, unit: other },
        },
        gone,
        progressTeller(db, loopId),
      )
    }),
    bind(logs.samples, async ({ params, query, res, gone }) => {
      const log = await keptLogOf(db, await loopIdOf(db, params.loop), params.log)
      await sendCsv(connection.pool, log, query, res, gone)
    }),
    bind(logs.parts, async ({ params, query, res, gone }) => {
      const log = await keptLogOf(db, await loopIdOf(db, params.loop), params.log)
      await sendParts(connection.pool, log, query, res, gone)
    }),
  ]
}
