import { z } from 'zod'
import { defineKind } from './kind.ts'

/** A picture that belongs to a note: its bytes stand beside the record, its hash in it. */
export const NotePicture = z.strictObject({
  sha256: z.string().regex(/^[0-9a-f]{64}$/),
  type: z.enum(['image/jpeg', 'image/png']),
  bytes: z.int().min(1),
})
export type NotePicture = z.output<typeof NotePicture>

/** How a picture's file is called, in packages and when it is saved. */
export const pictureFile = ({ sha256, type }: Pick<NotePicture, 'sha256' | 'type'>): string =>
  `${sha256}.${type === 'image/png' ? 'png' : 'jpg'}`

/** What somebody saw or did on a loop, in words and pictures. */
export const noteKept = defineKind({
  type: 'note.kept',
  of: 'loop',
  payload: z
    .strictObject({
      text: z.string().trim().max(2000, 'At most 2000 characters.'),
      /** The work it belongs to; absent: the loop itself. */
      run: z.uuid().optional(),
      /** Where in it, in the person's words: “point 3”, “junction box”. */
      where: z.string().trim().max(120, 'At most 120 characters.').optional(),
      /** A moment of a log that it speaks of, as its times are. */
      mark: z.strictObject({ log: z.uuid(), at: z.number() }).optional(),
      pictures: z.array(NotePicture).max(4, 'At most four pictures.'),
    })
    .refine((n) => n.text !== '' || n.pictures.length > 0, {
      path: ['text'],
      message: 'Write something, or add a picture.',
    }),
  title: 'Note',
  says: (p) =>
    [
      p.where ? `${p.where}:` : null,
      p.text === '' ? null : p.text,
      p.pictures.length > 0
        ? `(${p.pictures.length} ${p.pictures.length === 1 ? 'picture' : 'pictures'})`
        : null,
    ]
      .filter((x) => x !== null)
      .join(' '),
})
