import { z } from 'zod'
import { plantKind } from './plant-kind.ts'

const text = z.string().max(300)
const day = z.string().max(10)

export const planKept = plantKind({
  type: 'plan.kept',
  group: 'plans',
  payload: z.strictObject({ day, days: z.int(), how: text, jobs: z.int() }),
  title: 'Day planned',
  says: (p) =>
    `${p.day}${p.days > 1 ? ` and ${p.days - 1} more days` : ''}: ${p.how}, ${p.jobs} ${p.jobs === 1 ? 'job' : 'jobs'}.`,
})
export const jobEntered = plantKind({
  type: 'job.entered',
  group: 'plans',
  payload: z.strictObject({ title: text }),
  title: 'Job entered',
  says: (p) => `${p.title}.`,
})
export const jobLetGo = plantKind({
  type: 'job.let-go',
  group: 'plans',
  payload: z.strictObject({ title: text }),
  title: 'Job needed no more',
  says: (p) => `${p.title}.`,
})
export const jobAgreed = plantKind({
  type: 'job.agreed',
  group: 'plans',
  payload: z.strictObject({ title: text, agreed: text }),
  title: 'Agreed about a job',
  says: (p) => `${p.title}${p.agreed === '' ? '' : `: ${p.agreed}`}.`,
})
export const jobMarked = plantKind({
  type: 'job.marked',
  group: 'plans',
  payload: z.strictObject({ title: text, day, mark: text }),
  title: 'What became of a job',
  says: (p) => `${p.title} on ${p.day}: ${p.mark}.`,
})
export const presenceSaid = plantKind({
  type: 'presence.said',
  group: 'plans',
  payload: z.strictObject({ person: text, day, says: text }),
  title: 'Who is there',
  says: (p) => `${p.person} on ${p.day}: ${p.says}.`,
})
export const shiftNoted = plantKind({
  type: 'shift.noted',
  group: 'plans',
  payload: z.strictObject({ day }),
  title: 'Word to the next shift',
  says: (p) => `Of ${p.day}.`,
})
