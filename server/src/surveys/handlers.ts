import { surveys } from '@calm/contract/api/addresses'
import type { Clock } from '../clock.ts'
import type { Connection } from '../db/connection.ts'
import { bind, type Bound } from '../http/endpoint.ts'
import { conflict } from '../http/problems.ts'
import { loopIdOf } from '../loops/store.ts'
import { pictureBytes } from '../notes/pictures.ts'
import { stationeryOf } from '../reports/stationery.ts'
import { printSurvey } from '../reports/work.ts'
import type { Pool } from '../work/pool.ts'
import { resultOf } from '../work/result.ts'
import { keepSite } from './keep-site.ts'
import { logOfSite } from './log-of-site.ts'
import { surveyKept, surveysKept } from './standing.ts'

/** Surveys: places on several loops, each in the record of its own. */
export function surveyHandlers(connection: Connection, pool: Pool, clock: Clock): Bound[] {
  const { db } = connection
  return [
    bind(surveys.list, async () =>
      (await surveysKept(db)).map(({ sites, ...head }) => ({
        ...head,
        sites: sites.map(({ tag, site, state, byName, at, found }) => ({
          ...{ tag, site, state, byName, at },
          name: String(found.values['site'] ?? ''),
        })),
      })),
    ),
    bind(surveys.one, async ({ params }) => (await surveysKept(db, params.survey))[0] ?? null),
    bind(surveys.keepSite, async ({ params, body, person, gone }) => ({
      stored: await keepSite(connection, pool, await loopIdOf(db, params.loop), body, person, clock(), gone),
    })),
    bind(surveys.logOfSite, async ({ params, gone }) =>
      logOfSite(connection, pool, await loopIdOf(db, params.loop), params.log, gone),
    ),
    bind(surveys.report, async ({ params, res, gone }) => {
      const survey = await surveyKept(db, params.survey)
      const pictures: Record<string, string> = {}
      for (const { sha256, type } of survey.sites.flatMap((s) => s.pictures)) {
        const data = await pictureBytes(db, sha256)
        if (data) pictures[sha256] = `data:${type};base64,${data.toString('base64')}`
      }
      const pdf = resultOf(
        await pool.run(
          printSurvey,
          { stationery: await stationeryOf(db), survey, pictures, printedAt: clock().toISOString() },
          { signal: gone },
        ),
      )
      if (!pdf) throw conflict('This report takes too long to print.')
      res
        .attachment(`Survey ${survey.on} ${survey.title.replace(/[^\w .-]+/g, '-')}.pdf`)
        .type('application/pdf')
        .send(Buffer.from(pdf))
    }),
  ]
}
