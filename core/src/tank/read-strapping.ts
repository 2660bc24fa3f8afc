import { parseNumber } from '../quantity/parse-number.ts'
import { strappingProblem, type Strapping } from './strapping.ts'

/** A strapping table as people have it: rows of cells, a heading or none, decimal comma or point. */
export function readStrapping(cells: readonly (readonly string[])[]): {
  readonly rows: Strapping
  readonly says: string | null
} {
  const rows: [number, number][] = []
  let skipped = 0
  for (const [i, line] of cells.entries()) {
    const filled = line.map((c) => c.trim()).filter((c) => c !== '')
    if (filled.length === 0) continue
    const [level, volume] = [parseNumber(filled[0] ?? ''), parseNumber(filled[1] ?? '')]
    if (level.kind === 'number' && volume.kind === 'number') rows.push([level.value, volume.value])
    else if (rows.length === 0 && i - skipped === 0) skipped++
    else
      return {
        rows: [],
        says: `Line ${i + 1} is not a level and a volume: “${line.join('; ').slice(0, 60)}”. Correct it in the file; nothing was taken in.`,
      }
  }
  if (rows.length === 0)
    return { rows: [], says: 'No rows of two numbers were found: level in m, volume in m³.' }
  const problem = strappingProblem(rows)
  return problem ? { rows: [], says: `${problem} Nothing was taken.` } : { rows, says: null }
}
