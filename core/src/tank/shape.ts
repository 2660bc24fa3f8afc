import { bisect } from '../numeric/bisect.ts'
import { endVolume_m3, headDepth_m, headRadius_m, headVolume_m3, segment_m2, type Head } from './head.ts'

/** Inside dimensions of a tank, m. */
export type TankShape =
  | {
      readonly kind: 'rectangular'
      readonly length_m: number
      readonly width_m: number
      readonly height_m: number
    }
  | { readonly kind: 'sphere'; readonly diameter_m: number }
  | {
      readonly kind: 'vertical'
      readonly diameter_m: number
      readonly shell_m: number
      readonly bottom: Head
      readonly top: Head
    }
  | {
      readonly kind: 'horizontal'
      readonly diameter_m: number
      /** Straight length between the tangent lines. */
      readonly shell_m: number
      readonly left: Head
      readonly right: Head
    }

/** A tank ready to compute with; levels from its lowest inside point. */
export interface Tank {
  readonly height_m: number
  readonly full_m3: number
  /** The level is held between empty and full. */
  readonly volume_m3: (level_m: number) => number
  /** Level of a volume to 1e-9 m; null outside 0..full. */
  readonly level_m: (volume_m3: number) => number | null
  /** Half width at a height, for the drawing. */
  readonly halfWidth_m: (level_m: number) => number
}

const CONVERGED_M = 1e-10

/** What is wrong with a shape in a sentence, or null. */
export function shapeProblem(shape: TankShape): string | null {
  const heads =
    shape.kind === 'vertical'
      ? [shape.bottom, shape.top]
      : shape.kind === 'horizontal'
        ? [shape.left, shape.right]
        : []
  const lengths = Object.entries(shape).flatMap(([k, v]) => (typeof v === 'number' ? [[k, v] as const] : []))
  const bad = lengths.find(([, v]) => !(v > 0))
  if (bad && !(bad[0] === 'shell_m' && bad[1] === 0))
    return `The ${bad[0].replace('_m', '').replace(/([A-Z])/g, ' $1')} of the tank is ${bad[1]} m; it must be above 0.`
  for (const h of heads) {
    if (h.kind === 'torispherical' && !(h.f >= 0.5 && h.k > 0 && h.k < 0.5 && h.f > h.k))
      return `A torispherical head needs a dish radius of 0.5 D or more and a knuckle radius below 0.5 D; ${h.f} and ${h.k} give none.`
    if ((h.kind === 'elliptical' || h.kind === 'cone') && !(h.depth_m > 0))
      return 'A head needs a depth above 0 m.'
    if (
      h.kind === 'cone' &&
      'diameter_m' in shape &&
      !(h.outletRadius_m >= 0 && h.outletRadius_m < shape.diameter_m / 2)
    )
      return 'The outlet of a cone is smaller than the tank.'
  }
  return null
}

function volumeAndHeight(shape: TankShape): Pick<Tank, 'height_m' | 'volume_m3' | 'halfWidth_m'> {
  switch (shape.kind) {
    case 'rectangular': {
      const base = shape.length_m * shape.width_m
      return {
        height_m: shape.height_m,
        volume_m3: (h) => base * h,
        halfWidth_m: () => shape.length_m / 2,
      }
    }
    case 'sphere': {
      const R = shape.diameter_m / 2
      return {
        height_m: 2 * R,
        volume_m3: (h) => (Math.PI * h * h * (3 * R - h)) / 3,
        halfWidth_m: (h) => Math.sqrt(Math.max(0, h * (2 * R - h))),
      }
    }
    case 'vertical': {
      const { diameter_m: D, shell_m: shell, bottom, top } = shape
      const [a, b] = [headDepth_m(bottom, D), headDepth_m(top, D)]
      const bottomFull = headVolume_m3(bottom, D, a)
      const topFull = headVolume_m3(top, D, b)
      const area = (Math.PI * D * D) / 4
      return {
        height_m: a + shell + b,
        volume_m3: (h) =>
          headVolume_m3(bottom, D, Math.min(h, a)) -
          (h >= a ? headVolume_m3(bottom, D, a) - bottomFull : 0) +
          area * Math.max(0, Math.min(h - a, shell)) +
          (h > a + shell ? topFull - headVolume_m3(top, D, Math.max(0, b - (h - a - shell))) : 0),
        halfWidth_m: (h) =>
          h < a
            ? headRadius_m(bottom, D, h)
            : h <= a + shell
              ? D / 2
              : headRadius_m(top, D, Math.max(0, b - (h - a - shell))),
      }
    }
    case 'horizontal': {
      const { diameter_m: D, shell_m: shell, left, right } = shape
      return {
        height_m: D,
        volume_m3: (h) => shell * segment_m2(D / 2, h) + endVolume_m3(left, D, h) + endVolume_m3(right, D, h),
        halfWidth_m: () => shell / 2 + (headDepth_m(left, D) + headDepth_m(right, D)) / 2,
      }
    }
  }
}

/** Levels and volumes of a shape whose dimensions are possible. */
export function tankOf(shape: TankShape): Tank {
  const t = volumeAndHeight(shape)
  const volume_m3 = (level: number) => t.volume_m3(Math.max(0, Math.min(t.height_m, level)))
  const full_m3 = volume_m3(t.height_m)
  return {
    ...t,
    volume_m3,
    full_m3,
    level_m: (volume) => {
      if (!(volume >= 0 && volume <= full_m3 * (1 + 1e-12))) return null
      return bisect((h) => volume_m3(h) >= volume, 0, t.height_m, CONVERGED_M)
    },
  }
}

/**
 * Flat level that holds as much as a heap of solids seen at a distance from the axis.
 * @param way - filling makes a cone upwards, emptying a funnel.
 */
export const equivalentLevel_m = (
  seen_m: number,
  sensorRadius_m: number,
  radius_m: number,
  repose_deg: number,
  way: 'filling' | 'emptying',
): number =>
  seen_m +
  (way === 'filling' ? 1 : -1) *
    (sensorRadius_m - (2 * radius_m) / 3) *
    Math.tan((repose_deg * Math.PI) / 180)
