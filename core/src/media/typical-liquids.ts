/** A liquid with handbook values at 20 °C: typical; the supplier's data, if entered, win. */
export interface TypicalLiquid {
  readonly title: string
  readonly density_kg_m3: number
  readonly viscosity_mPa_s: number
  readonly soundSpeed_m_s: number
  /** Change of sound speed by temperature, m/s per K. */
  readonly perK: number
  /** How sure the sound speed is, %. */
  readonly sure_pct: number
}
const liquid = (
  title: string,
  density_kg_m3: number,
  viscosity_mPa_s: number,
  soundSpeed_m_s: number,
  perK: number,
  sure_pct = 2,
): TypicalLiquid => ({ title, density_kg_m3, viscosity_mPa_s, soundSpeed_m_s, perK, sure_pct })

export const TYPICAL_LIQUIDS: Readonly<Record<string, TypicalLiquid>> = {
  eg20: liquid('ethylene glycol 20 %', 1024, 1.66, 1575, 1),
  eg30: liquid('ethylene glycol 30 %', 1038, 2.17, 1610, 0),
  eg40: liquid('ethylene glycol 40 %', 1052, 2.82, 1645, -1),
  eg50: liquid('ethylene glycol 50 %', 1065, 3.69, 1675, -1.5),
  eg60: liquid('ethylene glycol 60 %', 1077, 4.85, 1695, -2),
  pg20: liquid('propylene glycol 20 %', 1015, 2.03, 1580, 0),
  pg30: liquid('propylene glycol 30 %', 1024, 2.97, 1615, -1),
  pg40: liquid('propylene glycol 40 %', 1032, 4.38, 1635, -1.5),
  pg50: liquid('propylene glycol 50 %', 1039, 6.39, 1640, -2),
  pg60: liquid('propylene glycol 60 %', 1043, 9.28, 1630, -2.5),
  diesel: liquid('diesel', 835, 3.5, 1375, -3.6),
  heating_oil: liquid('light heating oil', 850, 5, 1400, -3.6),
  kerosene: liquid('kerosene', 800, 1.5, 1320, -3.7),
  petrol: liquid('petrol', 740, 0.5, 1190, -4),
  hydraulic_oil: liquid('hydraulic or lube oil VG 46', 870, 105, 1455, -3.5),
  vegetable_oil: liquid('vegetable oil', 920, 65, 1465, -3.4),
  milk: liquid('whole milk', 1030, 2.1, 1520, 2),
  skim_milk: liquid('skim milk', 1034, 1.7, 1516, 2.4),
  cream: liquid('cream, 20 % fat', 1013, 6, 1510, 0),
  juice: liquid('fruit juice, 12 °Bx', 1047, 1.4, 1530, 2),
  syrup: liquid('sugar syrup, 40 °Bx', 1176, 6.2, 1650, 1),
  ethanol: liquid('ethanol', 789, 1.2, 1165, -3.4),
  methanol: liquid('methanol', 791, 0.59, 1120, -3.3),
  acetone: liquid('acetone', 790, 0.32, 1190, -4.5),
  sulfuric_acid: liquid('sulfuric acid 98 %', 1836, 25, 1350, -1.5, 5),
  caustic_soda: liquid('caustic soda 50 %', 1525, 78, 2500, -2, 5),
}
/** Handbook values are not carried farther than this from 20 °C. */
export const TYPICAL_FROM_C = 0
export const TYPICAL_TO_C = 60

/** Saturated liquid ammonia: °C, density kg/m³, sound speed m/s, viscosity mPa·s; linear between. */
const AMMONIA: readonly (readonly [t: number, rho: number, c: number, mu: number])[] = [
  [-30, 677.5, 1715, 0.243],
  [-20, 665, 1650, 0.214],
  [-10, 652, 1584, 0.19],
  [0, 638.6, 1516, 0.17],
  [10, 624.8, 1446, 0.153],
  [20, 610.4, 1374, 0.138],
  [30, 595.4, 1300, 0.126],
  [40, 579.6, 1224, 0.114],
]
/** Ammonia at a temperature; null outside the table. */
export function ammonia(
  t_C: number,
): { density_kg_m3: number; soundSpeed_m_s: number; viscosity_Pa_s: number } | null {
  const i = AMMONIA.findIndex(([t], k) => t_C >= t && t_C <= (AMMONIA[k + 1]?.[0] ?? -Infinity))
  const [a, b] = [AMMONIA[i], AMMONIA[i + 1]]
  if (!a || !b) return null
  const f = (t_C - a[0]) / (b[0] - a[0])
  const mix = (k: 1 | 2 | 3) => a[k] + (b[k] - a[k]) * f
  return { density_kg_m3: mix(1), soundSpeed_m_s: mix(2), viscosity_Pa_s: mix(3) / 1000 }
}
