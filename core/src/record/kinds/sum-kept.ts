import { z } from 'zod'
import { defineKind } from './kind.ts'

const lines = z.array(z.string().max(2000)).max(400)

/** A calculation that was done for this loop: what went in, what came out, and what it is for. */
export const sumKept = defineKind({
  type: 'sum.kept',
  of: 'loop',
  payload: z.strictObject({
    calculation: z.string().max(80),
    input: z.record(z.string().max(80), z.unknown()),
    note: z.string().trim().max(300).default(''),
    title: z.string().max(120),
    source: z.string().max(400),
    asked: lines,
    answer: lines,
  }),
  title: 'Quick sum',
  says: (p) =>
    [p.note, p.title, ...p.asked, ...p.answer, `Source: ${p.source}`]
      .filter((line) => line !== '')
      .join('\n'),
})
