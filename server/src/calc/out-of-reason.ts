import { refused, type Refused } from '@calm/core/refused'

/** A value of a body with its path and how far it is from what people mean: decades, or the length of a list. */
interface Suspect {
  readonly path: string
  readonly shown: string
  readonly far: number
}

/** A list is as suspect as a number with this many elements a decade. */
const ELEMENTS_A_DECADE = 50

function suspects(value: unknown, path: string, out: Suspect[]): void {
  if (typeof value === 'number' && value !== 0)
    out.push({ path, shown: String(value), far: Math.abs(Math.log10(Math.abs(value))) })
  if (Array.isArray(value))
    out.push({ path, shown: `a list of ${value.length}`, far: value.length / ELEMENTS_A_DECADE })
  if (typeof value === 'object' && value !== null)
    for (const [k, v] of Object.entries(value)) suspects(v, path === '' ? k : `${path}.${k}`, out)
}

/**
 * The field of a request that is most likely why a calculation does not come to an end: the number furthest from
 * the size of things, or a list that is too long.
 */
export function outOfReason(input: unknown): Refused {
  const all: Suspect[] = []
  suspects(input, '', all)
  const worst = all.reduce<Suspect | null>((a, b) => (a === null || b.far > a.far ? b : a), null)
  return worst
    ? refused(
        `${worst.shown} is unreasonable here: the calculation would not end.`,
        worst.path,
        'OUT_OF_REASON',
      )
    : refused('The calculation would not end with these values.', '', 'OUT_OF_REASON')
}
