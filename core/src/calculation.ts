import type { z } from 'zod'
import './plain-issues.ts'
import { isRefused, refused, type Refused } from './refused.ts'

/** One calculation as the catalogue knows it: schema in, schema out, function, source. */
export interface Calculation {
  /** Dotted by topic: `units.convert`. Never changed once released. */
  readonly name: string
  readonly title: string
  /** Where the formula comes from: standard and clause, or the handbook's section. */
  readonly source: string
  readonly input: z.ZodType
  readonly output: z.ZodType
  /** @param clock - ms; only where how long it may take is part of what is asked */
  readonly run: (input: never, clock?: () => number) => unknown
  readonly example: unknown
  /** It may take seconds, as long as it was told. */
  readonly isLong?: boolean
}

/** Ties input schema, output schema and function together so that the compiler checks all three. */
export function calculation<I extends z.ZodType, O extends z.ZodType>(c: {
  name: string
  title: string
  source: string
  input: I
  output: O
  run: (input: z.output<I>, clock?: () => number) => z.input<O> | Refused
  example: z.input<I>
  isLong?: boolean
}): Calculation {
  return c
}

/** What a calculation answers to any input: its result, or what is wrong with which field. */
export type Answer =
  | { readonly kind: 'result'; readonly result: unknown }
  | { readonly kind: 'refused'; readonly problems: readonly Refused[] }

/** Checks the input, computes, and checks that the result holds only finite numbers. */
export function answer(c: Calculation, input: unknown, clock?: () => number): Answer {
  const no = (...problems: Refused[]): Answer => ({ kind: 'refused', problems })
  const parsed = c.input.safeParse(input)
  if (!parsed.success)
    return no(...parsed.error.issues.map((i) => refused(i.message, i.path.join('.'), 'INPUT')))
  const result = c.run(parsed.data as never, clock)
  if (isRefused(result)) return no(result)
  const bad = notFinite(result, '')
  return bad === null
    ? { kind: 'result', result }
    : no(
        refused(
          `These numbers lead out of range: ${bad || 'the result'} has no finite value.`,
          '',
          'NOT_FINITE',
        ),
      )
}

function notFinite(x: unknown, path: string): string | null {
  if (typeof x === 'number') return Number.isFinite(x) ? null : path
  if (typeof x !== 'object' || x === null) return null
  for (const [k, v] of Object.entries(x)) {
    const bad = notFinite(v, path === '' ? k : `${path}.${k}`)
    if (bad !== null) return bad
  }
  return null
}
