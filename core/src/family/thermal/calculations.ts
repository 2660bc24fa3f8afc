import { z } from 'zod'
import { calculation } from '../../calculation.ts'
import { refused } from '../../refused.ts'
import { positive, some } from '../../quantity/described.ts'
import { insertion, meanFactor } from './insertion.ts'
import { CHOKED_RATIO, minutesToLeave, nozzleFlow, OXYGEN_LEAVE_PCT, oxygenAfter_pct } from './nozzle.ts'

export const thermalCalculations = [
  calculation({
    name: 'flow.insertion',
    title: 'Insertion probe: mark, force, profile',
    source: 'U = H + wall + ID/2 + e; F = p π d²/4; power law N = 7 unless given',
    input: z.strictObject({
      stack: positive('mm'),
      wall: positive('mm'),
      id: positive('mm'),
      tip: z.number().min(0).default(0),
      stem: positive('mm'),
      gauge: z.number().describe('kPa gauge'),
      n: positive('').default(7),
      v: z.number().positive().optional().describe('m/s at the sensing point, on the centre line'),
    }),
    output: z.object({
      mark: z.number(),
      meanMark: z.number().describe('mm, with the sensing point where the local velocity is the mean one'),
      meanDepth: z.number().describe('mm from the inner wall'),
      flow: z.number().nullable().describe('m³/h'),
      force: z.number(),
      retractor: z.boolean(),
      blockage: z.number(),
      meanFactor: z.number(),
    }),
    run: (x) => {
      const i = insertion({
        stack_mm: x.stack,
        wall_mm: x.wall,
        id_mm: x.id,
        tip_mm: x.tip,
        stem_mm: x.stem,
        probe_mm: null,
        gauge_kPa: x.gauge,
      })
      if (i.refused) return refused(i.refused, 'id')
      const profile = meanFactor(x.n)
      return {
        mark: i.mark_mm,
        meanMark: x.stack + x.wall + profile.meanDepth * x.id + x.tip,
        meanDepth: profile.meanDepth * x.id,
        flow:
          x.v === undefined ? null : x.v * profile.F * i.blockage * (Math.PI / 4) * (x.id / 1000) ** 2 * 3600,
        force: i.force_N,
        retractor: i.needsRetractor,
        blockage: i.blockage,
        meanFactor: profile.F,
      }
    },
    example: { stack: 312, wall: 9.27, id: 254.46, tip: 12, stem: 19.05, gauge: 720 },
  }),
  calculation({
    name: 'flow.nozzle',
    title: 'Nitrogen through a sonic nozzle',
    source: 'ISO 9300; real nitrogen',
    input: z.strictObject({
      throat: positive('mm'),
      p0: positive('kPa absolute'),
      t0: some('°C'),
      after: z.number().min(0).describe('kPa absolute'),
      chokedTo: z
        .number()
        .min(0.1)
        .max(0.95)
        .default(CHOKED_RATIO)
        .describe('pressure behind over before, up to which it is choked'),
      Cd: z.number().positive().nullable().default(null),
    }),
    output: z.object({
      massFlow: z.number().nullable().describe('g/s; null where it is not choked: nobody knows it then'),
      kgPerHour: z.number().nullable(),
      Cd: z.number(),
      Cstar: z.number(),
      Re: z.number(),
      choked: z.boolean(),
    }),
    run: (x) => {
      const n = nozzleFlow(x.throat, x.p0, x.t0, x.after, x.Cd, x.chokedTo)
      if (!n) return refused('The table of nitrogen reaches from 100 to 5000 kPa and from 0 to 40 °C.', 'p0')
      return {
        massFlow: n.massFlow_g_s,
        kgPerHour: n.massFlow_g_s === null ? null : n.massFlow_g_s * 3.6,
        Cd: n.Cd,
        Cstar: n.Cstar,
        Re: n.Re,
        choked: n.choked,
      }
    },
    example: { throat: 3.2, p0: 705, t0: 22, after: 118 },
  }),
  calculation({
    name: 'flow.oxygen',
    title: 'Oxygen in a room after venting nitrogen',
    source: 'Well-mixed room; 20.9 % of oxygen in the fresh air; wear an oxygen meter',
    input: z.strictObject({
      room: positive('m³'),
      release: positive('m³/h'),
      minutes: positive('min'),
      freshAir: z.number().min(0).default(0).describe('m³/h'),
    }),
    output: z.object({
      oxygen: z.number().describe('%'),
      leave: z.boolean(),
      steady: z.number().describe('%, where it ends'),
      minutesToLeave: z.number().nullable().describe('null: it never falls so far'),
    }),
    run: ({ room, release, minutes, freshAir }) => {
      const oxygen = oxygenAfter_pct(room, release, minutes, freshAir)
      return {
        oxygen,
        leave: oxygen < OXYGEN_LEAVE_PCT,
        steady: oxygenAfter_pct(room, release, Infinity, freshAir),
        minutesToLeave: minutesToLeave(room, release, freshAir),
      }
    },
    example: { room: 42, release: 55, minutes: 15 },
  }),
]
