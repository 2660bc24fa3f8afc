import { parseNumberList } from '../quantity/number-list.ts'
import { parseNumber } from '../quantity/parse-number.ts'
import type { SumField } from './fields.ts'

/** What was typed into a form: texts, ticks, rows, and what lies in them. */
export type Typed = string | boolean | readonly Typed[] | { readonly [name: string]: Typed }
export type TypedFields = Readonly<Record<string, Typed>>

const text = (x: unknown): string => (typeof x === 'string' || typeof x === 'number' ? String(x) : '')
const under = (x: unknown, key: string): unknown =>
  typeof x === 'object' && x !== null ? (x as Record<string, unknown>)[key] : undefined

/** A field as it opens: filled in from an example, or empty. */
export function typedOf(f: SumField, example: unknown): Typed {
  switch (f.kind) {
    case 'flag':
      return example === true
    case 'numbers':
      return Array.isArray(example) ? example.map(text).join(' ') : ''
    case 'choices':
      return Array.isArray(example) ? example.map(text) : []
    case 'group':
      return typedFields(f.fields, example)
    case 'rows':
      return rowsOf(f, example)
    case 'variant': {
      const value = text(under(example, f.by)) || (f.variants[0]?.value ?? '')
      const fields = f.variants.find((v) => v.value === value)?.fields ?? []
      return { [f.by]: value, ...typedFields(fields, example) }
    }
    default:
      return text(example)
  }
}
export const typedFields = (fields: readonly SumField[], example: unknown): TypedFields =>
  Object.fromEntries(fields.map((f) => [f.name, typedOf(f, under(example, f.name))]))

/** A new row of a table, empty. */
export const emptyRow = (columns: readonly SumField[]): Typed => typedFields(columns, undefined)
function rowsOf(f: Extract<SumField, { kind: 'rows' }>, example: unknown): Typed {
  if (f.rowIs === 'entry')
    return Object.entries(typeof example === 'object' && example !== null ? example : {}).map(
      ([key, value]) => ({
        key,
        value: text(value),
      }),
    )
  return Array.isArray(example) ? example.map((row: unknown) => typedFields(f.columns, row)) : []
}

/** What is wrong with what was typed, by its place in the input: `points.0.mV`. */
export type Wrong = Map<string, string>

/** The input that was typed; what cannot be read is told by its place. */
export function inputOf(
  fields: readonly SumField[],
  typed: TypedFields,
  wrong: Wrong,
  at = '',
): Record<string, unknown> {
  return Object.fromEntries(
    fields.flatMap((f) => {
      const value = valueOf(f, typed[f.name], wrong, at === '' ? f.name : `${at}.${f.name}`)
      return value === undefined ? [] : [[f.name, value]]
    }),
  )
}
function valueOf(f: SumField, typed: Typed | undefined, wrong: Wrong, at: string): unknown {
  switch (f.kind) {
    case 'flag':
      return typed === true
    case 'number':
      return numberOf(text(typed), wrong, at)
    case 'text':
      return text(typed).trim() === '' ? undefined : text(typed).trim()
    case 'choice':
      return f.choices.find((c) => c.value === text(typed))?.is
    case 'choices':
      return Array.isArray(typed) ? typed : []
    case 'numbers': {
      const list = parseNumberList(text(typed))
      if (typeof list !== 'string') return list.length === 0 && !f.required ? undefined : list
      wrong.set(at, list)
      return undefined
    }
    case 'group': {
      const value = inputOf(f.fields, fieldsOf(typed), wrong, at)
      return Object.keys(value).length === 0 && !f.required ? undefined : value
    }
    case 'variant': {
      const by = text(under(typed, f.by))
      const fields = f.variants.find((v) => v.value === by)?.fields ?? []
      return { [f.by]: by, ...inputOf(fields, fieldsOf(typed), wrong, at) }
    }
    case 'rows':
      return rows(f, typed, wrong, at)
  }
}
const fieldsOf = (typed: Typed | undefined): TypedFields =>
  typeof typed === 'object' && !Array.isArray(typed) ? (typed as TypedFields) : {}

function numberOf(typed: string, wrong: Wrong, at: string): number | undefined {
  const parsed = parseNumber(typed)
  if (parsed.kind === 'empty') return undefined
  if (parsed.kind === 'number' && parsed.rest === '') return parsed.value
  wrong.set(
    at,
    parsed.kind === 'number'
      ? `“${parsed.rest}” does not belong here: the unit stands beside the field.`
      : parsed.says,
  )
  return undefined
}
function rows(
  f: Extract<SumField, { kind: 'rows' }>,
  typed: Typed | undefined,
  wrong: Wrong,
  at: string,
): unknown {
  const list = Array.isArray(typed) ? (typed as readonly Typed[]) : []
  const read = list
    .map((row, i) => inputOf(f.columns, fieldsOf(row), wrong, `${at}.${i}`))
    // A row in which nothing was typed is no row; a tick alone is none either.
    .filter((row) => Object.values(row).some((v) => typeof v !== 'boolean'))
  if (read.length === 0 && !f.required) return undefined
  if (f.rowIs === 'object') return read
  if (f.rowIs === 'list') return read.map((row) => f.columns.map((c) => row[c.name]))
  return Object.fromEntries(read.map((row) => [text(row['key']), row['value']]))
}
