import type { Fix } from '../finding.ts'
import type { SettingValue } from '../quantity/setting.ts'

/** As a person would type it: a conversion leaves more digits than anybody knows. */
const asTyped = (value: number): number => Number(value.toPrecision(6))

/** Entries of a set-up put right, as one act; tables are brought in, never put right by a touch. */
export const entryFix = (label: string, set: Readonly<Record<string, SettingValue | undefined>>): Fix => ({
  label,
  set: Object.entries(set).flatMap(([name, value]) =>
    value === undefined || typeof value === 'object'
      ? []
      : [{ path: `setUp.values.${name}`, value: typeof value === 'number' ? asTyped(value) : value }],
  ),
})
