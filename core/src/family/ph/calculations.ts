import { z } from 'zod'
import { calculation } from '../../calculation.ts'
import { refused } from '../../refused.ts'
import { bufferPH, BUFFERS, bufferWindow_mV, recogniseBuffer } from './buffers.ts'
import { calibratePh, PH_STABILITY, phStability, piecewisePH } from './calibrate.ts'
import { electrode_mV, electrode_pH, glassAt25_Mohm, lifeOf, nernst_mV } from './electrode.ts'

const celsius = z.number().gt(-273.15).describe('°C')
const BufferName = z.enum(BUFFERS)
const Electrode = {
  offset: z.number().default(0).describe('mV'),
  slope: z.number().positive().default(100).describe('%'),
  pH_iso: z.number().default(7),
}

export const phCalculations = [
  calculation({
    name: 'ph.reading',
    title: 'pH of an electrode’s voltage, both ways',
    source: 'Nernst; slope in % of the theoretical one',
    input: z.strictObject({
      mV: z.number().optional(),
      pH: z.number().optional(),
      t: celsius.default(25),
      ...Electrode,
    }),
    output: z.object({ pH: z.number(), mV: z.number(), k: z.number() }),
    run: ({ mV, pH, t, offset, slope, pH_iso }) => {
      if ((mV === undefined) === (pH === undefined)) return refused('Give the voltage or the pH.', 'mV')
      const e = { offset_mV: offset, slope_pct: slope, isoPH: pH_iso }
      return {
        pH: pH ?? electrode_pH(e, mV ?? 0, t),
        mV: mV ?? electrode_mV(e, pH ?? 0, t),
        k: nernst_mV(t),
      }
    },
    example: { mV: -42.5, t: 31, offset: 3.2, slope: 97.1 },
  }),
  calculation({
    name: 'ph.buffer',
    title: 'Buffer at a temperature',
    source: 'IUPAC 2002 and NIST tables, linear between columns; technical buffers typical',
    input: z.strictObject({ buffer: BufferName, t: celsius.default(25) }),
    output: z.object({ pH: z.number(), low: z.number(), high: z.number() }),
    run: ({ buffer, t }) => {
      const pH = bufferPH(buffer, t)
      const w = bufferWindow_mV(buffer, t)
      if (pH === null || !w)
        return refused('Buffers are tabulated from 0 to 50 °C.', 't', 'BUFFER_TEMPERATURE_OUT_OF_RANGE')
      return { pH, low: w[0], high: w[1] }
    },
    example: { buffer: '6.865' as const, t: 21.4 },
  }),
  calculation({
    name: 'ph.recognise',
    title: 'Which buffer this is',
    source: 'Windows of slope 85 to 105 % and offset ±30 mV; no calibration applied',
    input: z.strictObject({ set: z.array(BufferName).min(1), mV: z.number(), t: celsius.default(25) }),
    output: z.object({
      state: z.string(),
      candidates: z.array(z.string()),
      nearest: z.string().nullable(),
    }),
    run: ({ set, mV, t }) => {
      const r = recogniseBuffer(set, mV, t)
      return { state: r.state, candidates: [...r.candidates], nearest: r.nearest }
    },
    example: { set: ['4.005', '6.865', '9.180'] as ('4.005' | '6.865' | '9.180')[], mV: 168 },
  }),
  calculation({
    name: 'ph.stability',
    title: 'When a reading in a buffer stands still',
    source: 'Slopes of voltage and temperature and peak-to-peak over a window; typical limits',
    input: z.strictObject({
      samples: z
        .array(z.tuple([z.number(), z.number(), z.number()]))
        .max(5000)
        .describe('s, mV, °C'),
      N: z.number().positive().default(PH_STABILITY.window_s),
      s_E: z.number().positive().default(PH_STABILITY.slope_mV_s),
      s_T: z.number().positive().default(PH_STABILITY.slope_C_s),
      pp: z.number().positive().default(PH_STABILITY.peakToPeak_mV),
      t_min: z.number().min(0).default(PH_STABILITY.least_s),
      t_max: z.number().positive().default(PH_STABILITY.most_s),
    }),
    output: z.object({
      state: z.string(),
      at: z.number().nullable(),
      dEdt: z.number().nullable(),
      dTdt: z.number().nullable(),
      mean: z.number().nullable(),
    }),
    run: (x) => {
      const r = phStability(
        x.samples.map(([t_s, mV, t_C]) => ({ t_s, mV, t_C })),
        {
          window_s: x.N,
          slope_mV_s: x.s_E,
          slope_C_s: x.s_T,
          peakToPeak_mV: x.pp,
          least_s: x.t_min,
          most_s: x.t_max,
        },
      )
      return { state: r.state, at: r.at_s, dEdt: r.slope_mV_s, dTdt: r.slope_C_s, mean: r.mean_mV }
    },
    example: { samples: [[0, 170, 25]] as [number, number, number][] },
  }),
  calculation({
    name: 'ph.calibrate',
    title: 'Offset and slope from one to five buffers',
    source: 'Least squares, each buffer at its own temperature',
    input: z.strictObject({
      points: z
        .array(z.strictObject({ buffer: BufferName, mV: z.number(), t: celsius.default(25) }))
        .min(1)
        .max(5),
      slope: z.number().positive().default(100).describe('kept with one buffer, %'),
      mV: z.number().optional().describe('a reading to be evaluated'),
      t: celsius.default(25),
    }),
    output: z.object({
      offset: z.number(),
      slope: z.number(),
      state: z.string(),
      residuals: z.array(z.number()),
      max_residual: z.number(),
      warnings: z.array(z.string()),
      pH: z.number().nullable(),
      piecewise: z.number().nullable(),
    }),
    run: ({ points, slope, mV, t }) => {
      const list = points.map((p) => ({ buffer: p.buffer, mV: p.mV, t_C: p.t }))
      const c = calibratePh(list, slope)
      if (!c)
        return refused(
          'Buffers are tabulated from 0 to 50 °C, and two points need two different buffers.',
          'points',
        )
      return {
        offset: c.electrode.offset_mV,
        slope: c.electrode.slope_pct,
        state: c.state,
        residuals: [...c.residuals_mV],
        max_residual: c.maxResidual_mV,
        warnings: [...c.warnings],
        pH: mV === undefined ? null : electrode_pH(c.electrode, mV, t),
        piecewise: mV === undefined ? null : piecewisePH(list, mV, t),
      }
    },
    example: {
      points: [
        { buffer: '4.005' as const, mV: 173.4, t: 21.4 },
        { buffer: '6.865' as const, mV: 9.6, t: 21.4 },
      ],
    },
  }),
  calculation({
    name: 'ph.life',
    title: 'When an electrode will be worn out',
    source: 'Least squares of slope over time, to 85 %; typical use',
    input: z.strictObject({ days: z.array(z.number()).max(200), slopes: z.array(z.number()).max(200) }),
    output: z.object({ enough: z.boolean(), rate: z.number().nullable(), day: z.number().nullable() }),
    run: ({ days, slopes }) => {
      const life = lifeOf(days, slopes)
      return {
        enough: life !== null,
        rate: life?.rate_pct_per_day ?? null,
        day: life?.endsOnDay ?? null,
      }
    },
    example: { days: [0, 60, 120], slopes: [98.2, 96.5, 94.4] },
  }),
  calculation({
    name: 'ph.impedance',
    title: 'What glass and reference resistance tell',
    source: 'Glass halves with every 8 °C: R25 = R·2^((t − 25)/8); typical limits',
    input: z.strictObject({
      glass: z.number().positive().optional().describe('MΩ'),
      reference: z.number().positive().optional().describe('kΩ'),
      t: z.number().min(0).max(130).default(25).describe('°C'),
    }),
    output: z.object({
      glass25: z.number().nullable().describe('MΩ'),
      glass: z.enum(['good', 'broken', 'look', 'coated']).nullable(),
      reference: z.enum(['good', 'look', 'clogged']).nullable(),
    }),
    run: ({ glass, reference, t }) => {
      if (glass === undefined && reference === undefined)
        return refused('Give the resistance of the glass, or of the reference.', 'glass')
      const at25 = glass === undefined ? null : glassAt25_Mohm(glass, t)
      return {
        glass25: at25,
        glass:
          at25 === null
            ? null
            : at25 < 10
              ? ('broken' as const)
              : at25 > 1000
                ? ('coated' as const)
                : at25 < 50 || at25 > 500
                  ? ('look' as const)
                  : ('good' as const),
        reference:
          reference === undefined
            ? null
            : reference < 20
              ? ('good' as const)
              : reference > 50
                ? ('clogged' as const)
                : ('look' as const),
      }
    },
    example: { glass: 220, reference: 12, t: 33 },
  }),
]
