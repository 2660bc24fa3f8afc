/** A line of a label or of a configuration, in the unit its name ends with. */
export type Setting = NumberSetting | ChoiceSetting | FlagSetting | TextSetting | TableSetting

interface Named {
  readonly name: string
  readonly title: string
  /** Shown only when this holds. */
  readonly when?: (s: Settings) => boolean
}
export interface NumberSetting extends Named {
  readonly kind: 'number'
  readonly unit: string
  readonly standard: number
  readonly min: number
  readonly max: number
}
export interface ChoiceSetting extends Named {
  readonly kind: 'choice'
  readonly standard: string
  readonly options: readonly { readonly value: string; readonly title: string }[]
}
export interface FlagSetting extends Named {
  readonly kind: 'flag'
  readonly standard: boolean
}

/** A value kept as it stands on a label: a factor string, a list of readings. */
export interface TextSetting extends Named {
  readonly kind: 'text'
  readonly standard: string
  /** What is wrong with a text, or null. */
  readonly problem?: (text: string) => string | null
}

/** Two columns of numbers: a strapping table, imported or typed. */
export interface TableSetting extends Named {
  readonly kind: 'table'
  readonly columns: readonly [string, string]
  readonly standard: TableRows
  readonly problem?: (rows: TableRows) => string | null
}
export type TableRows = readonly (readonly [number, number])[]
/** Rows that a table may have at the most. */
export const MOST_ROWS = 20_000

export type SettingValue = number | string | boolean | TableRows

/** A part's settings with the defaults filled in. */
export interface Settings {
  readonly num: (name: string) => number
  readonly word: (name: string) => string
  readonly flag: (name: string) => boolean
  readonly table: (name: string) => TableRows
}

export const number = (
  name: string,
  title: string,
  unit: string,
  standard: number,
  min: number,
  max: number,
  when?: Named['when'],
): NumberSetting => ({ kind: 'number', name, title, unit, standard, min, max, ...(when ? { when } : {}) })

export const choice = (
  name: string,
  title: string,
  standard: string,
  options: Readonly<Record<string, string>>,
  when?: Named['when'],
): ChoiceSetting => ({
  kind: 'choice',
  name,
  title,
  standard,
  options: Object.entries(options).map(([value, t]) => ({ value, title: t })),
  ...(when ? { when } : {}),
})

export const flag = (name: string, title: string, standard: boolean, when?: Named['when']): FlagSetting => ({
  kind: 'flag',
  name,
  title,
  standard,
  ...(when ? { when } : {}),
})

export const text = (
  name: string,
  title: string,
  standard: string,
  problem?: TextSetting['problem'],
  when?: Named['when'],
): TextSetting => ({
  kind: 'text',
  name,
  title,
  standard,
  ...(problem ? { problem } : {}),
  ...(when ? { when } : {}),
})

export const table = (
  name: string,
  title: string,
  columns: TableSetting['columns'],
  problem?: TableSetting['problem'],
  when?: Named['when'],
): TableSetting => ({
  kind: 'table',
  name,
  title,
  columns,
  standard: [],
  ...(problem ? { problem } : {}),
  ...(when ? { when } : {}),
})

/** Settings as typed over their defaults. @throws Error for a name the part does not have: a programming error. */
export function settingsOf(
  settings: readonly Setting[],
  given: Readonly<Record<string, SettingValue>>,
): Settings {
  const get = (name: string): SettingValue => {
    const setting = settings.find((s) => s.name === name)
    if (!setting) throw new Error(`there is no setting ${name}`)
    return given[name] ?? setting.standard
  }
  return {
    num: (name) => Number(get(name)),
    word: (name) => {
      const v = get(name)
      return typeof v === 'object' ? '' : String(v)
    },
    flag: (name) => get(name) === true,
    table: (name) => {
      const rows = get(name)
      return Array.isArray(rows) ? (rows as TableRows) : []
    },
  }
}

/** What is wrong with a setting's value, or null. */
export function settingProblem(setting: Setting, value: SettingValue): string | null {
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
      return value < min || value > max
        ? `${title} is ${value} ${unit}; possible is ${min} to ${max} ${unit}.`
        : null
    }
  }
}
