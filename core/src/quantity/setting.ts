import { all, holds, type Condition } from './condition.ts'

/** A line of a label or of a configuration, in the unit its name ends with. */
export type Setting<N extends string = string> =
  NumberSetting<N> | ChoiceSetting<N> | FlagSetting<N> | TextSetting<N> | TableSetting<N>

interface Named<N extends string> {
  readonly name: N
  readonly title: string
  /** Shown, and counted, only where this holds. */
  readonly when?: Condition
}
export interface NumberSetting<N extends string = string> extends Named<N> {
  readonly kind: 'number'
  readonly unit: string
  readonly standard: number
  readonly min: number
  readonly max: number
}
export interface ChoiceSetting<N extends string = string, V extends string = string> extends Named<N> {
  readonly kind: 'choice'
  readonly standard: V
  readonly options: readonly { readonly value: V; readonly title: string }[]
}
export interface FlagSetting<N extends string = string> extends Named<N> {
  readonly kind: 'flag'
  readonly standard: boolean
}

/** A value kept as it stands on a label: a factor string, a list of readings. */
export interface TextSetting<N extends string = string> extends Named<N> {
  readonly kind: 'text'
  readonly standard: string
  /** What is wrong with a text, or null. */
  readonly problem?: (text: string) => string | null
}

/** Two columns of numbers: a strapping table, imported or typed. */
export interface TableSetting<N extends string = string> extends Named<N> {
  readonly kind: 'table'
  readonly columns: readonly [string, string]
  readonly standard: TableRows
  readonly problem?: (rows: TableRows) => string | null
}
export type TableRows = readonly (readonly [number, number])[]
/** Rows that a table may have at the most. */
export const MOST_ROWS = 20_000

export type SettingValue = number | string | boolean | TableRows
/** Values as typed and kept, by the name of their setting; what is missing has its default. */
export type Typed = Readonly<Record<string, SettingValue>>

type ValueOf<S> = S extends NumberSetting
  ? number
  : S extends ChoiceSetting<string, infer V>
    ? V
    : S extends FlagSetting
      ? boolean
      : S extends TextSetting
        ? string
        : TableRows
/** The values of a list of settings, each under its name with its own type: inferred, never written by hand. */
export type ValuesOf<L extends readonly Setting[]> = {
  readonly [S in L[number] as S['name']]: ValueOf<S>
}

export const number = <const N extends string>(
  name: N,
  title: string,
  unit: string,
  standard: number,
  min: number,
  max: number,
  when?: Condition,
): NumberSetting<N> => ({ kind: 'number', name, title, unit, standard, min, max, ...(when ? { when } : {}) })

export const choice = <const N extends string, const V extends string>(
  name: N,
  title: string,
  standard: NoInfer<V>,
  options: Readonly<Record<V, string>>,
  when?: Condition,
): ChoiceSetting<N, V> => ({
  kind: 'choice',
  name,
  title,
  standard,
  options: keysOf(options).map((value) => ({ value, title: options[value] })),
  ...(when ? { when } : {}),
})

export const flag = <const N extends string>(
  name: N,
  title: string,
  standard: boolean,
  when?: Condition,
): FlagSetting<N> => ({ kind: 'flag', name, title, standard, ...(when ? { when } : {}) })

export const text = <const N extends string>(
  name: N,
  title: string,
  standard: string,
  problem?: TextSetting['problem'],
  when?: Condition,
): TextSetting<N> => ({
  kind: 'text',
  name,
  title,
  standard,
  ...(problem ? { problem } : {}),
  ...(when ? { when } : {}),
})

export const table = <const N extends string>(
  name: N,
  title: string,
  columns: TableSetting['columns'],
  problem?: TableSetting['problem'],
  when?: Condition,
): TableSetting<N> => ({
  kind: 'table',
  name,
  title,
  columns,
  standard: [],
  ...(problem ? { problem } : {}),
  ...(when ? { when } : {}),
})

/** The keys of an object with their own type. */
export const keysOf = <K extends string>(o: Readonly<Partial<Record<K, unknown>>>): K[] =>
  Object.keys(o) as K[]

/** The titles of a table of things, as the options of a choice. */
export function titlesOf<K extends string>(
  things: Readonly<Record<K, { readonly title: string }>>,
  say: (thing: { readonly title: string }, key: K) => string = (thing) => thing.title,
): Record<K, string> {
  return Object.fromEntries(keysOf(things).map((k) => [k, say(things[k], k)])) as Record<K, string>
}
/** A list of words that are their own titles, as the options of a choice. */
export const asOptions = <K extends string>(words: readonly K[], say: (word: K) => string = (w) => w) =>
  Object.fromEntries(words.map((w) => [w, say(w)])) as Record<K, string>

/** Values as typed over their defaults, each under its name with its type. */
export function valuesOf<const L extends readonly Setting[]>(settings: L, typed: Typed): ValuesOf<L> {
  const out: Record<string, SettingValue> = {}
  for (const s of settings) out[s.name] = typed[s.name] ?? s.standard
  // What was typed was held against the settings when it was saved; here the compiler cannot see it.
  return out as ValuesOf<L>
}

/** The settings that count with these values: those whose condition holds. */
export const shownSettings = <S extends Setting>(settings: readonly S[], values: Typed): S[] =>
  settings.filter((s) => !s.when || holds(s.when, values))

/** How a number is told to a person: in which unit, and how one of the setting's own is said in it. */
export interface SaidIn {
  readonly unit: string
  readonly of: (value: number) => number
}

/**
 * What is wrong with a setting's value, or null.
 * @param as - the unit in which the entry is shown, where that is not its own
 */
export function settingProblem(setting: Setting, value: SettingValue, as?: SaidIn): string | null {
  switch (setting.kind) {
    case 'flag':
      return typeof value === 'boolean' ? null : `${setting.title} is yes or no.`
    case 'table':
      if (!Array.isArray(value)) return `${setting.title} is a table of two columns.`
      return value.length > MOST_ROWS
        ? `${setting.title}: at most ${MOST_ROWS} rows.`
        : (setting.problem?.(value as TableRows) ?? null)
    case 'text':
      if (typeof value !== 'string') return `${setting.title} is a text.`
      return value.length > 200
        ? `${setting.title}: at most 200 characters.`
        : (setting.problem?.(value) ?? null)
    case 'choice':
      return setting.options.some((o) => o.value === value)
        ? null
        : `${setting.title} is one of ${setting.options.map((o) => o.title).join(', ')}.`
    case 'number': {
      const { title, unit, min, max } = setting
      if (typeof value !== 'number' || !Number.isFinite(value)) return `${title}: type a number.`
      if (value >= min && value <= max) return null
      const [is, from, to] = [value, min, max].map((v) => (as ? as.of(v) : v))
      const said = as?.unit ?? unit
      return `${title} is ${is} ${said}; possible is ${from} to ${to} ${said}.`
    }
  }
}

/** A title in two: what the field is called, and what stands in brackets behind it, which is said below the field. */
export function labelOf(title: string): { readonly label: string; readonly hint: string | null } {
  const [, label = title, hint = null] = /^(.+?) \(([^()]+)\)$/.exec(title) ?? []
  return { label, hint }
}

/** Entries shared by several families, here counted only where a condition holds as well. */
export const onlyWhen = <const L extends readonly Setting[]>(condition: Condition, settings: L): L =>
  // Only the condition changes; names and kinds stay as they are.
  settings.map((s) => ({ ...s, when: s.when ? all(condition, s.when) : condition })) as unknown as L
