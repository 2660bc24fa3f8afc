import type { LogFinding, Values } from './finding.ts'

/**
 * Runs of one value too long for the chance of the log's own resolution. All but the first sample of each are left
 * out of what is judged after it.
 * @param limits - values at which standing still is something else
 */
export function frozen(
  s: Values,
  minRun: number,
  limits: readonly number[],
): { readonly found: readonly LogFinding[]; readonly keep: Uint8Array } {
  const keep = new Uint8Array(s.n).fill(1)
  const runs: { from: number; length: number }[] = []
  for (let i = 0; i < s.n; i++) {
    const last = runs.at(-1)
    if (last && s.x[i] === s.x[last.from]) last.length++
    else runs.push({ from: i, length: 1 })
  }
  const three = runs.map((r) => r.length).sort((a, b) => b - a)
  const longest = three.slice(0, 3).reduce((a, b) => a + b, 0)
  const others = runs.length - Math.min(3, runs.length)
  const meanLength = others > 0 ? (s.n - longest) / others : 1
  const p0 = Math.min(0.9999, Math.max(0.05, 1 - 1 / meanLength))
  const limit = Math.max(minRun, (3 * Math.log(s.n / 0.001)) / -Math.log(p0))
  const found: LogFinding[] = []
  for (const { from, length } of runs) {
    const value = s.x[from] ?? 0
    if (length < limit || limits.includes(value)) continue
    keep.fill(0, from + 1, from + length)
    found.push({
      code: 'FROZEN',
      from: s.t[from] ?? 0,
      to: s.t[from + length - 1] ?? 0,
      evidence: { samples: length, value, limit },
    })
  }
  return { found, keep }
}
