import { between, rowBelow } from '../numeric/interpolate.ts'

/** Rows of a strapping table: level and volume, rising. */
export type Strapping = readonly (readonly [level: number, volume: number])[]

/** What is wrong with a table, or null. TABLE_NOT_MONOTONE. */
export function strappingProblem(table: Strapping): string | null {
  if (table.length < 2) return 'A table needs two rows or more.'
  for (let i = 0; i < table.length; i++) {
    const [h = NaN, v = NaN] = table[i] ?? []
    if (!Number.isFinite(h) || !Number.isFinite(v)) return `Row ${i + 1} is not two numbers.`
    const before = table[i - 1]
    if (!before) continue
    if (h <= before[0]) return `Row ${i + 1}: the level ${h} does not rise above ${before[0]}.`
    if (v < before[1]) return `Row ${i + 1}: the volume ${v} falls below ${before[1]}.`
  }
  return null
}

const at = (table: Strapping, i: number) => table[i] ?? [0, 0]

/** Volume between the rows by straight lines, as most transmitters do; null outside the table. */
export function strappedVolume(table: Strapping, level: number): number | null {
  const [first, last] = [at(table, 0), at(table, table.length - 1)]
  if (!(level >= first[0] && level <= last[0])) return null
  const i = rowBelow(table, level, 0)
  const [[h0, v0], [h1, v1]] = [at(table, i), at(table, i + 1)]
  return between(level, h0, v0, h1, v1)
}
/** Level of a volume by straight lines; null outside the table. Where the volume stands still, the lower end. */
export function strappedLevel(table: Strapping, volume: number): number | null {
  const [first, last] = [at(table, 0), at(table, table.length - 1)]
  if (!(volume >= first[1] && volume <= last[1])) return null
  const i = rowBelow(table, volume, 1)
  const [[h0, v0], [h1, v1]] = [at(table, i), at(table, i + 1)]
  return between(volume, v0, h0, v1, h1)
}

/** Slopes of the monotone cubic through the rows, by weighted harmonic means. @see Fritsch and Carlson, 1980 */
function slopes(table: Strapping): number[] {
  const n = table.length
  const step = (i: number) => at(table, i + 1)[0] - at(table, i)[0]
  const secant = (i: number) => (at(table, i + 1)[1] - at(table, i)[1]) / step(i)
  if (n === 2) return [secant(0), secant(0)]
  const end = (s0: number, s1: number, d0: number, d1: number) => {
    const m = ((2 * s0 + s1) * d0 - s0 * d1) / (s0 + s1)
    if (m * d0 <= 0) return 0
    return d0 * d1 <= 0 && Math.abs(m) > 3 * Math.abs(d0) ? 3 * d0 : m
  }
  return table.map((_, i) => {
    if (i === 0) return end(step(0), step(1), secant(0), secant(1))
    if (i === n - 1) return end(step(n - 2), step(n - 3), secant(n - 2), secant(n - 3))
    const [before, after] = [secant(i - 1), secant(i)]
    if (before * after <= 0) return 0
    const w1 = 2 * step(i) + step(i - 1)
    const w2 = step(i) + 2 * step(i - 1)
    return (w1 + w2) / (w1 / before + w2 / after)
  })
}

/** Volume between the rows by a smooth curve that never falls; null outside the table. */
export function smoothVolume(table: Strapping): (level: number) => number | null {
  const m = slopes(table)
  return (level) => {
    if (!(level >= at(table, 0)[0] && level <= at(table, table.length - 1)[0])) return null
    const i = rowBelow(table, level, 0)
    const [[h0, v0], [h1, v1]] = [at(table, i), at(table, i + 1)]
    const s = h1 - h0
    const t = (level - h0) / s
    return (
      v0 * (1 + 2 * t) * (1 - t) ** 2 +
      s * (m[i] ?? 0) * t * (1 - t) ** 2 +
      v1 * t * t * (3 - 2 * t) +
      s * (m[i + 1] ?? 0) * t * t * (t - 1)
    )
  }
}
