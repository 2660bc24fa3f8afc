import { deviation } from '../numeric/deviation.ts'
import { mean } from '../numeric/mean.ts'

/** Cycle times of a machine from the times of its rising edges, s. */
export function cyclesOf(rising: readonly number[], ideal_s: number, stop_s = 120) {
  const gaps = rising.slice(1).map((t, i) => t - (rising[i] ?? 0))
  const sorted = [...gaps].sort((a, b) => a - b)
  const n = gaps.length
  const quantile = (p: number) => {
    const at = p * (n - 1)
    const i = Math.floor(at)
    const [a = 0, b = a] = [sorted[i], sorted[Math.min(n - 1, i + 1)]]
    return n === 0 ? 0 : a + (b - a) * (at - i)
  }
  const slow = gaps.filter((g) => g > ideal_s && g <= 1.5 * ideal_s)
  const micro = gaps.filter((g) => g > 1.5 * ideal_s && g <= stop_s)
  const down = gaps.filter((g) => g > stop_s)
  const loss = (list: readonly number[]) => list.reduce((s, g) => s + g - ideal_s, 0)
  return {
    count: rising.length,
    mean: n > 0 ? mean(gaps) : 0,
    sd: deviation(gaps),
    median: quantile(0.5),
    p90: quantile(0.9),
    microStops: micro.length,
    microLoss_s: loss(micro),
    downtime_s: loss(down),
    slowLoss_s: loss(slow),
  }
}

/** Availability, performance and quality; a performance above 1 means the ideal cycle is wrong. */
export function effectiveness(
  planned_s: number,
  down_s: number,
  ideal_s: number,
  total: number,
  good: number,
) {
  const A = (planned_s - down_s) / planned_s
  const P = (ideal_s * total) / (planned_s - down_s)
  const Q = total > 0 ? good / total : 0
  return { A, P, Q, OEE: A * P * Q, idealWrong: P > 1 }
}
