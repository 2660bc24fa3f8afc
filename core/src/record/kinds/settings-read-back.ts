import { z } from 'zod'
import { defineKind } from './kind.ts'

/** What a device showed after its settings were keyed in, held against the sheet of a revision. */
export const settingsReadBack = defineKind({
  type: 'settings.readBack',
  of: 'loop',
  payload: z.strictObject({
    revision: z.int().min(1),
    lines: z
      .array(
        z.strictObject({
          says: z.string().max(160),
          value: z.string().max(200),
          read: z.string().max(80),
          same: z.boolean(),
        }),
      )
      .min(1)
      .max(200),
    /** Lines of the sheet that nobody read. */
    left: z.int().min(0),
    /** Read over the link of a device, and of what kind that is; typed where it is left out. */
    link: z.literal('simulated').optional(),
  }),
  title: 'Settings read back',
  says: (p) => {
    const off = p.lines.filter((l) => !l.same)
    const left = p.left === 0 ? '' : ` ${p.left} ${p.left === 1 ? 'line was' : 'lines were'} not read.`
    return [
      off.length === 0
        ? `${p.lines.length} ${p.lines.length === 1 ? 'line' : 'lines'} of revision ${p.revision} read back, all the same.${left}`
        : `${p.lines.length} ${p.lines.length === 1 ? 'line' : 'lines'} of revision ${p.revision} read back, ${off.length} ${off.length === 1 ? 'differs' : 'differ'}.${left}`,
      ...(p.link ? ['Read over the link of the stand-in, simulated.'] : []),
      ...off.map((l) => `${l.says}: ${l.read} for ${l.value}`),
    ].join('\n')
  },
})
