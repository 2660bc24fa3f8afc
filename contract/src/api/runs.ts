import { z } from 'zod'
import { NewEquipment } from '../equipment.ts'
import { RunInfo, StoredEvent } from '../events.ts'
import { WaitingRecord } from '../signatures.ts'
import { runs } from './addresses.ts'
import { EVERYONE, type Endpoint } from './endpoint.ts'

const ofRun = z.object({ run: z.uuid() })

export const runsApi = {
  [runs.waiting]: {
    says: 'Verifications and procedures that wait for a signature; first those that who asks can give',
    allow: EVERYONE,
    answer: z.array(WaitingRecord),
  },
  [runs.one]: {
    says: 'One run with its events',
    allow: EVERYONE,
    params: ofRun,
    answer: z.object({ run: RunInfo, events: z.array(StoredEvent) }),
    problems: ['not-found'],
  },
  [runs.readings]: {
    says: 'The readings of a verification as CSV',
    allow: EVERYONE,
    params: ofRun,
    answer: 'text/csv',
    problems: ['not-found', 'conflict'],
  },
  [runs.certificate]: {
    says: 'The certificate of a verification, or the report of a procedure with every step',
    allow: EVERYONE,
    params: ofRun,
    answer: 'application/pdf',
    problems: ['not-found', 'conflict'],
  },
  [runs.signing]: {
    says: 'What stands around a verification or procedure when it is signed: the hash of its document, and its instruments',
    allow: EVERYONE,
    params: ofRun,
    answer: z.object({ document: z.string(), instruments: z.array(NewEquipment) }),
    problems: ['not-found', 'conflict'],
  },
} as const satisfies Readonly<Record<string, Endpoint>>
