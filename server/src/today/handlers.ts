import { today } from '@calm/contract/api/addresses'
import { waitsForItself } from '@calm/core/today/day-problem'
import { jobMarked, presenceSaid, shiftNoted } from '@calm/core/record/plant-log/kinds/days'
import { wallOf } from '@calm/core/today/wall-time'
import type { Clock } from '../clock.ts'
import type { Database } from '../db/connection.ts'
import { bind, type Bound } from '../http/endpoint.ts'
import { conflict, notFound, wrongValues } from '../http/problems.ts'
import { allPeople } from '../people/store.ts'
import { stationeryOf } from '../reports/stationery.ts'
import { plantRules } from '../settings/store.ts'
import type { Pool } from '../work/pool.ts'
import { resultOf } from '../work/result.ts'
import { planTold, situationOf } from './day.ts'
import { keepEntry } from './entries.ts'
import { addJob, agreeJob, importJobs, jobsCsv, letGoJob } from './jobs-kept.ts'
import { daySheetOf, planCalendar } from './outward.ts'
import { makePlan, place, undoPlan } from './plans.ts'
import { pack } from './pack.ts'
import { changePlantAtWork, plantAtWork } from './plant.ts'
import { weigher } from './weigh.ts'
import { printDay } from './work.ts'

/** Jobs, plans of days, the kit, and what became of it. */
export function todayHandlers(db: Database, pool: Pool, clock: Clock): Bound[] {
  const weigh = weigher(pool)
  interface Asked {
    readonly day?: string | undefined
    readonly days: number
  }
  const situation = (q: Asked) => situationOf(db, q.day ?? null, q.days, clock())
  const told = async (q: Asked, gone: AbortSignal) => planTold(db, weigh, await situation(q), gone)
  /** @throws HttpProblem 404 */
  const jobNamed = async (key: string, day?: string) => {
    const s = await situationOf(db, day ?? null, 7, clock())
    const job = [...s.jobs, ...s.gone].find((j) => j.key === key)
    if (!job) throw notFound('job')
    return job
  }
  return [
    bind(today.jobs, async ({ query }) => [...(await situation(query)).jobs]),
    bind(today.addJob, async ({ body: { id, ...job }, person }) => ({
      stored: await addJob(db, id, job, person, clock()),
    })),
    bind(today.changeJob, async ({ params, body, person }) => {
      const s = await situationOf(db, null, 7, clock())
      const job = await jobNamed(params.job)
      const wished = s.jobs.map((j) => (j.key === job.key ? { ...j, wish: body.wish } : j))
      if (waitsForItself(wished, job.key))
        throw wrongValues([{ path: 'wish.after', says: 'These jobs would wait for each other in a circle.' }])
      return { stored: await agreeJob(db, body.id, job, body.wish, person, clock()) }
    }),
    bind(today.letGo, async ({ params, body, person }) => ({
      stored: await letGoJob(db, body.id, params.job, body.reason, person, clock()),
    })),
    bind(today.importJobs, async ({ body, person }) => {
      const { dates } = await plantRules(db)
      const today = wallOf(clock().getTime(), dates.timeZone).day
      return importJobs(db, body.text, person, { today, zone: dates.timeZone }, clock())
    }),
    bind(today.jobsTable, async ({ query, res }) => {
      res
        .attachment('jobs.csv')
        .type('text/csv; charset=utf-8')
        .send(jobsCsv((await situation(query)).jobs))
    }),
    bind(today.plan, ({ query, gone }) => told(query, gone)),
    bind(today.makePlan, async ({ body, person, gone }) => {
      await makePlan(db, pool, body, person, clock(), gone)
      return told(body, gone)
    }),
    bind(today.place, async ({ body, person, gone }) => {
      await place(db, body, person, clock())
      return told(body, gone)
    }),
    bind(today.undo, async ({ body, person, gone }) => {
      await undoPlan(db, body, person, clock())
      return told(body, gone)
    }),
    bind(today.mark, async ({ body: { id, day, job, mark, reason }, person }) => {
      const { title } = await jobNamed(job, day)
      const noted = { kind: jobMarked, payload: { title, day, mark }, reason }
      return {
        stored: await db.transaction((tx) =>
          keepEntry(
            tx,
            { id, kind: 'mark', day, subject: job, payload: { mark, reason }, noted },
            person,
            clock(),
          ),
        ),
      }
    }),
    bind(today.pack, async ({ body, person }) => ({ stored: await pack(db, body, person, clock()) })),
    bind(today.presence, async ({ body: { id, person: whose, day, shift, usual, reason }, person }) => {
      const name = (await allPeople(db)).find((p) => p.id === whose)?.shownName
      if (name === undefined) throw notFound('person')
      const says = usual ? 'as usual' : shift ? `from ${shift.from} to ${shift.to}` : 'away'
      const noted = { kind: presenceSaid, payload: { person: name, day, says }, reason }
      const payload = { shift, usual, reason }
      return {
        stored: await db.transaction((tx) =>
          keepEntry(tx, { id, kind: 'presence', day, subject: whose, payload, noted }, person, clock()),
        ),
      }
    }),
    bind(today.note, async ({ body: { id, day, area, says }, person }) => ({
      stored: await db.transaction((tx) =>
        keepEntry(
          tx,
          {
            ...{ id, kind: 'note' as const, day, subject: day },
            payload: { area, says },
            noted: { kind: shiftNoted, payload: { day } },
          },
          person,
          clock(),
        ),
      ),
    })),
    bind(today.plant, () => plantAtWork(db)),
    bind(today.changePlant, ({ body, person }) =>
      changePlantAtWork(db, body.plant, body.reason, person.id, clock()),
    ),
    bind(today.daySheet, async ({ query, res, gone }) => {
      const plan = await told(query, gone)
      const data = daySheetOf(plan, query.person, await stationeryOf(db), (await plantAtWork(db)).holders)
      if (data.people.length === 0) throw conflict('Nobody is there on this day: there is nothing to print.')
      const pdf = resultOf(await pool.run(printDay, data, { signal: gone }))
      if (!pdf) throw conflict('This day takes too long to print.')
      res.attachment(`day ${plan.day}.pdf`).type('application/pdf').send(Buffer.from(pdf))
    }),
    bind(today.calendar, async ({ query, res, gone }) => {
      const plan = await told(query, gone)
      res
        .attachment(`plan ${plan.day}.ics`)
        .type('text/calendar; charset=utf-8')
        .send(planCalendar(plan, query, clock()))
    }),
  ]
}
