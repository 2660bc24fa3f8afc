import { loadDifferences } from '@calm/core/device/configuration'
import type { Clock } from '../clock.ts'
import type { Database } from '../db/connection.ts'
import { devices } from '@calm/contract/api/addresses'
import { bind, type Bound } from '../http/endpoint.ts'
import { loopIdOf } from '../loops/store.ts'
import { configurationDifferences, keepConfiguration, keptConfigurations } from './configurations.ts'
import type { DeviceLink } from './link.ts'

export const deviceHandlers = (db: Database, clock: Clock, link: DeviceLink): Bound[] => [
  bind(devices.look, async ({ params, query }) =>
    link.look(await loopIdOf(db, params.loop), clock().getTime(), query.since),
  ),
  bind(devices.ask, async ({ params, body }) => {
    const { answer, device } = await link.ask(await loopIdOf(db, params.loop), body, clock().getTime())
    return { ok: answer.ok, says: answer.says, device }
  }),
  bind(devices.backup, async ({ params, query }) => {
    return link.backup(await loopIdOf(db, params.loop), query.kind, clock().getTime())
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
