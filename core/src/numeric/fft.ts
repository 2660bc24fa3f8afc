/** Cosine and sine around half a circle in n / 2 steps. */
interface Circle {
  readonly cos: Float64Array
  readonly sin: Float64Array
}
/** Complex numbers. */
export interface Complex {
  readonly re: Float64Array
  readonly im: Float64Array
}
function circleOf(n: number): Circle {
  const [cos, sin] = [new Float64Array(n / 2), new Float64Array(n / 2)]
  for (let k = 0; k < n / 2; k++) {
    cos[k] = Math.cos((2 * Math.PI * k) / n)
    sin[k] = Math.sin((2 * Math.PI * k) / n)
  }
  return { cos, sin }
}

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

/** Fourier transform of any count of complex numbers, by Bluestein's chirp: each bin is a whole number of periods. */
function transformed(x: Complex): Complex {
  const n = x.re.length
  let size = 1
  while (size < 2 * n - 1) size *= 2
  const [re, im] = [new Float64Array(size), new Float64Array(size)]
  const [cre, cim] = [new Float64Array(size), new Float64Array(size)]
  for (let i = 0; i < n; i++) {
    const angle = (Math.PI * ((i * i) % (2 * n))) / n
    const [c, s] = [Math.cos(angle), Math.sin(angle)]
    const [a, b] = [x.re[i] ?? 0, x.im[i] ?? 0]
    re[i] = a * c + b * s
    im[i] = b * c - a * s
    cre[i] = c
    cim[i] = s
    if (i > 0) {
      cre[size - i] = c
      cim[size - i] = s
    }
  }
  // Kept for the way back: the transforms take the place of what they transform.
  const [chirpRe, chirpIm] = [cre.slice(0, n), cim.slice(0, n)]
  const circle = circleOf(size)
  powerOfTwo(re, im, -1, circle)
  powerOfTwo(cre, cim, -1, circle)
  for (let i = 0; i < size; i++) {
    const [a, b] = [re[i] ?? 0, im[i] ?? 0]
    re[i] = a * (cre[i] ?? 0) - b * (cim[i] ?? 0)
    im[i] = a * (cim[i] ?? 0) + b * (cre[i] ?? 0)
  }
  powerOfTwo(re, im, 1, circle)
  const out = { re: new Float64Array(n), im: new Float64Array(n) }
  for (let k = 0; k < n; k++) {
    const [a, b] = [(re[k] ?? 0) / size, (im[k] ?? 0) / size]
    const [c, s] = [chirpRe[k] ?? 0, chirpIm[k] ?? 0]
    out.re[k] = a * c + b * s
    out.im[k] = b * c - a * s
  }
  return out
}

/**
 * |Fourier transform|² of real numbers of any count n at 0, 1, … ⌊n/2⌋ periods in the whole.
 * Two neighbours of an even count go as one complex number, which takes half the time.
 */
export function powerSpectrum(x: Float64Array): Float64Array {
  const n = x.length
  const power = new Float64Array(Math.floor(n / 2) + 1)
  if (n % 2 === 1) {
    const { re, im } = transformed({ re: x, im: new Float64Array(n) })
    for (let k = 0; k < power.length; k++) power[k] = (re[k] ?? 0) ** 2 + (im[k] ?? 0) ** 2
    return power
  }
  const half = n / 2
  const pairs = { re: new Float64Array(half), im: new Float64Array(half) }
  for (let i = 0; i < half; i++) {
    pairs.re[i] = x[2 * i] ?? 0
    pairs.im[i] = x[2 * i + 1] ?? 0
  }
  const { re, im } = transformed(pairs)
  for (let k = 0; k < power.length; k++) {
    const [p, q] = [k % half, (half - k) % half]
    // Transforms of the even ones and of the odd ones, taken apart.
    const [evenRe, evenIm] = [((re[p] ?? 0) + (re[q] ?? 0)) / 2, ((im[p] ?? 0) - (im[q] ?? 0)) / 2]
    const [oddRe, oddIm] = [((im[p] ?? 0) + (im[q] ?? 0)) / 2, ((re[q] ?? 0) - (re[p] ?? 0)) / 2]
    const [c, s] = [Math.cos((2 * Math.PI * k) / n), Math.sin((2 * Math.PI * k) / n)]
    power[k] = (evenRe + oddRe * c + oddIm * s) ** 2 + (evenIm + oddIm * c - oddRe * s) ** 2
  }
  return power
}

/** Fourier transforms of two real series by one of complex numbers, padded with zeros. @param size - a power of two */
export function twoSpectra(x: Float64Array, y: Float64Array, size: number): readonly [Complex, Complex] {
  const [re, im] = [new Float64Array(size), new Float64Array(size)]
  re.set(x)
  im.set(y)
  powerOfTwo(re, im, -1, circleOf(size))
  const empty = () => ({ re: new Float64Array(size), im: new Float64Array(size) })
  const [ofX, ofY] = [empty(), empty()]
  for (let k = 0; k < size; k++) {
    const q = (size - k) % size
    const [a, b, c, d] = [re[k] ?? 0, im[k] ?? 0, re[q] ?? 0, im[q] ?? 0]
    ofX.re[k] = (a + c) / 2
    ofX.im[k] = (b - d) / 2
    ofY.re[k] = (b + d) / 2
    ofY.im[k] = (c - a) / 2
  }
  return [ofX, ofY]
}

/**
 * Two correlations in one way back: Σ x(i + k)·y(i) at every k, the negative ones counted from the end.
 * @param first, second - spectra of x and of y of each
 */
export function twoCorrelations(
  first: readonly [Complex, Complex],
  second: readonly [Complex, Complex],
): readonly [Float64Array, Float64Array] {
  const size = first[0].re.length
  const [re, im] = [new Float64Array(size), new Float64Array(size)]
  for (let k = 0; k < size; k++) {
    const [p, q] = [product(first, k), product(second, k)]
    re[k] = p.re - q.im
    im[k] = p.im + q.re
  }
  powerOfTwo(re, im, 1, circleOf(size))
  for (let k = 0; k < size; k++) {
    re[k] = (re[k] ?? 0) / size
    im[k] = (im[k] ?? 0) / size
  }
  return [re, im]
}

/** x times the conjugate of y. */
function product(
  [x, y]: readonly [Complex, Complex],
  k: number,
): { readonly re: number; readonly im: number } {
  const [a, b, c, d] = [x.re[k] ?? 0, x.im[k] ?? 0, y.re[k] ?? 0, y.im[k] ?? 0]
  return { re: a * c + b * d, im: b * c - a * d }
}
