import { sensors } from '@calm/contract/api/addresses'
import type { Clock } from '../clock.ts'
import type { Database } from '../db/connection.ts'
import { bind, type Bound } from '../http/endpoint.ts'
import { allSensors, saveSensor, sensorHistory } from './store.ts'

/** Sensors of the plant as things. */
export const sensorHandlers = (db: Database, clock: Clock): Bound[] => [
  bind(sensors.list, () => allSensors(db, clock())),
  bind(sensors.save, ({ params, body, person }) => saveSensor(db, params.sensor, body, person, clock())),
  bind(sensors.revisions, ({ params }) => sensorHistory(db, params.sensor)),
]
