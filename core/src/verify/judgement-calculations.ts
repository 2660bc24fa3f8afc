import { z } from 'zod'
import { calculation } from '../calculation.ts'
import { refused } from '../refused.ts'
import { balancedCut, driftOf, periodsOf, staircase_months } from './drift.ts'
import { cyclesOf, effectiveness } from './cycle-times.ts'
import { debounce } from './debounce.ts'
import { pulsesNeeded, totalOf } from './k-factor.ts'
import { switchPoints } from './switch-points.ts'
import {
  againstBaseline,
  configurationDifference,
  grubbs,
  normalisedError,
  repeatedRuns,
} from './reference-check.ts'
import { globalRisk, probabilityOut, spreadOfPopulation } from './risk.ts'
import { dwell_s, stabilityOf } from './stability.ts'

const positive = z.number().positive()
const Curve = z.array(z.strictObject({ at: z.number(), error: z.number() }))

export const judgementCalculations = [
  calculation({
    name: 'verify.dwell',
    title: 'How long to wait after a step',
    source: 'First-order residual',
    input: z.strictObject({
      dead: z.number().min(0),
      tau: z.number().min(0),
      step: z.number(),
      residual: positive,
    }),
    output: z.object({ seconds: z.number() }),
    run: ({ dead, tau, step, residual }) => ({ seconds: dwell_s(dead, tau, step, residual) }),
    example: { dead: 0.2, tau: 0.8, step: 25, residual: 0.01 },
  }),
  calculation({
    name: 'verify.stability',
    title: 'Whether a reading stands still',
    source: 'Slope and scatter over a window of three time constants',
    input: z.strictObject({
      samples: z.array(z.tuple([z.number(), z.number()])).max(5000),
      tau: z.number().min(0),
      T: positive,
    }),
    output: z.object({
      stable: z.boolean(),
      mean: z.number(),
      slope: z.number(),
      s: z.number(),
      uA: z.number(),
      waitsFor: z.string().nullable(),
    }),
    run: ({ samples, tau, T }) => {
      const r = stabilityOf(samples, tau, T)
      return { stable: r.stable, mean: r.mean, slope: r.slope, s: r.sd, uA: r.uA, waitsFor: r.waitsFor }
    },
    example: { samples: Array.from({ length: 20 }, (_, i): [number, number] => [i, 1]), tau: 1, T: 0.1 },
  }),
  calculation({
    name: 'verify.risk',
    title: 'How likely it is out, or judged wrongly',
    source: 'JCGM 106, specific and global risk',
    input: z.strictObject({
      T: positive,
      u: positive,
      e: z.number().optional(),
      A: positive.optional().describe('acceptance limit; T when left out'),
      inTolerance: z.number().gt(0).lt(1).default(0.95).describe('share of the population'),
    }),
    output: z.object({
      p_out: z.number().nullable(),
      u0: z.number(),
      falseAccept: z.number(),
      falseReject: z.number(),
    }),
    run: ({ T, u, e, A, inTolerance }) => {
      const u0 = spreadOfPopulation(T, inTolerance)
      return { p_out: e === undefined ? null : probabilityOut(e, T, u), u0, ...globalRisk(T, A ?? T, u, u0) }
    },
    example: { T: 0.25, u: 0.03, e: 0.21 },
  }),
  calculation({
    name: 'verify.drift',
    title: 'Drift and the day the tolerance will be left',
    source: 'Least squares through the origin of as-found minus the as-left before it',
    input: z.strictObject({
      periods: z.array(z.strictObject({ dt: positive, d: z.number() })).optional(),
      history: z
        .array(z.strictObject({ day: z.number(), asFound: z.number(), asLeft: z.number() }))
        .optional(),
      a0: z.number().default(0),
      T: positive,
    }),
    output: z.object({
      enough: z.boolean(),
      r: z.number().nullable(),
      s: z.number().nullable(),
      u_r: z.number().nullable(),
      t: z.number().nullable(),
      significant: z.boolean().nullable(),
      central: z.number().nullable(),
      earliest: z.number().nullable(),
      extrapolated: z.boolean().nullable(),
    }),
    run: ({ periods, history, a0, T }) => {
      const list =
        periods ??
        periodsOf((history ?? []).map((h) => ({ day: h.day, asFound_pct: h.asFound, asLeft_pct: h.asLeft })))
      const d = driftOf(list, a0, T)
      return d.enough
        ? {
            enough: true,
            r: d.rate,
            s: d.s,
            u_r: d.uRate,
            t: d.t,
            significant: d.significant,
            central: d.central_days,
            earliest: d.earliest_days,
            extrapolated: d.extrapolated,
          }
        : {
            enough: false,
            r: null,
            s: null,
            u_r: null,
            t: null,
            significant: null,
            central: null,
            earliest: null,
            extrapolated: null,
          }
    },
    example: {
      periods: [
        { dt: 365, d: 0.035 },
        { dt: 372, d: 0.048 },
        { dt: 358, d: 0.029 },
      ],
      a0: 0.012,
      T: 0.25,
    },
  }),
  calculation({
    name: 'verify.interval',
    title: 'Next interval by the staircase',
    source: 'Outcome of the last calibrations; and the balanced pair of extension and cut',
    input: z.strictObject({
      months: z.int().min(1),
      q: z.array(z.number().min(0)).min(1),
      min: z.int().min(1).default(1),
      max: z.int().min(1).default(60),
      reliability: z.number().gt(0).lt(1).default(0.9),
      a: positive.default(0.05),
    }),
    output: z.object({ months: z.number(), balancedCut: z.number() }),
    run: ({ months, q, min, max, reliability, a }) => ({
      months: staircase_months(months, q, min, max),
      balancedCut: balancedCut(reliability, a),
    }),
    example: { months: 12, q: [0.42, 0.47] },
  }),
  calculation({
    name: 'verify.normalisedError',
    title: 'Normalised error of two results',
    source: 'En, agree when |En| ≤ 1',
    input: z.strictObject({
      x: z.number(),
      x_ref: z.number(),
      U: z.number().min(0),
      U_ref: z.number().min(0),
    }),
    output: z.object({ En: z.number(), agrees: z.boolean() }),
    run: ({ x, x_ref, U, U_ref }) => {
      if (U === 0 && U_ref === 0) return refused('Without any uncertainty nothing can be compared.', 'U')
      return normalisedError(x, x_ref, U, U_ref)
    },
    example: { x: 36.42, x_ref: 36.15, U: 0.22, U_ref: 0.18 },
  }),
  calculation({
    name: 'verify.repeatedRuns',
    title: 'Repeated runs and the one that stands apart',
    source: 'Mean with few degrees of freedom; Grubbs two-sided at 5 %',
    input: z.strictObject({ runs: z.array(z.number()).min(3).max(100), uB: z.number().min(0).default(0) }),
    output: z.object({
      mean: z.number(),
      s: z.number(),
      uA: z.number(),
      k: z.number(),
      U: z.number(),
      G: z.number(),
      critical: z.number(),
      outlier: z.number().nullable().describe('position from 0'),
    }),
    run: ({ runs, uB }) => {
      const { mean, s, uA, k, U } = repeatedRuns(runs, uB)
      return { mean, s, uA, k, U, ...grubbs(runs) }
    },
    example: { runs: [0.11, 0.14, 0.12, 0.13, 0.15, 0.38] },
  }),
  calculation({
    name: 'verify.baseline',
    title: 'Errors now against a baseline certificate',
    source: 'Linear between its points, nothing outside; En by point',
    input: z.strictObject({ certificate: Curve.min(2), now: Curve.min(1), U_b: positive, U_v: positive }),
    output: z.object({
      points: z.array(
        z.object({
          at: z.number(),
          baseline: z.number().nullable(),
          delta: z.number().nullable(),
          En: z.number().nullable(),
        }),
      ),
      agrees: z.boolean(),
    }),
    run: ({ certificate, now, U_b, U_v }) => {
      const r = againstBaseline(certificate, now, U_b, U_v)
      return { points: r.points.map((p) => ({ ...p })), agrees: r.agrees }
    },
    example: {
      certificate: [
        { at: 3000, error: 0.06 },
        { at: 12_000, error: 0.01 },
      ],
      now: [{ at: 6000, error: 0.05 }],
      U_b: 0.05,
      U_v: 0.06,
    },
  }),
  calculation({
    name: 'verify.configuration',
    title: 'Whether results before and after compare',
    source: 'Settings that touch the measurement, the dynamics, safety, or only inform',
    input: z.strictObject({
      before: z.record(z.string(), z.unknown()),
      after: z.record(z.string(), z.unknown()),
    }),
    output: z.object({
      verdict: z.string(),
      changed: z.array(z.object({ key: z.string(), class: z.string() })),
    }),
    run: ({ before, after }) => {
      const d = configurationDifference(before, after)
      return { verdict: d.verdict, changed: d.changed.map((c) => ({ key: c.key, class: c.class })) }
    },
    example: { before: { urv: 80, damping: 1 }, after: { urv: 80, damping: 2 } },
  }),
  calculation({
    name: 'verify.total',
    title: 'Totalizer against a reference',
    source: 'Counter with one roll-over at the most; ±1 pulse at both ends',
    input: z.strictObject({
      K: positive.describe('pulses per unit'),
      start: z.number().min(0),
      end: z.number().min(0),
      M: positive.default(1_000_000),
      ref: positive,
      Q: positive.optional().describe('units per hour'),
      seconds: positive.optional(),
      tolerance: positive.default(0.1).describe('%'),
    }),
    output: z.object({
      N: z.number(),
      V: z.number(),
      error: z.number(),
      u: z.number(),
      f: z.number().nullable(),
      pulses: z.number(),
      time: z.number().nullable(),
    }),
    run: ({ K, start, end, M, ref, Q, seconds, tolerance }) => {
      const t = totalOf({
        K,
        start,
        end,
        modulus: M,
        reference: ref,
        ...(Q === undefined ? {} : { flowPerHour: Q }),
        ...(seconds === undefined ? {} : { elapsed_s: seconds }),
      })
      if (t.N === 0) return refused('The counter did not move.', 'end')
      if (!t.plausible)
        return refused(
          'So many pulses do not fit into this time: the counter went round more than once, or it was reset.',
          'end',
        )
      const need = pulsesNeeded(tolerance, t.f_Hz ?? 1)
      return {
        N: t.N,
        V: t.V,
        error: t.error_pct,
        u: t.u_pct,
        f: t.f_Hz,
        pulses: need.pulses,
        time: t.f_Hz === null ? null : need.seconds,
      }
    },
    example: { K: 1000, start: 991_400, end: 2150, ref: 10.74, Q: 36 },
  }),
  calculation({
    name: 'verify.debounce',
    title: 'Edges after a bounce filter',
    source: 'Accepted at the first edge of a run that stands for the filter’s time',
    input: z.strictObject({
      edges: z.array(z.tuple([z.number(), z.boolean()])).max(100_000),
      tdb: z.number().min(0),
      end: z.number(),
      start: z.boolean().default(false),
    }),
    output: z.object({ edges: z.array(z.tuple([z.number(), z.boolean()])), counts: z.number() }),
    run: ({ edges, tdb, end, start }) => {
      const out = debounce(
        edges.map(([t, level]) => ({ t, level })),
        tdb,
        end,
        start,
      )
      return {
        edges: out.map((e): [number, boolean] => [e.t, e.level]),
        counts: out.filter((e) => e.level).length,
      }
    },
    example: {
      edges: [
        [1, true],
        [1.004, false],
        [1.009, true],
        [1.6, false],
      ] as [number, boolean][],
      tdb: 0.05,
      end: 3,
    },
  }),
  calculation({
    name: 'verify.cycles',
    title: 'Cycle times of a machine',
    source: 'Slow cycles, micro-stops and downtime against the ideal cycle',
    input: z.strictObject({
      times: z.array(z.number()).min(2).max(100_000),
      ideal: positive,
      stop: positive.default(120),
    }),
    output: z.record(z.string(), z.number()),
    run: ({ times, ideal, stop }) => ({ ...cyclesOf(times, ideal, stop) }),
    example: { times: [0, 10.2, 20.1, 38.4, 48.5, 348.5, 358.4], ideal: 10 },
  }),
  calculation({
    name: 'verify.effectiveness',
    title: 'Availability × performance × quality',
    source: 'Machine effectiveness; performance above 1 means a wrong ideal cycle',
    input: z.strictObject({
      planned: positive.describe('s'),
      down: z.number().min(0),
      ideal: positive,
      total: z.int().min(0),
      good: z.int().min(0),
    }),
    output: z.object({
      A: z.number(),
      P: z.number(),
      Q: z.number(),
      OEE: z.number(),
      idealWrong: z.boolean(),
    }),
    run: ({ planned, down, ideal, total, good }) => {
      if (down >= planned) return refused('The downtime is as long as the planned time.', 'down')
      if (good > total) return refused('More good parts than were made.', 'good')
      return effectiveness(planned, down, ideal, total, good)
    },
    example: { planned: 28_800, down: 1800, ideal: 12, total: 2140, good: 2097 },
  }),
  calculation({
    name: 'verify.switchPoints',
    title: 'Trip, reset, deadband',
    source: 'Latency of scan, filter and debounce taken out of the ramp',
    input: z.strictObject({
      setpoint: z.number(),
      v: z.number().describe('units per second, signed in the trip direction'),
      t_L: z.number().min(0),
      trips: z.array(z.number()).min(1),
      resets: z.array(z.number()).default([]),
      T: positive,
    }),
    output: z.object({
      trip: z.number(),
      reset: z.number().nullable(),
      deadband: z.number().nullable(),
      repeatability: z.number().nullable(),
      passes: z.boolean(),
      fastest: z.number().nullable(),
    }),
    run: ({ setpoint, v, t_L, trips, resets, T }) => {
      const s = switchPoints({ setpoint, rate: v, latency_s: t_L, trips, resets, T })
      const { trip, reset, deadband, repeatability, passes } = s
      return {
        trip,
        reset,
        deadband,
        repeatability,
        passes,
        fastest: Number.isFinite(s.fastest) ? s.fastest : null,
      }
    },
    example: {
      setpoint: 62,
      v: 0.5,
      t_L: 0.4,
      trips: [62.21, 62.18, 62.24],
      resets: [59.79, 59.83, 59.8],
      T: 0.25,
    },
  }),
  calculation({
    name: 'verify.rollover',
    title: 'How long until a counter begins again',
    source: '10^digits over pulses per unit and flow',
    input: z.strictObject({
      digits: z.int().min(1).max(16),
      K: positive.describe('pulses per unit; 1 where the counter shows units'),
      Q: positive.describe('units per hour'),
    }),
    output: z.object({ units: z.number(), seconds: z.number(), days: z.number() }),
    run: ({ digits, K, Q }) => {
      const units = 10 ** digits / K
      return { units, seconds: (units / Q) * 3600, days: units / Q / 24 }
    },
    example: { digits: 6, K: 1.44, Q: 13600 },
  }),
]
