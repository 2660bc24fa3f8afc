/**
 * How dense the water of a water column is taken. A bare inH2O or mmH2O does not exist: the water's temperature belongs
 * to the unit, and two conventions differ by up to 0.18 %.
 */
export const WATERS = ['4C', '60F', '20C', 'conv'] as const
export type Water = (typeof WATERS)[number]

export const WATER_SAYS: Readonly<Record<Water, string>> = {
  '4C': 'water at 4 °C',
  '60F': 'water at 60 °F',
  '20C': 'water at 20 °C (68 °F)',
  conv: 'conventional water, 1000 kg/m³',
}

/** The unit's length and its convention; null where it is no water column. 68 °F is 20 °C. */
export function waterColumn(symbol: string): { readonly length: string; readonly water: Water } | null {
  const told = /^(mm|cm|m|in|ft)H2O@(.+)$/.exec(symbol)
  const convention = told?.[2] === '68F' ? '20C' : told?.[2]
  const water = WATERS.find((w) => w === convention)
  return told?.[1] === undefined || water === undefined ? null : { length: told[1], water }
}

/**
 * What was written for a water column without its temperature: `in H2O`, `mmWC`, `inwg`.
 * @returns the length that is counted; null where it is something else, or says its temperature
 */
export function bareWater(typed: string): string | null {
  const text = typed
    .toLowerCase()
    .replace(/[\s._]/g, '')
    .replace('₂', '2')
  return /^(mm|cm|m|in|ft)(?:h2o|wc|wg|ws)$/.exec(text)?.[1] ?? null
}
