/**
 * JSON with sorted keys and no spaces, so that the same data always gives the same text to hash.
 * Undefined members are left out as in JSON; numbers are written as JavaScript writes them.
 * @see RFC 8785, of which this is the part that our data needs
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
  return JSON.stringify(x ?? null)
}
