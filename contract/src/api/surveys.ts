import { LogOfSite } from '@calm/core/survey/site-shape'
import { z } from 'zod'
import { KeepSite, Survey, SurveyRow } from '../surveys.ts'
import { surveys } from './addresses.ts'
import { EVERYONE, WORKERS, type Endpoint } from './endpoint.ts'
import { ofLoop } from './of-loop.ts'

const ofSurvey = z.object({ survey: z.uuid('A survey has another address.') })

export const surveysApi = {
  [surveys.list]: {
    says: 'Surveys with their sites, the newest day first',
    allow: EVERYONE,
    answer: z.array(SurveyRow),
  },
  [surveys.one]: {
    says: 'A survey: each site as it was kept last; null while none of it is kept',
    allow: EVERYONE,
    params: ofSurvey,
    answer: Survey.nullable(),
  },
  [surveys.report]: {
    says: 'A survey as a report, PDF',
    allow: EVERYONE,
    params: ofSurvey,
    answer: 'application/pdf',
    problems: ['not-found', 'conflict'],
  },
  [surveys.keepSite]: {
    says: 'Keep a site of a survey in the record of its loop; sending twice is harmless',
    allow: WORKERS,
    params: ofLoop,
    body: KeepSite,
    largest: '5mb',
    answer: z.object({ stored: z.boolean() }),
    status: 201,
    problems: ['not-found', 'conflict'],
  },
  [surveys.logOfSite]: {
    says: 'What a whole log says of the site where it was recorded',
    allow: EVERYONE,
    params: ofLoop.extend({ log: z.uuid('A log has another address.') }),
    answer: LogOfSite,
    problems: ['not-found', 'conflict'],
  },
} as const satisfies Readonly<Record<string, Endpoint>>
