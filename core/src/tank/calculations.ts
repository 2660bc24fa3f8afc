import { z } from 'zod'
import { calculation } from '../calculation.ts'
import { sayNumber } from '../quantity/round.ts'
import { refused } from '../refused.ts'
import { characterize } from './characterize.ts'
import type { Head } from './head.ts'
import { equivalentLevel_m, shapeProblem, tankOf, type Tank, type TankShape } from './shape.ts'
import { smoothVolume, strappedLevel, strappedVolume, strappingProblem } from './strapping.ts'

const metre = z.number().describe('m')
const HeadInput = z
  .discriminatedUnion('kind', [
    z.strictObject({ kind: z.literal('flat') }),
    z.strictObject({ kind: z.literal('hemispherical') }),
    z.strictObject({ kind: z.literal('elliptical'), a: metre.optional().describe('m; D/4 when left out') }),
    z.strictObject({ kind: z.literal('torispherical'), f: z.number(), k: z.number() }),
    z.strictObject({ kind: z.literal('cone'), a: metre, r0: metre.default(0) }),
  ])
  .default({ kind: 'flat' })
const TankInput = z.discriminatedUnion('shape', [
  z.strictObject({ shape: z.literal('rectangular'), L: metre, W: metre, H: metre }),
  z.strictObject({ shape: z.literal('sphere'), D: metre }),
  z.strictObject({ shape: z.literal('vertical'), D: metre, shell: metre, bottom: HeadInput, top: HeadInput }),
  z.strictObject({ shape: z.literal('horizontal'), D: metre, Lc: metre, left: HeadInput, right: HeadInput }),
])
type TankInput = z.output<typeof TankInput>
const EXAMPLE_TANK = {
  shape: 'horizontal' as const,
  D: 1.6,
  Lc: 3,
  left: { kind: 'elliptical' as const },
  right: { kind: 'elliptical' as const },
}

function head(h: z.output<typeof HeadInput>, D: number): Head {
  switch (h.kind) {
    case 'elliptical':
      return { kind: h.kind, depth_m: h.a ?? D / 4 }
    case 'cone':
      return { kind: h.kind, depth_m: h.a, outletRadius_m: h.r0 }
    default:
      return h
  }
}
function shapeOf(t: TankInput): TankShape {
  switch (t.shape) {
    case 'rectangular':
      return { kind: t.shape, length_m: t.L, width_m: t.W, height_m: t.H }
    case 'sphere':
      return { kind: t.shape, diameter_m: t.D }
    case 'vertical':
      return {
        kind: t.shape,
        diameter_m: t.D,
        shell_m: t.shell,
        bottom: head(t.bottom, t.D),
        top: head(t.top, t.D),
      }
    case 'horizontal':
      return {
        kind: t.shape,
        diameter_m: t.D,
        shell_m: t.Lc,
        left: head(t.left, t.D),
        right: head(t.right, t.D),
      }
  }
}
const made = (t: TankInput): Tank => tankOf(shapeOf(t))
/** A tank that can be built. */
const PossibleTank = TankInput.superRefine((t, ctx) => {
  const message = shapeProblem(shapeOf(t))
  if (message) ctx.addIssue({ code: 'custom', message })
})

export const tankCalculations = [
  calculation({
    name: 'tank.volume',
    title: 'Volume at a level',
    source: 'Closed forms and 32-point Gauss-Legendre slices; level from the lowest inside point',
    input: z.strictObject({ tank: PossibleTank, h: metre }),
    output: z.object({
      volume: z.number(),
      full: z.number(),
      percent: z.number(),
      height: z.number(),
      warnings: z.array(z.string()),
    }),
    run: ({ tank, h }) => {
      const t = made(tank)
      const volume = t.volume_m3(h)
      const warnings =
        h > t.height_m
          ? [
              `A level of ${sayNumber(h, 5)} m is above the tank, ${sayNumber(t.height_m, 5)} m high inside: the volume is that of the full tank.`,
            ]
          : h < 0
            ? [
                `A level of ${sayNumber(h, 5)} m is below the lowest point inside: the volume is that of the empty tank.`,
              ]
            : []
      return { volume, full: t.full_m3, percent: (100 * volume) / t.full_m3, height: t.height_m, warnings }
    },
    example: { tank: EXAMPLE_TANK, h: 0.45 },
  }),
  calculation({
    name: 'tank.level',
    title: 'Level of a volume',
    source: 'The volume curve inverted by halving to 1e-9 m',
    input: z.strictObject({ tank: PossibleTank, volume: z.number().describe('m³') }),
    output: z.object({ h: z.number(), full: z.number() }),
    run: ({ tank, volume }) => {
      const t = made(tank)
      const h = t.level_m(volume)
      if (h === null)
        return refused(`This tank holds 0 to ${t.full_m3.toFixed(6)} m³.`, 'volume', 'VOLUME_OUT_OF_RANGE')
      return { h, full: t.full_m3 }
    },
    example: { tank: EXAMPLE_TANK, volume: 4 },
  }),
  calculation({
    name: 'tank.heap',
    title: 'Flat level of a heap of solids',
    source: 'Cone or funnel of repose; a sensor at two thirds of the radius reads the mean',
    input: z.strictObject({
      z: metre,
      r: metre.describe('m, sensor from the axis'),
      R: metre.describe('m, radius'),
      repose: z.number().min(0).max(80).describe('degrees'),
      way: z.enum(['filling', 'emptying']),
    }),
    output: z.object({ z: z.number() }),
    run: (x) => ({ z: equivalentLevel_m(x.z, x.r, x.R, x.repose, x.way) }),
    example: { z: 4.1, r: 0.3, R: 1.5, repose: 32, way: 'filling' as const },
  }),
  calculation({
    name: 'tank.strapping',
    title: 'Between the rows of a strapping table',
    source: 'Straight lines as most transmitters do; Fritsch-Carlson for a smooth curve',
    input: z.strictObject({
      rows: z.array(z.tuple([z.number(), z.number()])).max(20_000),
      h: metre.optional(),
      volume: z.number().optional(),
    }),
    output: z.object({
      linear: z.number().nullable(),
      monotone_cubic: z.number().nullable(),
      level: z.number().nullable(),
    }),
    run: ({ rows, h, volume }) => {
      const problem = strappingProblem(rows)
      if (problem) return refused(problem, 'rows', 'TABLE_NOT_MONOTONE')
      return {
        linear: h === undefined ? null : strappedVolume(rows, h),
        monotone_cubic: h === undefined ? null : smoothVolume(rows)(h),
        level: volume === undefined ? null : strappedLevel(rows, volume),
      }
    },
    example: {
      rows: [
        [0, 0],
        [0.5, 0.9],
        [1, 2.6],
        [1.5, 4.3],
        [2, 5.1],
      ] as [number, number][],
      h: 1.2,
    },
  }),
  calculation({
    name: 'tank.characterize',
    title: 'Best points for a transmitter’s table',
    source: 'Smallest largest error with every point on the curve; takes seconds',
    input: z.strictObject({ tank: PossibleTank, points: z.int().min(3).max(64).default(11) }),
    output: z.object({
      points: z.array(z.tuple([z.number(), z.number()])),
      error: z.number().describe('% of full'),
      equalSteps: z.number().describe('% of full'),
    }),
    run: ({ tank, points }) => {
      const t = made(tank)
      const c = characterize((x) => t.volume_m3(x * t.height_m), points)
      return {
        points: c.points.map(([x, v]): [number, number] => [x, v]),
        error: c.error * 100,
        equalSteps: c.equalStepsError * 100,
      }
    },
    example: { tank: { shape: 'sphere' as const, D: 3 }, points: 5 },
  }),
]
