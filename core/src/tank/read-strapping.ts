import { parseNumber } from '../quantity/parse-number.ts'
import { convert, findUnit, printedUnit, unitOf, type Unit } from '../quantity/units.ts'
import { strappingProblem, type Strapping } from './strapping.ts'

/** A strapping table as it was read: rows in m and m³, and what its heading made of the numbers. */
export interface ReadStrapping {
  readonly rows: Strapping
  /** Why nothing was taken; null where it was. */
  readonly says: string | null
  /** In which units the columns were read; null where nothing was taken. */
  readonly took: string | null
}

/** A tank is not taller than this, m: higher numbers are in another unit. */
const TALLEST_M = 60
const METRE = unitOf('m')
const CUBIC_METRE = unitOf('m3')

/** The unit that a heading names: `level [cm]`, `Volume, L`, `dip (mm)`; null where it names none of that kind. */
function unitIn(heading: string, like: Unit): Unit | null {
  const words = heading.split(/[\s,;()[\]/:]+/).filter((w) => w !== '')
  for (const word of words.slice().reverse()) {
    const unit = findUnit(word)
    if (unit?.dimension === like.dimension) return unit
  }
  return null
}

/** A strapping table as people have it: rows of cells, a heading with its units or none, decimal comma or point. */
export function readStrapping(cells: readonly (readonly string[])[]): ReadStrapping {
  const rows: [number, number][] = []
  let skipped = 0
  let heading: readonly string[] = []
  const refuse = (says: string): ReadStrapping => ({ rows: [], says, took: null })
  for (const [i, line] of cells.entries()) {
    const filled = line.map((c) => c.trim()).filter((c) => c !== '')
    if (filled.length === 0) continue
    const [level, volume] = [parseNumber(filled[0] ?? ''), parseNumber(filled[1] ?? '')]
    if (level.kind === 'number' && volume.kind === 'number') rows.push([level.value, volume.value])
    else if (rows.length === 0 && i - skipped === 0) {
      skipped++
      heading = filled
    } else
      return refuse(
        `Line ${i + 1} is not a level and a volume: “${line.join('; ').slice(0, 60)}”. Correct it in the file; nothing was taken in.`,
      )
  }
  if (rows.length === 0) return refuse('No rows of two numbers were found: level in m, volume in m³.')
  // Columns that only spaces part leave words of one heading in several cells.
  const [first = '', second = ''] = heading.length === 2 ? heading : [heading.join(' '), heading.join(' ')]
  const [level, volume] = [unitIn(first, METRE), unitIn(second, CUBIC_METRE)]
  const to = (value: number, from: Unit | null, unit: Unit): number => {
    const told = from ? convert(value, from.symbol, unit.symbol) : null
    return told?.kind === 'value' ? told.value : value
  }
  const taken = rows.map(([h, v]) => [to(h, level, METRE), to(v, volume, CUBIC_METRE)] as const)
  const highest = Math.max(...taken.map(([h]) => h))
  if (!level && highest > TALLEST_M)
    return refuse(
      `The levels go to ${highest}, and no tank is ${highest} m high: write the unit into the heading, as “level cm; volume L”. Nothing was taken.`,
    )
  const problem = strappingProblem(taken)
  if (problem) return refuse(`${problem} Nothing was taken.`)
  const named = (u: Unit | null, usual: Unit) =>
    `${printedUnit((u ?? usual).symbol)}${u ? '' : ' (the heading names no unit)'}`
  return {
    rows: taken,
    says: null,
    took: `Levels read in ${named(level, METRE)}, volumes in ${named(volume, CUBIC_METRE)}.`,
  }
}
