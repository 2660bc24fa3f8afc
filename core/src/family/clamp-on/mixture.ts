import { GAS_COMPONENTS, type GasKey } from '../../media/gas-table.ts'
import type { Composition } from '../../media/gas.ts'
import { parseNumber } from '../../quantity/parse-number.ts'

/** A gas as typed: component and share, separated by semicolons or lines. Shares are parts of their sum. */
export function mixtureOf(list: string): Composition | string {
  const out: Partial<Record<GasKey, number>> = {}
  for (const item of list
    .split(/[;\n]+/)
    .map((x) => x.trim())
    .filter((x) => x !== '')) {
    const m = /^([a-zA-Z_ -]+?)\s*[:=]?\s*([\d.,]+)\s*%?$/.exec(item)
    const name = (m?.[1] ?? '').toLowerCase().replace(/[ -]+/g, '_')
    const known = GAS_COMPONENTS.find((c) => c.key === name)
    if (!m || !known)
      return `“${item}” is not a component and its share. There are ${GAS_COMPONENTS.map((c) => c.key.replace(/_/g, ' ')).join(', ')}.`
    const share = parseNumber(m[2] ?? '')
    if (share.kind !== 'number') return `“${m[2]}” is not a share of ${name}.`
    out[known.key] = (out[known.key] ?? 0) + share.value / 100
  }
  return out
}
