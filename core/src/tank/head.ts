import { bisect } from '../numeric/bisect.ts'
/** The end of a vessel: how deep it is and how wide at a height above its apex. Lengths in m. */
export type Head =
  | { readonly kind: 'flat' }
  | { readonly kind: 'hemispherical' }
  /** Depth of the ellipse; a quarter of the diameter is the usual 2:1. */
  | { readonly kind: 'elliptical'; readonly depth_m: number }
  /** Dish radius f·D and knuckle radius k·D. */
  | { readonly kind: 'torispherical'; readonly f: number; readonly k: number }
  | { readonly kind: 'cone'; readonly depth_m: number; readonly outletRadius_m: number }

interface Dish {
  /** Height at which dish and knuckle meet, and the knuckle's own height. */
  readonly a1: number
  readonly a2: number
}
const dishOf = (f: number, k: number, D: number): Dish => {
  const sine = (0.5 - k) / (f - k)
  const alpha = Math.asin(sine)
  return { a1: f * D * (1 - Math.cos(alpha)), a2: k * D * Math.cos(alpha) }
}

export function headDepth_m(head: Head, D: number): number {
  switch (head.kind) {
    case 'flat':
      return 0
    case 'hemispherical':
      return D / 2
    case 'torispherical': {
      const { a1, a2 } = dishOf(head.f, head.k, D)
      return a1 + a2
    }
    default:
      return head.depth_m
  }
}

/** Inside radius at the height z above the apex. */
export function headRadius_m(head: Head, D: number, z: number): number {
  const R = D / 2
  switch (head.kind) {
    case 'flat':
      return R
    case 'hemispherical':
    case 'elliptical': {
      const a = headDepth_m(head, D)
      return R * Math.sqrt(Math.max(0, 1 - ((a - z) / a) ** 2))
    }
    case 'cone':
      return head.outletRadius_m + ((R - head.outletRadius_m) * z) / head.depth_m
    case 'torispherical': {
      const { a1, a2 } = dishOf(head.f, head.k, D)
      if (z <= a1) return Math.sqrt(Math.max(0, z * (2 * head.f * D - z)))
      const q = head.k * D
      return R - q + Math.sqrt(Math.max(0, q * q - (a1 + a2 - z) ** 2))
    }
  }
}

/** Volume of an upright bottom head up to the height z above its apex, m³. */
export function headVolume_m3(head: Head, D: number, z: number): number {
  const R = D / 2
  switch (head.kind) {
    case 'flat':
      return 0
    case 'hemispherical':
    case 'elliptical': {
      const a = headDepth_m(head, D)
      return (Math.PI * R * R * z * z * (3 * a - z)) / (3 * a * a)
    }
    case 'cone': {
      const r0 = head.outletRadius_m
      const r = headRadius_m(head, D, z)
      return (Math.PI * z * (r0 * r0 + r0 * r + r * r)) / 3
    }
    case 'torispherical': {
      const { a1, a2 } = dishOf(head.f, head.k, D)
      const dish = (h: number) => (Math.PI * h * h * (3 * head.f * D - h)) / 3
      if (z <= a1) return dish(z)
      const q = head.k * D
      const c = R - q
      const P = (u: number) =>
        (c * c + q * q) * u +
        c *
          (u * Math.sqrt(Math.max(0, q * q - u * u)) + q * q * Math.asin(Math.max(-1, Math.min(1, u / q)))) -
        u ** 3 / 3
      return dish(a1) + Math.PI * (P(z - a1 - a2) - P(-a2))
    }
  }
}

/** Area of a circle's segment of height h, m². */
export function segment_m2(r: number, h: number): number {
  if (h <= 0) return 0
  if (h >= 2 * r) return Math.PI * r * r
  return r * r * Math.acos((r - h) / r) - (r - h) * Math.sqrt(h * (2 * r - h))
}

/** 32-point Gauss-Legendre on 0..1, by Newton on the Legendre polynomial. */
const GAUSS: readonly (readonly [node: number, weight: number])[] = (() => {
  const n = 32
  return Array.from({ length: n }, (_, i) => {
    let x = Math.cos((Math.PI * (i + 0.75)) / (n + 0.5))
    let slope = 1
    for (let it = 0; it < 100; it++) {
      let [p0, p1] = [1, x]
      for (let k = 2; k <= n; k++) [p0, p1] = [p1, ((2 * k - 1) * x * p1 - (k - 1) * p0) / k]
      slope = (n * (x * p1 - p0)) / (x * x - 1)
      const step = p1 / slope
      x -= step
      if (Math.abs(step) < 1e-16) break
    }
    return [(1 + x) / 2, 1 / ((1 - x * x) * slope * slope)] as const
  })
})()

/** Integral over p..q with both ends softened, so that square-root ends cost no accuracy. */
function integrate(f: (x: number) => number, p: number, q: number): number {
  let sum = 0
  for (const [s, w] of GAUSS) sum += w * f(p + (q - p) * s * s * (3 - 2 * s)) * 6 * s * (1 - s) * (q - p)
  return sum
}

/** Volume of one end of a lying vessel up to the level h above its lowest inside line, m³, slice by slice. */
export function endBySlices_m3(head: Head, D: number, h: number): number {
  const R = D / 2
  const a = headDepth_m(head, D)
  if (a <= 0 || h <= 0) return 0
  const level = Math.min(h, D)
  const slice = (x: number) => {
    const r = headRadius_m(head, D, x)
    return segment_m2(r, level - (R - r))
  }
  // Where the slice's circle just reaches the level its area has a kink: a piece ends there.
  const kink = Math.abs(R - level)
  const cuts = [0, a]
  if (head.kind === 'torispherical') cuts.push(dishOf(head.f, head.k, D).a1)
  if (headRadius_m(head, D, 0) < kink && kink < R)
    cuts.push(bisect((x) => headRadius_m(head, D, x) >= kink, 0, a, 0))
  cuts.sort((x, y) => x - y)
  let sum = 0
  for (let i = 1; i < cuts.length; i++) {
    const [p = 0, q = 0] = [cuts[i - 1], cuts[i]]
    if (q > p) sum += integrate(slice, p, q)
  }
  return sum
}

/** The same in closed form where there is one. */
export function endVolume_m3(head: Head, D: number, h: number): number {
  const level = Math.max(0, Math.min(h, D))
  if (head.kind === 'flat') return 0
  if (head.kind === 'hemispherical' || head.kind === 'elliptical') {
    const R = D / 2
    return (Math.PI * headDepth_m(head, D) * level * level * (3 * R - level)) / (6 * R)
  }
  return endBySlices_m3(head, D, level)
}
