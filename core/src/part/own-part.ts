import { z } from 'zod'
import { freeName, knownPart, NameplateSchema, partProblem, type WiredPart, type Wiring } from './wiring.ts'

/** A part of the plant's own, typed once from its nameplate: what it is, its label data, its terminals as printed. */
export const OwnPart = z
  .strictObject({
    ...NameplateSchema.shape,
    kind: z.string().max(40),
    settings: z.record(z.string().max(40), z.union([z.number(), z.string().max(40), z.boolean()])),
  })
  .superRefine((own, ctx) => {
    for (const { path, message } of partProblem(wiredFrom(own)))
      ctx.addIssue({ code: 'custom', path: [...path], message })
  })
export type OwnPart = z.output<typeof OwnPart>
/** All own parts of a plant. */
export const OwnParts = z
  .array(OwnPart)
  .max(200, 'At most 200 parts.')
  .superRefine((all, ctx) =>
    all.forEach((p, i) => {
      if (all.findIndex((q) => q.title === p.title) !== i)
        ctx.addIssue({ code: 'custom', path: [i, 'title'], message: `“${p.title}” stands twice.` })
    }),
  )

const wiredFrom = (own: Pick<OwnPart, 'kind' | 'settings' | 'title' | 'printed'>): WiredPart => ({
  kind: own.kind,
  settings: own.settings,
  nameplate: { title: own.title, printed: own.printed },
})

/** A part on the bench as the plant's own, with its nameplate. */
export const ownFrom = (part: WiredPart, title: string): OwnPart => ({
  title,
  printed: part.nameplate?.printed ?? {},
  kind: part.kind,
  settings: part.settings,
})

/** So many more parts of one kind, or of the plant's own, named after the loop's number. */
export function withParts(w: Wiring, what: string | OwnPart, number: string, count = 1): Wiring {
  let parts = w.parts
  for (let i = 0; i < count; i++) {
    const part: WiredPart = typeof what === 'string' ? { kind: what, settings: {} } : wiredFrom(what)
    const prefix = knownPart('x', part)?.kind.prefix ?? 'X'
    parts = { ...parts, [freeName(parts, prefix, number)]: part }
  }
  return { ...w, parts }
}
