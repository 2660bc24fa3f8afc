import { noteKept, type NotePicture } from './note-kept.ts'
import { siteSurveyed } from './site-surveyed.ts'

const PICTURED = [noteKept, siteSurveyed] as const

/** Kinds of event that may have pictures. */
export const PICTURED_TYPES: readonly string[] = PICTURED.map((k) => k.type)

/** Pictures that an event tells of. */
export function picturesOfEvent(e: { readonly type: string; readonly payload: unknown }): NotePicture[] {
  const kind = PICTURED.find((k) => k.type === e.type)
  return kind?.payload.safeParse(e.payload).data?.pictures ?? []
}
