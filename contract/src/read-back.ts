import { settingsReadBack } from '@calm/core/record/kinds/settings-read-back'
import { z } from 'zod'

/** What a device showed of the settings sheet, as a page sends it; the server holds it against the saved set-up. */
export const KeepReadBack = z.strictObject({
  id: z.uuid(),
  at: z.iso.datetime(),
  revision: z.int().min(1),
  lines: z
    .array(
      z.strictObject({
        says: z.string().max(160),
        read: z.string().trim().min(1, 'Type what the device shows.').max(80),
      }),
    )
    .min(1, 'Read one line at least.')
    .max(200),
})
export type KeepReadBack = z.output<typeof KeepReadBack>

export const SettingsReadBack = z.object(settingsReadBack.payload.shape)
export type SettingsReadBack = z.output<typeof SettingsReadBack>
