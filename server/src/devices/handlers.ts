import { deviceAsked } from '@calm/core/record/plant-log/kinds/plant'
import { loadDifferences } from '@calm/core/device/configuration'
import type { Clock } from '../clock.ts'
import type { Database } from '../db/connection.ts'
import { devices } from '@calm/contract/api/addresses'
import type { Response } from 'express'
import { isoInstant } from '../db/time.ts'
import { conflict } from '../http/problems.ts'
import { note } from '../plant-log/note.ts'
import { newestDocument } from '../record/documents.ts'
import { csvOf } from '../reports/csv.ts'
import { memoryAgainstSheet, serviceTable } from './files.ts'
import { bind, type Bound } from '../http/endpoint.ts'
import { identifierOf, loopIdOf } from '../loops/store.ts'
import { configurationDifferences, keepConfiguration, keptConfigurations } from './configurations.ts'
import { keepMemory } from './memory-kept.ts'
import type { Pool } from '../work/pool.ts'
import type { DeviceLink } from './link.ts'

const sendCsv = (res: Response, name: string, text: string) =>
  res.attachment(name).type('text/csv; charset=utf-8').send(text)
const LONGEST_NOTE = 280
/** The lines that were keyed in, as far as a note has room. */
function sayKeyedIn(lines: Readonly<Record<string, string>>): string {
  const all = `Keyed in: ${Object.entries(lines)
    .map(([line, value]) => `${line} ${value}`)
    .join('; ')}.`
  return all.length <= LONGEST_NOTE ? all : `${all.slice(0, LONGEST_NOTE)} …`
}

export const deviceHandlers = (db: Database, pool: Pool, clock: Clock, link: DeviceLink): Bound[] => [
  bind(devices.look, async ({ params, query, res }) => {
    // A few samples, every second: to make them smaller takes longer than to send them.
    res.setHeader('Cache-Control', 'no-store, no-transform')
    return link.look(await identifierOf(db, params.loop), clock().getTime(), query.since)
  }),
  bind(devices.ask, async ({ params, body, person }) => {
    const loopId = await loopIdOf(db, params.loop)
    const now = clock()
    const { answer, device } = await link.ask(loopId, body, now.getTime())
    const { kind } = body.command
    const payload = { tag: params.loop, command: kind, answer: answer.says.slice(0, 300), ok: answer.ok }
    await note(db, { kind: deviceAsked, payload, by: person.id, subject: loopId }, now)
    // What is keyed in changes what it measures: the record has it under the name of who did it, however often it is sent.
    if (answer.ok && body.command.kind === 'keyIn') {
      const note = sayKeyedIn(body.command.lines)
      const kept = { id: body.id, at: isoInstant(now), note }
      await keepConfiguration(db, link, loopId, kept, person, now.getTime())
    }
    return { ok: answer.ok, says: answer.says, device }
  }),
  bind(devices.backup, async ({ params, query }) => {
    return link.backup(await loopIdOf(db, params.loop), query.kind, clock().getTime())
  }),
  bind(devices.ports, async ({ params }) => link.ports(await loopIdOf(db, params.loop), clock().getTime())),
  bind(devices.linkTest, async ({ params, query }) =>
    link.linkTest(await loopIdOf(db, params.loop), query.port, clock().getTime()),
  ),
  bind(devices.memory, async ({ params }) => {
    const loopId = await loopIdOf(db, params.loop)
    const device = await link.configuration(loopId, clock().getTime())
    if (!device) throw conflict('No link to the device: connect first, then read what it holds.')
    return memoryAgainstSheet(await newestDocument(db, loopId), device)
  }),
  bind(devices.keepMemory, async ({ params, body, person }) =>
    keepMemory(db, link, await loopIdOf(db, params.loop), body, person, clock()),
  ),
  bind(devices.history, async ({ params, res, gone }) => {
    const loopId = await loopIdOf(db, params.loop)
    const text = await link.history(loopId, clock().getTime(), pool, gone)
    if (text === null) throw conflict('No readings were fetched from the device yet.')
    const { tag } = await newestDocument(db, loopId)
    sendCsv(res, `${tag}-history-simulated.csv`, text)
  }),
  bind(devices.service, async ({ params, query, res }) => {
    const loopId = await loopIdOf(db, params.loop)
    const files = await link.service(loopId, clock().getTime())
    const { tag } = await newestDocument(db, loopId)
    sendCsv(res, `${tag}-${query.file}-simulated.csv`, csvOf(serviceTable(files, query.file)))
  }),
  bind(devices.compare, async ({ params, body }) => {
    const now = await link.backup(await loopIdOf(db, params.loop), 'backup', clock().getTime())
    const { settings, LRV, URV, kind } = body
    const d = loadDifferences(now, { kind, LRV, URV, settings })
    return {
      otherSensor: d.otherSensor,
      changed: d.changed.map((c) => ({ key: c.key, from: String(c.from), to: String(c.to) })),
    }
  }),
  bind(devices.configurations, async ({ params }) => keptConfigurations(db, await loopIdOf(db, params.loop))),
  bind(devices.keep, async ({ params, body, person }) => {
    const loopId = await loopIdOf(db, params.loop)
    return { stored: await keepConfiguration(db, link, loopId, body, person, clock().getTime()) }
  }),
  bind(devices.differences, async ({ params }) =>
    configurationDifferences(db, link, await loopIdOf(db, params.loop), params.id, clock().getTime()),
  ),
]
