import { z } from 'zod'
import type { Calculation } from '../calculation.ts'
import { titleAndUnit } from './say-answer.ts'
import { CHOICE_WORDS, SUMS } from './words.ts'

interface Common {
  readonly name: string
  readonly title: string
  readonly unit: string
  readonly required: boolean
}
export interface Choice {
  readonly value: string
  /** As the calculation takes it. */
  readonly is: string | number
  readonly title: string
}
/** One input of a calculation as a form shows it. */
export type SumField = Common &
  (
    | { readonly kind: 'number' | 'text' | 'numbers' | 'flag' }
    | { readonly kind: 'choice' | 'choices'; readonly choices: readonly Choice[] }
    | { readonly kind: 'group'; readonly fields: readonly SumField[] }
    /** Rows of a table; each is a list, a thing with names, or a name with its value. */
    | {
        readonly kind: 'rows'
        readonly columns: readonly SumField[]
        readonly rowIs: 'list' | 'object' | 'entry'
      }
    /** One of several kinds of thing, each with fields of its own. */
    | {
        readonly kind: 'variant'
        readonly by: string
        readonly variants: readonly (Choice & { readonly fields: readonly SumField[] })[]
      }
  )

interface Schema {
  type?: string | string[]
  enum?: (string | number)[]
  const?: string | number
  anyOf?: Schema[]
  oneOf?: Schema[]
  properties?: Record<string, Schema>
  required?: string[]
  items?: Schema
  prefixItems?: Schema[]
  propertyNames?: Schema
  additionalProperties?: Schema | boolean
}

const choiceOf = (value: string | number): Choice => ({
  value: String(value),
  is: value,
  title: CHOICE_WORDS[String(value)] ?? String(value),
})

/** The fields of a calculation’s form, in its order, named in a technician’s words. */
export function sumFields(c: Pick<Calculation, 'name' | 'input'>): SumField[] {
  const schema = z.toJSONSchema(c.input, { io: 'input', unrepresentable: 'any' }) as Schema
  const words = SUMS[c.name]?.asks ?? {}
  const fieldsIn = (s: Schema, path: string): SumField[] =>
    Object.entries(s.properties ?? {}).map(([name, p]) =>
      field(name, path === '' ? name : `${path}.${name}`, p, s.required?.includes(name) ?? false),
    )
  function field(name: string, path: string, given: Schema, required: boolean): SumField {
    const some = given.anyOf ?? given.oneOf ?? []
    const real = some.filter((x) => x.type !== 'null')
    // A value or nothing is that value, and may stay empty.
    if (some.length > real.length && real.length === 1 && real[0]) return field(name, path, real[0], false)
    const common: Common = { name, required, ...titleAndUnit(words[path] ?? '') }
    const constants = real.flatMap((x) => x.const ?? [])
    const listed = given.enum ?? (constants.length > 0 && constants.length === real.length ? constants : null)
    if (listed) return { ...common, kind: 'choice', choices: listed.map(choiceOf) }
    if (real.length > 0) return variant(common, path, real)
    const type = Array.isArray(given.type) ? given.type.find((t) => t !== 'null') : given.type
    switch (type) {
      case 'number':
      case 'integer':
        return { ...common, kind: 'number' }
      case 'boolean':
        return { ...common, kind: 'flag' }
      case 'array':
        return list(common, path, given)
      case 'object':
        return given.properties
          ? { ...common, kind: 'group', fields: fieldsIn(given, path) }
          : entries(common, path, given)
      default:
        return { ...common, kind: 'text' }
    }
  }
  function list(common: Common, path: string, { items = {} }: Schema): SumField {
    if (items.enum) return { ...common, kind: 'choices', choices: items.enum.map(choiceOf) }
    if (items.prefixItems)
      return {
        ...common,
        kind: 'rows',
        rowIs: 'list',
        columns: items.prefixItems.map((x, i) => field(String(i), `${path}.${i}`, x, true)),
      }
    return items.properties
      ? { ...common, kind: 'rows', rowIs: 'object', columns: fieldsIn(items, path) }
      : { ...common, kind: 'numbers' }
  }
  function entries(common: Common, path: string, given: Schema): SumField {
    const value = typeof given.additionalProperties === 'object' ? given.additionalProperties : {}
    return {
      ...common,
      kind: 'rows',
      rowIs: 'entry',
      columns: [
        field('key', `${path}.key`, given.propertyNames ?? { type: 'string' }, true),
        field('value', `${path}.value`, value, true),
      ],
    }
  }
  function variant(common: Common, path: string, some: readonly Schema[]): SumField {
    const by =
      Object.keys(some[0]?.properties ?? {}).find((k) =>
        some.every((s) => s.properties?.[k]?.const !== undefined),
      ) ?? ''
    return {
      ...common,
      kind: 'variant',
      by,
      variants: some.map((s) => ({
        ...choiceOf(s.properties?.[by]?.const ?? ''),
        fields: fieldsIn(s, path).filter((f) => f.name !== by),
      })),
    }
  }
  return fieldsIn(schema, '')
}
