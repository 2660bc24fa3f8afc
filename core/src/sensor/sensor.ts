import { z } from 'zod'
import '../plain-issues.ts'
import { settingProblem, shownSettings, valuesOf } from '../quantity/setting.ts'
import { sensorKindOf } from './index.ts'

/** Where a sensor is when no loop has it. */
export const SENSOR_STATES = ['shelf', 'workshop', 'scrapped'] as const
export const SENSOR_STATE_TITLES: Readonly<Record<(typeof SENSOR_STATES)[number], string>> = {
  shelf: 'on the shelf',
  workshop: 'in the workshop',
  scrapped: 'scrapped',
}

/**
 * A sensor of the plant as somebody described it: plate, certificate, and what its last calibration found. Each change
 * is a whole new description; none is ever overwritten.
 */
export const SensorDescription = z
  .strictObject({
    kind: z.string().max(40),
    values: z.record(z.string().max(60), z.union([z.number(), z.string().max(400), z.boolean()])),
    state: z.enum(SENSOR_STATES, 'One of: shelf, workshop, scrapped.'),
    certificate: z.string().trim().max(60, 'At most 60 characters.'),
    /** When it was certified or calibrated, and until when that counts; null where there is none. */
    certifiedOn: z.iso.date('Write the date as 2026-11-23.').nullable(),
    dueOn: z.iso.date('Write the date as 2026-11-23.').nullable(),
    remark: z.string().trim().max(400, 'At most 400 characters.'),
  })
  .superRefine((d, ctx) => {
    const issue = (path: (string | number)[], message: string) =>
      ctx.addIssue({ code: 'custom', path, message })
    const kind = sensorKindOf(d.kind)
    if (!kind) {
      issue(['kind'], `There is no kind of sensor “${d.kind}”.`)
      return
    }
    for (const [name, value] of Object.entries(d.values)) {
      const setting = kind.settings.find((s) => s.name === name)
      const says = setting ? settingProblem(setting, value) : `A ${kind.title} has no ${name}.`
      if (says) issue(['values', name], says)
    }
    for (const p of kind.problems(valuesOf(kind.settings, d.values))) issue(['values', p.name], p.says)
    if (d.certifiedOn !== null && d.dueOn !== null && d.dueOn <= d.certifiedOn)
      issue(['dueOn'], 'The certificate ends before it begins. Check both dates.')
  })
export type SensorDescription = z.output<typeof SensorDescription>

/** What a sensor is called: by its serials, as they stand on it. */
export function sensorName(d: Pick<SensorDescription, 'kind' | 'values'>): string {
  const word = (name: string) => (typeof d.values[name] === 'string' ? d.values[name].trim() : '')
  const [one, a, b] = [word('serial'), word('serialA'), word('serialB')]
  return one !== '' ? one : [a, b].filter((x) => x !== '').join(' / ')
}

/** Its entries that count, with their defaults. */
export const sensorValues = (d: Pick<SensorDescription, 'kind' | 'values'>) => {
  const kind = sensorKindOf(d.kind)
  if (!kind) return {}
  const all = valuesOf(kind.settings, d.values)
  const shown = new Set(shownSettings(kind.settings, all).map((s) => s.name))
  return Object.fromEntries(Object.entries(all).filter(([name]) => shown.has(name)))
}
