import { z } from 'zod'
import { DeviceAnswer, DeviceOrder, LinkTest, Ports } from '../devices.ts'
import { Workshop, WorkshopAct, WorkshopAnswer } from '../workshop.ts'
import { workshop } from './addresses.ts'
import { EVERYONE, WORKERS, type Endpoint } from './endpoint.ts'

const params = z.object({ sensor: z.uuid('Not the identifier of a sensor.') })

export const workshopApi = {
  [workshop.look]: {
    says: 'A sensor on the link of the workshop as it is now, with the bottles that were taken',
    allow: EVERYONE,
    params,
    query: z.object({ since: z.coerce.number().optional() }),
    answer: Workshop,
    problems: ['not-found', 'no-device'],
  },
  [workshop.ask]: {
    says: 'Ask the sensor on the link for something; sending twice is harmless',
    allow: WORKERS,
    params,
    body: DeviceOrder,
    answer: DeviceAnswer,
    problems: ['not-found', 'no-device'],
  },
  [workshop.ports]: {
    says: 'The ports of the computer, and where an adaptor is plugged in now',
    allow: EVERYONE,
    params,
    answer: Ports,
    problems: ['not-found', 'no-device'],
  },
  [workshop.linkTest]: {
    says: 'The way from a port to the sensor, part by part: which one does not answer',
    allow: EVERYONE,
    params,
    query: z.object({ port: z.string().min(1).max(60) }),
    answer: LinkTest,
    problems: ['not-found', 'no-device'],
  },
  [workshop.act]: {
    says: 'Take a bottle, write what they give into the sensor, check it in one; sending twice is harmless',
    allow: WORKERS,
    params,
    body: WorkshopAct,
    answer: WorkshopAnswer,
    problems: ['not-found', 'no-device', 'conflict'],
  },
} as const satisfies Readonly<Record<string, Endpoint>>
