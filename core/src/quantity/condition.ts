/** When an entry counts, as data: a value of another entry, or several of these together. */
export type Condition =
  | { readonly name: string; readonly is: readonly unknown[] }
  | { readonly not: Condition }
  | { readonly all: readonly Condition[] }
  | { readonly any: readonly Condition[] }

/** The entry has one of these values. */
export const when = (name: string, ...is: readonly (string | boolean)[]): Condition => ({ name, is })
/** The entry has none of these values. */
export const unless = (name: string, ...is: readonly (string | boolean)[]): Condition => ({
  not: { name, is },
})
export const all = (...conditions: readonly Condition[]): Condition => ({ all: conditions })
export const any = (...conditions: readonly Condition[]): Condition => ({ any: conditions })

/** Whether a condition holds. @param values - with their defaults filled in */
export function holds(c: Condition, values: Readonly<Record<string, unknown>>): boolean {
  if ('name' in c) return c.is.includes(values[c.name])
  if ('not' in c) return !holds(c.not, values)
  return 'all' in c ? c.all.every((x) => holds(x, values)) : c.any.some((x) => holds(x, values))
}

/** The entries that a condition asks for, with the values it names. */
export function asks(c: Condition): { readonly name: string; readonly is: readonly unknown[] }[] {
  if ('name' in c) return [c]
  return 'not' in c ? asks(c.not) : ('all' in c ? c.all : c.any).flatMap(asks)
}
