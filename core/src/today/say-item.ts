const ITEMS: Readonly<Record<string, readonly [name: string, unit: string]>> = {
  couplant_g: ['Couplant', 'g'],
  film_cm2: ['Film', 'cm²'],
  tape_cm: ['Tape', 'cm'],
  rinse_water_ml: ['Rinse water', 'mL'],
  nitrogen_nl: ['Nitrogen', 'L at 0 °C and 101.325 kPa'],
}
/** What is used up, by its name and unit. */
export function sayItem(item: string): readonly [name: string, unit: string] {
  const buffer = /^buffer_([\d.]+)_ml$/.exec(item)
  return buffer ? [`Buffer pH ${buffer[1] ?? ''}`, 'mL'] : (ITEMS[item] ?? [item.replace(/_/g, ' '), ''])
}
