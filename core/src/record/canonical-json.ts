/** Whether a text holds no half of a character that takes two code units. */
export const isWellFormed = (s: string): boolean =>
  !/[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/.test(s)

/**
 * JSON with sorted keys and no spaces, so that the same data always gives the same text to hash.
 * Undefined members are left out as in JSON; numbers are written as JavaScript writes them.
 * @throws RangeError for what JSON cannot say: infinities, not-a-number, half characters
 * @see RFC 8785
 */
export function canonicalJson(x: unknown): string {
  if (Array.isArray(x)) return `[${x.map((y) => canonicalJson(y ?? null)).join(',')}]`
  if (typeof x === 'object' && x !== null) {
    const members = Object.entries(x)
      .filter(([, v]) => v !== undefined)
      .sort(([a], [b]) => (a < b ? -1 : a > b ? 1 : 0))
      .map(([k, v]) => `${JSON.stringify(k)}:${canonicalJson(v)}`)
    return `{${members.join(',')}}`
  }
  if (typeof x === 'number' && !Number.isFinite(x)) throw new RangeError(`${x} has no canonical form`)
  if (typeof x === 'string' && !isWellFormed(x))
    throw new RangeError('half a character has no canonical form')
  return JSON.stringify(x ?? null)
}
