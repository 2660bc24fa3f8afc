/** Units that are mistaken for one another, by quantity, as factors to a common one. */
const QUANTITIES: readonly Readonly<Record<string, number>>[] = [
  {
    bar: 1e5,
    mbar: 100,
    kPa: 1000,
    MPa: 1e6,
    psi: 6894.757293,
    inH2O: 249.08891,
    mmH2O: 9.80665,
    'kgf/cm2': 98066.5,
  },
  { 'm3/h': 1000 / 60, 'L/min': 1, 'L/s': 60, gpm: 3.785411784 },
  { 'kg/h': 1, 't/h': 1000, 'kg/min': 60, 'kg/s': 3600, 'lb/h': 0.45359237 },
  { m: 1, mm: 0.001, cm: 0.01, ft: 0.3048, in: 0.0254 },
]
const SAME_NAME: Readonly<Record<string, string>> = { 'USgal/min': 'gpm' }
const plain = (unit: string) => {
  const bare = unit.replace(/\([ga]\)$/, '').replace(/@conv$/, '')
  return SAME_NAME[bare] ?? bare
}

export interface ScaleFactor {
  readonly k: number
  readonly k0: number
}

/** Everything by which a reading can be off when its unit or its decimal point is: each once. */
export function scaleFactors(unit: string): ScaleFactor[] {
  const u = plain(unit)
  const out: ScaleFactor[] = []
  const add = (k: number, k0 = 0) => {
    if (Math.abs(k - 1) < 1e-9 && k0 === 0) return
    if (!out.some((f) => Math.abs(f.k / k - 1) < 1e-9 && f.k0 === k0)) out.push({ k, k0 })
  }
  const quantity = QUANTITIES.find((q) => u in q)
  const own = quantity?.[u]
  if (quantity && own !== undefined)
    for (const [name, factor] of Object.entries(quantity))
      if (name !== u) {
        add(own / factor)
        add(factor / own)
      }
  if (u === 'degC' || u === 'degF' || u === 'K') {
    add(1.8, 32)
    add(1 / 1.8, -32 / 1.8)
    add(1, 273.15)
  }
  for (const power of [1, 2, 3]) {
    add(10 ** power)
    add(10 ** -power)
  }
  return out
}
