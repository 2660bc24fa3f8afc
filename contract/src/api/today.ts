import { z } from 'zod'
import {
  ChangeJob,
  ChangePlant,
  DaysAsked,
  JobsFile,
  JobsImported,
  JobTold,
  LetGoJob,
  MakePlan,
  NewHandJob,
  NewMark,
  NewShiftNote,
  Pack,
  Place,
  PlanTold,
  PlantAtWork,
  SetPresence,
  Undo,
} from '../today.ts'
import { today } from './addresses.ts'
import { EVERYONE, PLANNERS, type Endpoint } from './endpoint.ts'

const ofJob = z.object({ job: z.string().min(1).max(120) })
const Stored = z.object({ stored: z.boolean() })
const WhoseDay = DaysAsked.extend({ person: z.uuid().optional() })

export const todayApi = {
  [today.jobs]: {
    says: 'What has to be done, as the record asks for it and as it was entered',
    allow: EVERYONE,
    query: DaysAsked,
    answer: z.array(JobTold),
  },
  [today.addJob]: {
    says: 'Enter a job; sending twice is harmless',
    allow: PLANNERS,
    body: NewHandJob,
    answer: Stored,
    problems: ['conflict'],
  },
  [today.changeJob]: {
    says: 'What was agreed about a job: windows, who, how long, its work order',
    allow: PLANNERS,
    params: ofJob,
    body: ChangeJob,
    answer: Stored,
    problems: ['not-found'],
  },
  [today.letGo]: {
    says: 'A job that was entered is needed no more',
    allow: PLANNERS,
    params: ofJob,
    body: LetGoJob,
    answer: Stored,
    problems: ['not-found', 'conflict'],
  },
  [today.importJobs]: {
    says: 'Jobs out of a list: order, title, loop or area, due, minutes, importance',
    allow: PLANNERS,
    body: JobsFile,
    answer: JobsImported,
  },
  [today.jobsTable]: {
    says: 'Jobs as CSV',
    allow: EVERYONE,
    query: DaysAsked,
    answer: 'text/csv',
  },
  [today.plan]: {
    says: 'The plan of a day or several, the kit for it, and how far it is',
    allow: EVERYONE,
    query: DaysAsked,
    answer: PlanTold,
  },
  [today.makePlan]: {
    says: 'Plan a day or several, or what is left of it from now on',
    allow: PLANNERS,
    body: MakePlan,
    answer: PlanTold,
    problems: ['conflict'],
  },
  [today.place]: {
    says: 'Move a job, take it off, or agree where it is; rules that this breaks are told',
    allow: PLANNERS,
    body: Place,
    answer: PlanTold,
    problems: ['conflict', 'not-found'],
  },
  [today.undo]: {
    says: 'The plan before',
    allow: PLANNERS,
    body: Undo,
    answer: PlanTold,
    problems: ['conflict'],
  },
  [today.mark]: {
    says: 'What became of a job where the record cannot tell it',
    allow: PLANNERS,
    body: NewMark,
    answer: Stored,
  },
  [today.pack]: {
    says: 'Something of the kit is packed, or not',
    allow: PLANNERS,
    body: Pack,
    answer: Stored,
  },
  [today.presence]: {
    says: 'When somebody is there on a day, where it is not as usual',
    allow: PLANNERS,
    body: SetPresence,
    answer: Stored,
    problems: ['not-found'],
  },
  [today.note]: {
    says: 'A word to the next shift',
    allow: PLANNERS,
    body: NewShiftNote,
    answer: Stored,
  },
  [today.plant]: {
    says: 'Places, ways, the usual shift, abilities, stock',
    allow: EVERYONE,
    answer: PlantAtWork,
  },
  [today.changePlant]: {
    says: 'Places, ways, the usual shift, abilities, stock, decided anew',
    allow: PLANNERS,
    body: ChangePlant,
    answer: PlantAtWork,
  },
  [today.daySheet]: {
    says: 'The day on paper, one page a person',
    allow: EVERYONE,
    query: WhoseDay,
    answer: 'application/pdf',
  },
  [today.calendar]: {
    says: 'The plan for calendar programs',
    allow: EVERYONE,
    query: WhoseDay,
    answer: 'text/calendar',
  },
} as const satisfies Readonly<Record<string, Endpoint>>
