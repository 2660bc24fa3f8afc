import { z } from 'zod'
import {
  ConfigurationDifferences,
  DeviceAnswer,
  DeviceBackup,
  DeviceOrder,
  DeviceView,
  KeepConfiguration,
  KeptConfiguration,
  LoadDifferences,
} from '../devices.ts'
import { devices } from './addresses.ts'
import { EVERYONE, WORKERS, type Endpoint } from './endpoint.ts'
import { ofLoop } from './of-loop.ts'

export const devicesApi = {
  [devices.look]: {
    says: 'The stand-in device of a loop as it is now, with its last half minute or what came since',
    allow: EVERYONE,
    params: ofLoop,
    query: z.object({ since: z.coerce.number().optional() }),
    answer: DeviceView,
    problems: ['not-found', 'no-device'],
  },
  [devices.ask]: {
    says: 'Ask the device for something; sending twice is harmless',
    allow: WORKERS,
    params: ofLoop,
    body: DeviceOrder,
    answer: DeviceAnswer,
    problems: ['not-found', 'no-device'],
  },
  [devices.backup]: {
    says: 'The configuration: all of it, or a copy for others without the characterization',
    allow: EVERYONE,
    params: ofLoop,
    query: z.object({ kind: z.enum(['backup', 'copy']).default('backup') }),
    answer: DeviceBackup,
    problems: ['not-found', 'no-device'],
  },
  [devices.compare]: {
    says: 'What loading a configuration would overwrite',
    allow: EVERYONE,
    params: ofLoop,
    body: DeviceBackup,
    answer: LoadDifferences,
    problems: ['not-found', 'no-device'],
  },
  [devices.configurations]: {
    says: 'Configurations kept in the record, newest first',
    allow: EVERYONE,
    params: ofLoop,
    answer: z.array(KeptConfiguration),
    problems: ['not-found'],
  },
  [devices.keep]: {
    says: 'Read the device and keep its configuration; sending twice is harmless',
    allow: WORKERS,
    params: ofLoop,
    body: KeepConfiguration,
    answer: z.object({ stored: z.boolean() }),
    status: 201,
    problems: ['not-found', 'no-device', 'conflict'],
  },
  [devices.differences]: {
    says: 'A kept configuration against the device, the documents and the last verification',
    allow: EVERYONE,
    params: z.object({ ...ofLoop.shape, id: z.uuid() }),
    answer: ConfigurationDifferences,
    problems: ['not-found', 'no-device'],
  },
} as const satisfies Readonly<Record<string, Endpoint>>
