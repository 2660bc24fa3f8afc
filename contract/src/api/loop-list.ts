import { z } from 'zod'
import {
  HeldRow,
  ImportRequest,
  ImportResult,
  LoopImport,
  MendRow,
  Preview,
  PreviewRequest,
} from '../loop-list.ts'
import { WithReason } from '../people.ts'
import { PackageTaken } from '../loop-package.ts'
import { loopList, packages } from './addresses.ts'
import { EVERYONE, WORKERS, type Endpoint } from './endpoint.ts'
import { ofLoop } from './of-loop.ts'

const ofRow = z.object({ row: z.uuid() })

export const loopListApi = {
  [loopList.preview]: {
    says: 'What an import of this list would do, row by row',
    allow: WORKERS,
    byArea: true,
    body: PreviewRequest,
    largest: '5mb',
    answer: Preview,
  },
  [loopList.import]: {
    says: 'Import the good rows and hold the bad ones back',
    allow: WORKERS,
    byArea: true,
    body: ImportRequest,
    largest: '5mb',
    answer: ImportResult,
    problems: ['conflict'],
  },
  [loopList.held]: { says: 'Rows held back to be corrected', allow: EVERYONE, answer: z.array(HeldRow) },
  [loopList.mend]: {
    says: 'Try a corrected row again',
    allow: WORKERS,
    byArea: true,
    params: ofRow,
    body: MendRow,
    answer: z.object({ still: HeldRow.nullable() }),
    problems: ['not-found', 'conflict'],
  },
  [loopList.letGo]: {
    says: 'Drop a held row',
    allow: WORKERS,
    byArea: true,
    params: ofRow,
    answer: z.null(),
    status: 204,
    problems: ['conflict'],
  },
  [loopList.imports]: {
    says: 'Imports that were done, the newest first',
    allow: EVERYONE,
    answer: z.array(LoopImport),
  },
  [loopList.undo]: {
    says: 'Undo an import as a whole, as long as nothing was recorded on its loops since',
    allow: WORKERS,
    byArea: true,
    params: z.object({ import: z.uuid() }),
    body: WithReason,
    answer: z.array(LoopImport),
    problems: ['conflict', 'not-found'],
  },
  [loopList.exportSheet]: {
    says: 'The plant’s list as a spreadsheet',
    allow: EVERYONE,
    answer: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  },
  [loopList.export]: { says: 'The plant’s list as CSV', allow: EVERYONE, answer: 'text/csv' },
} as const satisfies Readonly<Record<string, Endpoint>>

export const packagesApi = {
  [packages.make]: {
    says: 'The whole loop as one package in open formats',
    allow: EVERYONE,
    params: ofLoop,
    answer: 'application/zip',
    problems: ['not-found'],
  },
  [packages.take]: {
    says: 'Take in the package of a loop; the same one twice is there once',
    allow: WORKERS,
    byArea: true,
    body: 'application/zip',
    largest: '64mb',
    answer: PackageTaken,
    problems: ['wrong-package', 'conflict'],
  },
} as const satisfies Readonly<Record<string, Endpoint>>
