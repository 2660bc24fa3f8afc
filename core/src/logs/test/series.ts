/** The numbers of the test series: a linear congruential generator, normal by the sum of twelve. */
export function sumOfTwelve(seed = 20_317): () => number {
  let s = seed
  return () => {
    let z = -6
    for (let k = 0; k < 12; k++) {
      s = (Math.imul(1_664_525, s) + 1_013_904_223) >>> 0
      z += s / 4_294_967_296
    }
    return z
  }
}
/** Rounded to a grid, half up. */
export const rounded = (x: number, g: number): number => Math.floor(x / g + 0.5) / Math.round(1 / g)

export const T0 = 1_772_323_200_000

/** Level + scatter in which neighbours are alike by φ + a wave, on a grid, one sample every `every_s`. */
export function series(o: {
  readonly n: number
  readonly level: number
  readonly sd: number
  readonly phi: number
  readonly g: number
  readonly wave?: (i: number) => number
  readonly sdAt?: (i: number) => number
  readonly every_s?: number
  readonly z?: () => number
}): { t: number[]; v: number[] } {
  const z = o.z ?? sumOfTwelve()
  const out = { t: [] as number[], v: [] as number[] }
  let a = 0
  for (let i = 0; i < o.n; i++) {
    a = o.phi * a + Math.sqrt(1 - o.phi ** 2) * z()
    const x = o.level + (o.sdAt?.(i) ?? o.sd) * a + (o.wave?.(i) ?? 0)
    out.t.push(T0 + i * 1000 * (o.every_s ?? 1))
    out.v.push(o.g > 0 ? rounded(x, o.g) : x)
  }
  return out
}
