import { bisect } from './bisect.ts'

const STEPS = 400

/** Where a curve meets a value, between two limits, rising; several where it turns back. Null has no value there. */
export function crossings(
  curve: (x: number) => number | null,
  wanted: number,
  from: number,
  to: number,
): number[] {
  const out: number[] = []
  const at = (x: number) => {
    const y = curve(x)
    return y === null ? NaN : y - wanted
  }
  let before = at(from)
  for (let i = 1; i <= STEPS; i++) {
    const x1 = from + ((to - from) * i) / STEPS
    const now = at(x1)
    if (before === 0 || before * now < 0) {
      const start = before
      out.push(bisect((x) => start * at(x) <= 0, from + ((to - from) * (i - 1)) / STEPS, x1, 0))
    }
    before = now
  }
  return out
}
