import { z } from 'zod'
import { SaveSensor, Sensor, SensorRevision } from '../sensors.ts'
import { sensors } from './addresses.ts'
import { EVERYONE, WORKERS, type Endpoint } from './endpoint.ts'

const params = z.object({ sensor: z.uuid('Not the identifier of a sensor.') })

export const sensorsApi = {
  [sensors.list]: {
    says: 'Sensors of the plant as things: clamp-on pairs, probes with their nozzles, pH sensors, kits',
    allow: EVERYONE,
    answer: z.array(Sensor),
  },
  [sensors.save]: {
    says: 'Add a sensor, or describe one anew',
    allow: WORKERS,
    params,
    body: SaveSensor,
    answer: Sensor,
    problems: ['conflict'],
  },
  [sensors.revisions]: {
    says: 'Every description that a sensor had, the newest first',
    allow: EVERYONE,
    params,
    answer: z.array(SensorRevision),
  },
} as const satisfies Readonly<Record<string, Endpoint>>
