/** Cosine and sine around half a circle in n / 2 steps. */
interface Circle {
  readonly cos: Float64Array
  readonly sin: Float64Array
}
const circleOf = (n: number): Circle => ({
  cos: Float64Array.from({ length: n / 2 }, (_, k) => Math.cos((2 * Math.PI * k) / n)),
  sin: Float64Array.from({ length: n / 2 }, (_, k) => Math.sin((2 * Math.PI * k) / n)),
})

/** Fourier transform in place of 2^k complex numbers; `sign` −1 forward, 1 back without its factor. */
function powerOfTwo(re: Float64Array, im: Float64Array, sign: 1 | -1, { cos, sin }: Circle): void {
  const n = re.length
  for (let i = 1, j = 0; i < n; i++) {
    let bit = n >> 1
    for (; j & bit; bit >>= 1) j ^= bit
    j ^= bit
    if (i < j) {
      const [a, b] = [re[i] ?? 0, im[i] ?? 0]
      re[i] = re[j] ?? 0
      im[i] = im[j] ?? 0
      re[j] = a
      im[j] = b
    }
  }
  for (let size = 2; size <= n; size *= 2) {
    const [half, jump] = [size / 2, n / size]
    for (let start = 0; start < n; start += size)
      for (let k = 0; k < half; k++) {
        const c = cos[k * jump] ?? 0
        const s = sign * (sin[k * jump] ?? 0)
        const p = start + k
        const q = p + half
        const x = re[q] ?? 0
        const y = im[q] ?? 0
        const u = x * c - y * s
        const v = x * s + y * c
        re[q] = (re[p] ?? 0) - u
        im[q] = (im[p] ?? 0) - v
        re[p] = (re[p] ?? 0) + u
        im[p] = (im[p] ?? 0) + v
      }
  }
}

/**
 * |Fourier transform|² of real numbers of any count n at 0, 1, … ⌊n/2⌋ periods in the whole.
 * A count that is no power of two goes by Bluestein's chirp, so that each bin is a whole number of periods.
 */
export function powerSpectrum(x: Float64Array): Float64Array {
  const n = x.length
  let size = 1
  while (size < 2 * n - 1) size *= 2
  const [re, im] = [new Float64Array(size), new Float64Array(size)]
  const [cre, cim] = [new Float64Array(size), new Float64Array(size)]
  const chirp = (i: number) => (Math.PI * ((i * i) % (2 * n))) / n
  for (let i = 0; i < n; i++) {
    const a = chirp(i)
    re[i] = (x[i] ?? 0) * Math.cos(a)
    im[i] = -(x[i] ?? 0) * Math.sin(a)
    cre[i] = Math.cos(a)
    cim[i] = Math.sin(a)
    if (i > 0) {
      cre[size - i] = Math.cos(a)
      cim[size - i] = Math.sin(a)
    }
  }
  const circle = circleOf(size)
  powerOfTwo(re, im, -1, circle)
  powerOfTwo(cre, cim, -1, circle)
  for (let i = 0; i < size; i++) {
    const [a, b] = [re[i] ?? 0, im[i] ?? 0]
    re[i] = a * (cre[i] ?? 0) - b * (cim[i] ?? 0)
    im[i] = a * (cim[i] ?? 0) + b * (cre[i] ?? 0)
  }
  powerOfTwo(re, im, 1, circle)
  return Float64Array.from({ length: Math.floor(n / 2) + 1 }, (_, k) => {
    const [a, b] = [(re[k] ?? 0) / size, (im[k] ?? 0) / size]
    return a * a + b * b
  })
}
