/** Sound speeds, density and expansion of pipe, liner and wedge materials at 20 °C. Typical; prefer the supplier's data. */
export interface Material {
  readonly key: string
  readonly title: string
  readonly cLong_m_s: number
  /** Null where no shear wave is usable. */
  readonly cShear_m_s: number | null
  readonly density_kg_m3: number
  /** Length expansion, 1e-6 per K. */
  readonly alpha: number
}

const ROWS = [
  ['carbon_steel', 'carbon steel', 5900, 3230, 7850, 11.7],
  ['stainless_304', 'stainless steel 304/304L', 5660, 3120, 7930, 16.5],
  ['stainless_316', 'stainless steel 316/316L', 5740, 3090, 7980, 16],
  ['duplex_stainless', 'duplex stainless steel', 5750, 3150, 7800, 13],
  ['ductile_iron', 'ductile (nodular) iron', 5500, 3050, 7100, 11],
  ['cast_iron_grey', 'grey cast iron', 4600, 2600, 7200, 10.5],
  ['copper', 'copper', 4700, 2260, 8930, 16.9],
  ['brass', 'brass (70/30)', 4430, 2110, 8500, 19.5],
  ['cu_ni_90_10', 'copper-nickel 90/10', 4760, 2320, 8900, 17],
  ['aluminium', 'aluminium (6061)', 6320, 3130, 2700, 23.5],
  ['titanium', 'titanium grade 2', 6070, 3120, 4510, 8.9],
  ['nickel_alloy_c276', 'nickel alloy C-276', 5840, 3020, 8890, 11.2],
  ['pvc', 'PVC, unplasticised', 2380, 1060, 1400, 70],
  ['cpvc', 'CPVC', 2400, 1060, 1540, 65],
  ['pe_hd', 'polyethylene, high density', 2430, 950, 955, 180],
  ['pp', 'polypropylene', 2740, 1300, 905, 150],
  ['pvdf', 'PVDF', 2300, 1100, 1780, 120],
  ['abs', 'ABS', 2250, 1050, 1050, 90],
  ['grp', 'glass-reinforced plastic (GRP)', 2700, 1450, 1850, 20],
  ['asbestos_cement', 'asbestos cement', 2200, 1300, 1900, 10],
  ['concrete', 'concrete', 4200, 2500, 2350, 11],
  ['cement_mortar', 'cement mortar (liner)', 4200, 2500, 2200, 11],
  ['rubber_hard', 'rubber, hard (ebonite)', 2400, 1100, 1200, 80],
  ['rubber_soft', 'rubber, soft (natural)', 1550, null, 1000, 200],
  ['polyurethane', 'polyurethane (liner)', 1800, null, 1150, 150],
  ['epoxy', 'epoxy', 2600, 1150, 1200, 60],
  ['coal_tar', 'coal-tar enamel', 2000, 1000, 1300, 80],
  ['bitumen', 'bitumen', 2500, 1100, 1050, 200],
  ['glass_borosilicate', 'borosilicate glass', 5640, 3280, 2240, 3.3],
  ['glass_lining', 'glass/enamel lining on steel', 5300, 3100, 2500, 8.5],
  ['ptfe', 'PTFE', 1350, 550, 2170, 135],
  ['pfa', 'PFA', 1210, 500, 2150, 130],
  ['peek', 'PEEK (sensor wedges)', 2540, 1120, 1300, 50],
  ['pei', 'polyetherimide (sensor wedges)', 2420, 1090, 1270, 56],
  ['pmma', 'acrylic, PMMA (sensor wedges)', 2730, 1430, 1190, 70],
  ['paint', 'paint film', 2500, null, 1400, 60],
] as const satisfies readonly (readonly [string, string, number, number | null, number, number])[]
/** A material as a setting names it. */
export type MaterialKey = (typeof ROWS)[number][0]

/** The materials by name, as a choice offers them. */
export const MATERIAL_TITLES = Object.fromEntries(ROWS.map(([key, title]) => [key, title])) as Readonly<
  Record<MaterialKey, string>
>

export const MATERIALS: readonly Material[] = ROWS.map(
  ([key, title, cLong_m_s, cShear_m_s, density_kg_m3, alpha]) => ({
    key,
    title,
    cLong_m_s,
    cShear_m_s,
    density_kg_m3,
    alpha,
  }),
)

const byKey = new Map(MATERIALS.map((m) => [m.key, m]))
export const materialOf = (key: string): Material | null => byKey.get(key) ?? null
