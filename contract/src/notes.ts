import { z } from 'zod'

const MOST_TEXT = 900_000
/** Pictures as data addresses, made small in the browser. */
export const NotePictures = z
  .array(
    z
      .string()
      .max(MOST_TEXT, 'The picture is too large: at most 650 KB.')
      .regex(/^data:image\/(png|jpeg);base64,[A-Za-z0-9+/]+=*$/, 'A PNG or JPEG picture.'),
  )
  .max(4, 'At most four pictures.')

/** A note with its pictures. */
export const NewNote = z.strictObject({
  /** Made by the client, so that a repeated send is stored once. */
  id: z.uuid(),
  at: z.iso.datetime({ offset: true }),
  text: z.string().trim().max(2000, 'At most 2000 characters.'),
  run: z.uuid().optional(),
  where: z.string().trim().max(120, 'At most 120 characters.').optional(),
  /** A moment of a log of the loop. */
  mark: z.strictObject({ log: z.uuid(), at: z.number().min(-8.64e15).max(8.64e15) }).optional(),
  pictures: NotePictures,
})
export type NewNote = z.output<typeof NewNote>
