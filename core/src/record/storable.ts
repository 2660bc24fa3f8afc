import { isWellFormed } from './canonical-json.ts'

/** What is wrong with contents: where, and a sentence. */
export interface Wrong {
  readonly path: string
  readonly says: string
}

/** Text or numbers that no record can hold, anywhere in a value, with their path; null where there are none. */
export function unstorableIn(value: unknown, path = ''): Wrong | null {
  if (typeof value === 'string' && (value.includes('\0') || !isWellFormed(value)))
    return { path, says: 'This text holds a character that cannot be stored. Type it again.' }
  if (typeof value === 'number' && !Number.isFinite(value))
    return { path, says: 'This number is larger than any that can be stored.' }
  if (typeof value === 'object' && value !== null)
    for (const [k, v] of Object.entries(value)) {
      const here = path === '' ? k : `${path}.${k}`
      const wrong = k.includes('\0') || !isWellFormed(k) ? unstorableIn(k, path) : unstorableIn(v, here)
      if (wrong) return wrong
    }
  return null
}
