/** Lower triangle L with L·Lᵀ = A, for a symmetric positive definite matrix. */
export function cholesky(A: readonly (readonly number[])[]): number[][] {
  const n = A.length
  const L = Array.from({ length: n }, () => new Array<number>(n).fill(0))
  for (let i = 0; i < n; i++)
    for (let j = 0; j <= i; j++) {
      let sum = A[i]?.[j] ?? 0
      for (let k = 0; k < j; k++) sum -= (L[i]?.[k] ?? 0) * (L[j]?.[k] ?? 0)
      const row = L[i]
      if (!row) continue
      // Readings without any uncertainty make the matrix singular; a trace keeps it solvable.
      row[j] = i === j ? Math.sqrt(Math.max(sum, 1e-18)) : sum / (L[j]?.[j] ?? 1)
    }
  return L
}

/** x with L·Lᵀ·x = b. */
export function solve(L: readonly (readonly number[])[], b: readonly number[]): number[] {
  const n = L.length
  const y: number[] = []
  for (let i = 0; i < n; i++) {
    let sum = b[i] ?? 0
    for (let k = 0; k < i; k++) sum -= (L[i]?.[k] ?? 0) * (y[k] ?? 0)
    y.push(sum / (L[i]?.[i] ?? 1))
  }
  const x = new Array<number>(n).fill(0)
  for (let i = n - 1; i >= 0; i--) {
    let sum = y[i] ?? 0
    for (let k = i + 1; k < n; k++) sum -= (L[k]?.[i] ?? 0) * (x[k] ?? 0)
    x[i] = sum / (L[i]?.[i] ?? 1)
  }
  return x
}
