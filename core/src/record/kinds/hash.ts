import { z } from 'zod'

/** A SHA-256 in hexadecimal. */
export const Sha256 = z.string().regex(/^[0-9a-f]{64}$/, 'Not a SHA-256.')
