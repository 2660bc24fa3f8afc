import {
  ConfigurationDifferences,
  DeviceAnswer,
  DeviceBackup,
  DeviceOrder,
  DeviceView,
  KeepConfiguration,
  KeptConfiguration,
} from '@calm/contract/devices'
import { loadDifferences } from '@calm/core/device/configuration'
import { z } from 'zod'
import type { Clock } from '../clock.ts'
import type { Database } from '../db/connection.ts'
import { endpoint, EVERYONE, WORKERS, type Endpoint } from '../http/endpoint.ts'
import { loopIdOf } from '../loops/store.ts'
import { configurationDifferences, keepConfiguration, keptConfigurations } from './configurations.ts'
import type { DeviceLink } from './link.ts'
import { standInLink } from './store.ts'

const params = z.object({ loop: z.string().min(1).max(80) })

export const deviceRoutes = (db: Database, clock: Clock, link: DeviceLink = standInLink(db)): Endpoint[] => [
  endpoint({
    method: 'get',
    path: '/api/loops/:loop/device',
    summary: 'The stand-in device of a loop as it is now, with its last half minute or what came since',
    allow: EVERYONE,
    params,
    query: z.object({ since: z.coerce.number().optional() }),
    response: DeviceView,
    handle: async ({ params, query }) =>
      link.look(await loopIdOf(db, params.loop), clock().getTime(), query.since),
  }),
  endpoint({
    method: 'post',
    path: '/api/loops/:loop/device/commands',
    summary: 'Ask the device for something; sending twice is harmless',
    allow: WORKERS,
    params,
    body: DeviceOrder,
    response: DeviceAnswer,
    async handle({ params, body }) {
      const { answer, device } = await link.ask(await loopIdOf(db, params.loop), body, clock().getTime())
      return { ok: answer.ok, says: answer.says, device }
    },
  }),
  endpoint({
    method: 'get',
    path: '/api/loops/:loop/device/backup',
    summary: 'The configuration: all of it, or a copy for others without the characterization',
    allow: EVERYONE,
    params,
    query: z.object({ kind: z.enum(['backup', 'copy']).default('backup') }),
    response: DeviceBackup,
    async handle({ params, query }) {
      return link.backup(await loopIdOf(db, params.loop), query.kind, clock().getTime())
    },
  }),
  endpoint({
    method: 'post',
    path: '/api/loops/:loop/device/differences',
    summary: 'What loading a configuration would overwrite',
    allow: EVERYONE,
    params,
    body: DeviceBackup,
    response: z.object({
      changed: z.array(z.object({ key: z.string(), from: z.string(), to: z.string() })),
      otherSensor: z.boolean(),
    }),
    async handle({ params, body }) {
      const now = await link.backup(await loopIdOf(db, params.loop), 'backup', clock().getTime())
      const { settings, LRV, URV, kind } = body
      const told = Object.fromEntries(Object.entries(settings).filter(([, v]) => v !== undefined))
      const d = loadDifferences(now, { kind, LRV, URV, settings: told })
      return {
        otherSensor: d.otherSensor,
        changed: d.changed.map((c) => ({ key: c.key, from: String(c.from), to: String(c.to) })),
      }
    },
  }),
  endpoint({
    method: 'get',
    path: '/api/loops/:loop/configurations',
    summary: 'Configurations kept in the record, newest first',
    allow: EVERYONE,
    params,
    response: z.array(KeptConfiguration),
    handle: async ({ params }) => keptConfigurations(db, await loopIdOf(db, params.loop)),
  }),
  endpoint({
    method: 'post',
    path: '/api/loops/:loop/configurations',
    summary: 'Read the device and keep its configuration; sending twice is harmless',
    allow: WORKERS,
    params,
    body: KeepConfiguration,
    response: z.object({ stored: z.boolean() }),
    status: 201,
    async handle({ params, body, person }) {
      const loopId = await loopIdOf(db, params.loop)
      return { stored: await keepConfiguration(db, link, loopId, body, person, clock().getTime()) }
    },
  }),
  endpoint({
    method: 'get',
    path: '/api/loops/:loop/configurations/:id/differences',
    summary: 'A kept configuration against the device, the documents and the last verification',
    allow: EVERYONE,
    params: z.object({ ...params.shape, id: z.uuid() }),
    response: ConfigurationDifferences,
    handle: async ({ params }) =>
      configurationDifferences(db, link, await loopIdOf(db, params.loop), params.id, clock().getTime()),
  }),
]
