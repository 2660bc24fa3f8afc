import { customType, integer, pgTable, primaryKey, text } from 'drizzle-orm/pg-core'

const bytes = customType<{ data: Buffer }>({ dataType: () => 'bytea' })

/** Pictures of notes by their SHA-256: what belongs to a note is told by its event. In pieces, so that none is large. */
export const pictureParts = pgTable(
  'picture_parts',
  {
    sha256: text().notNull(),
    part: integer().notNull(),
    data: bytes().notNull(),
  },
  (t) => [primaryKey({ name: 'picture_parts_one_per_place', columns: [t.sha256, t.part] })],
)
