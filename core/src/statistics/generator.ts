const MASK = (1n << 64n) - 1n

/** Two halves of each SplitMix64 output, low first. */
function splitMix64(seed: number, outputs: number): number[] {
  let state = BigInt(seed) & MASK
  const words: number[] = []
  for (let i = 0; i < outputs; i++) {
    state = (state + 0x9e3779b97f4a7c15n) & MASK
    let z = state
    z = ((z ^ (z >> 30n)) * 0xbf58476d1ce4e5b9n) & MASK
    z = ((z ^ (z >> 27n)) * 0x94d049bb133111ebn) & MASK
    z ^= z >> 31n
    words.push(Number(z & 0xffffffffn), Number(z >> 32n))
  }
  return words
}

/** The state of a generator, to be stored and taken up again. */
export interface GeneratorState {
  readonly words: readonly [number, number, number, number]
  readonly cachedNormal: number | null
}

/**
 * Seeded random numbers: xoshiro128**, seeded by SplitMix64. The same seed gives the same digits everywhere;
 * the seed is stored with every result that came of it.
 */
export class Generator {
  private a: number
  private b: number
  private c: number
  private d: number
  private cached: number | null = null

  constructor(seed: number | GeneratorState) {
    const [a = 0, b = 0, c = 0, d = 0] = typeof seed === 'number' ? splitMix64(seed, 2) : seed.words
    this.a = a | 0
    this.b = b | 0
    this.c = c | 0
    this.d = d | 0
    if (typeof seed !== 'number') this.cached = seed.cachedNormal
  }

  /** A whole number from 0 to 2³² − 1. */
  u32(): number {
    const product = Math.imul(this.b, 5)
    const result = Math.imul((product << 7) | (product >>> 25), 9) >>> 0
    const t = this.b << 9
    this.c ^= this.a
    this.d ^= this.b
    this.b ^= this.c
    this.a ^= this.d
    this.c ^= t
    this.d = (this.d << 11) | (this.d >>> 21)
    return result
  }

  /** From 0 up to but not including 1, with 53 bits. */
  uniform(): number {
    const high = this.u32() >>> 5
    return (high * 67_108_864 + (this.u32() >>> 6)) / 9_007_199_254_740_992
  }

  /** Standard normal, Box-Muller; the second of each pair is kept for the next call. */
  normal(): number {
    if (this.cached !== null) {
      const kept = this.cached
      this.cached = null
      return kept
    }
    const r = Math.sqrt(-2 * Math.log(1 - this.uniform()))
    const angle = 2 * Math.PI * this.uniform()
    this.cached = r * Math.sin(angle)
    return r * Math.cos(angle)
  }

  state(): GeneratorState {
    return {
      words: [this.a >>> 0, this.b >>> 0, this.c >>> 0, this.d >>> 0],
      cachedNormal: this.cached,
    }
  }
}
