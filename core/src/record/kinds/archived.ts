import { z } from 'zod'
import { defineKind } from './kind.ts'

const Why = z.strictObject({ reason: z.string().trim().min(1, 'Say why: it stands in the record.').max(300) })

/** The loop is out of use: it stays with all of its record, and nothing more is recorded on it. */
export const archived = defineKind({
  type: 'loop.archived',
  of: 'loop',
  payload: Why,
  title: 'Taken out of use',
  says: (p) => `Nothing more is recorded on it: ${p.reason}`,
})

/** It is in use again. */
export const broughtBack = defineKind({
  type: 'loop.brought-back',
  of: 'loop',
  payload: Why,
  title: 'Brought back',
  says: (p) => `In use again: ${p.reason}`,
})

/** Since when a loop is archived, by its events in their order; null while it is in use. */
export function archivedSince(
  events: readonly { readonly type: string; readonly at: string }[],
): string | null {
  const last = events.filter((e) => e.type === archived.type || e.type === broughtBack.type).at(-1)
  return last?.type === archived.type ? last.at : null
}
