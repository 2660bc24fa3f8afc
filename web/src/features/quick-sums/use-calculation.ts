import { answer, type Calculation } from '@calm/core/calculation'
import { parseNumber } from '@calm/core/quantity/parse-number'
import { z } from 'zod'

/** One input of a calculation as a form shows it, read off its schema. */
export interface SumField {
  readonly name: string
  readonly kind: 'number' | 'text' | 'choice' | 'data'
  readonly says: string
  readonly choices: readonly (string | number)[]
  readonly required: boolean
  readonly start: string
}

interface Property {
  type?: string | string[]
  enum?: string[]
  const?: string | number
  anyOf?: Property[]
  description?: string
  default?: unknown
}

const asText = (v: unknown): string =>
  v === undefined
    ? ''
    : typeof v === 'string'
      ? v
      : typeof v === 'object'
        ? JSON.stringify(v, null, 1)
        : String(v as number | boolean)

/** What may be chosen, when the schema lists it: an enumeration, or one of several constants. */
function choicesOf(p: Property): readonly (string | number)[] {
  if (p.enum) return p.enum
  const constants = (p.anyOf ?? []).flatMap((x) => (x.const === undefined ? [] : [x.const]))
  return constants.length === (p.anyOf ?? []).length ? constants : []
}

/** The fields of a calculation's form, with its example filled in. */
export function fieldsOf(c: Calculation): SumField[] {
  const schema = z.toJSONSchema(c.input, { io: 'input', unrepresentable: 'any' }) as {
    properties?: Record<string, Property>
    required?: string[]
  }
  const example = (c.example ?? {}) as Record<string, unknown>
  return Object.entries(schema.properties ?? {}).map(([name, p]) => {
    const choices = choicesOf(p)
    const plain =
      p.type === 'number' || p.type === 'integer' ? 'number' : p.type === 'string' ? 'text' : 'data'
    return {
      name,
      kind: choices.length > 0 ? 'choice' : plain,
      says: p.description ?? '',
      choices,
      required: schema.required?.includes(name) ?? false,
      start: asText(example[name] ?? p.default),
    }
  })
}

export type SumResult =
  | { readonly kind: 'result'; readonly rows: readonly { readonly name: string; readonly value: string }[] }
  | { readonly kind: 'refused'; readonly at: ReadonlyMap<string, string>; readonly says: readonly string[] }

/** Computes from what was typed; what is wrong comes back at its field. */
export function compute(
  c: Calculation,
  fields: readonly SumField[],
  typed: Readonly<Record<string, string>>,
): SumResult {
  const input: Record<string, unknown> = {}
  const at = new Map<string, string>()
  for (const f of fields) {
    const text = (typed[f.name] ?? '').trim()
    if (text === '') continue
    if (f.kind === 'number') {
      const parsed = parseNumber(text)
      if (parsed.kind === 'number' && parsed.rest === '') input[f.name] = parsed.value
      else
        at.set(
          f.name,
          parsed.kind === 'refused'
            ? parsed.says
            : `“${text}” has more than a number in it. The unit goes into its own field.`,
        )
    } else if (f.kind === 'data') {
      try {
        input[f.name] = JSON.parse(text)
      } catch {
        at.set(f.name, 'This is not complete yet: brackets and quotation marks must close.')
      }
    } else input[f.name] = f.choices.find((c) => String(c) === text) ?? text
  }
  if (at.size > 0) return { kind: 'refused', at, says: [] }
  const told = answer(c, input)
  if (told.kind === 'refused') {
    const says: string[] = []
    for (const p of told.problems) {
      const field = p.where.split('.')[0] ?? ''
      if (fields.some((f) => f.name === field))
        at.set(field, p.where === field ? p.says : `${p.where}: ${p.says}`)
      else says.push(p.says)
    }
    return { kind: 'refused', at, says }
  }
  return { kind: 'result', rows: flatten(told.result, '') }
}

const MOST_ROWS = 200

function flatten(x: unknown, name: string): { name: string; value: string }[] {
  if (typeof x !== 'object' || x === null)
    return [
      {
        name,
        value:
          typeof x === 'number' ? String(Number(x.toPrecision(10))) : String(x as string | boolean | null),
      },
    ]
  return Object.entries(x)
    .flatMap(([k, v]) => flatten(v, name === '' ? k : `${name} ${k}`))
    .slice(0, MOST_ROWS)
}
