import { z } from 'zod'

const amount = z.number().min(0).max(1e6)
const count = z.number().min(0).max(1000)

/** What a job uses up: each by what it depends on. Factors are typical. */
export const UseSchema = z.discriminatedUnion('item', [
  z.strictObject({
    item: z.literal('couplant'),
    sensors: count,
    face_cm2: amount,
    film_mm: amount.default(0.5),
  }),
  z.strictObject({ item: z.literal('film'), layers: count, od_mm: amount, length_mm: amount }),
  z.strictObject({ item: z.literal('tape'), joints: count, thread_mm: amount, turns: count.default(6) }),
  z.strictObject({
    item: z.literal('buffer'),
    pH: z.number().min(0).max(14),
    beaker_ml: amount,
    rinses: count.default(1),
    probes: count.default(1),
  }),
  z.strictObject({ item: z.literal('water'), changes: count, probes: count.default(1) }),
  z.strictObject({
    item: z.literal('nitrogenFill'),
    cycles: count,
    volume_l: amount,
    gauge_kPa: amount,
    t_C: z.number().min(-60).max(120),
  }),
  z.strictObject({
    item: z.literal('nitrogenFlow'),
    steps: z.array(z.strictObject({ kg_h: amount, minutes: amount })).max(100),
  }),
])
export type Use = z.output<typeof UseSchema>

const up = (x: number) => Math.ceil(x - 1e-9)
const KELVIN = 273.15
const ATM_KPA = 101.325
const N2_KG_M3 = 1.250_53
const LOSS = 1.2

/** Name and amount of what is used up, rounded up; nl are litres at 0 °C and 101.325 kPa. */
export function usedBy(u: Use): readonly [key: string, amount: number] {
  switch (u.item) {
    case 'couplant':
      return ['couplant_g', up(u.sensors * ((u.face_cm2 * u.film_mm) / 10) * 1.1 * 1.5)]
    case 'film':
      return ['film_cm2', up((u.layers * (Math.PI * u.od_mm + 50) * u.length_mm) / 100)]
    case 'tape':
      return ['tape_cm', up((u.joints * u.turns * Math.PI * u.thread_mm) / 10)]
    case 'buffer':
      return [`buffer_${u.pH}_ml`, up(u.beaker_ml * (1 + u.rinses) * u.probes)]
    case 'water':
      return ['rinse_water_ml', up(100 * u.changes * u.probes)]
    case 'nitrogenFill':
      return [
        'nitrogen_nl',
        up(((u.cycles * u.volume_l * u.gauge_kPa) / ATM_KPA) * (KELVIN / (KELVIN + u.t_C)) * LOSS),
      ]
    case 'nitrogenFlow':
      return [
        'nitrogen_nl',
        up(u.steps.reduce((n, s) => n + ((s.kg_h * s.minutes) / 60 / N2_KG_M3) * 1000 * LOSS, 0)),
      ]
  }
}

/** What a bottle of nitrogen gives, litres at 0 °C and 101.325 kPa, as an ideal gas. @param p, rest - bar gauge */
export const bottleHolds_nl = (volume_l: number, p: number, rest: number, t_C: number): number =>
  Math.floor((((volume_l * (p - rest) * 100) / ATM_KPA) * KELVIN) / (KELVIN + t_C))

/** All that is used up, and what of it the stock has not. */
export function amountsOf(uses: readonly Use[], stock: Readonly<Record<string, number>>) {
  const amounts: Record<string, number> = {}
  for (const u of uses) {
    const [key, value] = usedBy(u)
    amounts[key] = (amounts[key] ?? 0) + value
  }
  const short = Object.fromEntries(
    Object.entries(amounts).flatMap(([k, v]) =>
      v > (stock[k] ?? 0) ? [[k, v - (stock[k] ?? 0)] as const] : [],
    ),
  )
  return { amounts, short }
}
