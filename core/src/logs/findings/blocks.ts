/** A log in blocks of equal counts. */
export interface Blocks {
  readonly N: number
  /** Samples of a block. */
  readonly m: number
  /** First sample of each block, and the end. */
  readonly edges: Int32Array
}

export function blocksOf(n: number): Blocks {
  const m = Math.max(16, Math.ceil(n / 128))
  const N = Math.floor(n / m)
  return { N, m, edges: Int32Array.from({ length: N + 1 }, (_, i) => Math.round((i * n) / N)) }
}

/** Mean of each block. */
export function blockMeans(x: Float64Array, { N, edges }: Blocks): Float64Array {
  return Float64Array.from({ length: N }, (_, b) => {
    const [from, to] = [edges[b] ?? 0, edges[b + 1] ?? 0]
    let sum = 0
    for (let i = from; i < to; i++) sum += x[i] ?? 0
    return sum / (to - from)
  })
}

/** What stands for each block, at each of its samples. */
export function perSample(ofBlock: Float64Array, { N, edges }: Blocks, n: number): Float64Array {
  const out = new Float64Array(n)
  for (let b = 0; b < N; b++) out.fill(ofBlock[b] ?? 0, edges[b] ?? 0, edges[b + 1] ?? 0)
  return out
}
