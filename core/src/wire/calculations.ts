import { z } from 'zod'
import { calculation } from '../calculation.ts'
import { isRefused, refused } from '../refused.ts'
import { INPUT_TYPES } from '../circuit/elements/discrete.ts'
import { conductorOhm, ohmPerKm } from '../circuit/wire-resistance.ts'
import { currentState } from '../signal/current-state.ts'
import { BUDGET_CURRENTS_A, hartCableLength_m, loopBudget } from './loop-budget.ts'
import { pullSizing } from './pull-sizing.ts'
import { passing, sensing } from '../family/switch/sensing.ts'
import { tripSequence, type Trip } from '../signal/trip.ts'

const volt = z.number().describe('V')
const ampere = z.number().describe('A')
const ohm = z.number().min(0).describe('Ω')
const second = z.number().min(0).describe('s')
const Cable = z.strictObject({
  length: z.number().min(0).describe('m, one way'),
  mm2: z.number().positive().optional(),
  awg: z.number().min(-3).max(40).optional(),
  ohmPerKm: z.number().min(0).optional(),
  iecClass: z.union([z.literal(2), z.literal(5), z.literal('none')]).default('none'),
  tempC: z.number().min(-60).max(200).default(20).describe('°C, the hottest'),
})
/** A cable says how thick it is. */
const ThickCable = Cable.refine((c) => ohmPerKm(c) !== null, {
  path: ['mm2'],
  message: 'Give the cable’s cross-section, its gauge or the resistance of a core.',
})

/** What an input needs, by its type or by its own numbers. */
function inputNeeds(p: {
  iecType?: 1 | 2 | 3 | undefined
  r?: number | undefined
  iMax?: number | undefined
  UH?: number | undefined
  IH?: number | undefined
}) {
  const t = p.iecType === undefined ? null : INPUT_TYPES[p.iecType]
  const [rIn, iMax, UH, IH] = [p.r ?? t?.r, p.iMax ?? t?.iMax, p.UH ?? t?.on.v, p.IH ?? t?.on.i]
  return rIn === undefined || iMax === undefined || UH === undefined || IH === undefined
    ? refused(
        'Give the type of the input, or the resistor with the most the input takes and the volts and current at which it is on.',
        'iecType',
      )
    : { rIn, iMax, UH, IH }
}

export const wireCalculations = [
  calculation({
    name: 'electrical.loopBudget',
    title: 'Volts left at the transmitter',
    source: 'Loop budget at 4, 20, 21.5 and 22.5 mA; IEC 60228 and AWG copper at the hottest temperature',
    input: z.strictObject({
      supplyMin: volt,
      supplyMax: volt.optional(),
      vLift: volt,
      vDrops: volt.default(0),
      rFixed: ohm,
      cable: ThickCable,
      currents: z
        .array(z.number().positive())
        .min(1)
        .max(50)
        .default([...BUDGET_CURRENTS_A]),
      iDesign: z.number().positive().default(0.0225).describe('A'),
      rHart: ohm.optional(),
    }),
    output: z.object({
      rCable: z.number(),
      rTotal: z.number(),
      rows: z.array(
        z.object({
          i: z.number(),
          vTerm: z.number(),
          margin: z.number(),
          rMax: z.number(),
          lMax: z.number(),
        }),
      ),
      marginDesign: z.number(),
      verdict: z.enum(['PASS', 'TIGHT', 'FAIL']),
      iSaturation: z.number(),
      vTermMax: z.number(),
      hart: z.enum(['FAIL', 'MARGINAL', 'OK', 'CHECK']),
    }),
    run: (b) => {
      const told = loopBudget({
        ...b,
        supplyMax: b.supplyMax ?? b.supplyMin,
        rHart: b.rHart ?? b.rFixed,
      })
      return { ...told, rows: told.rows.map((r) => ({ ...r })) }
    },
    example: {
      supplyMin: 20.4,
      supplyMax: 28.8,
      vLift: 10.5,
      vDrops: 1.5,
      rFixed: 280,
      rHart: 250,
      cable: { length: 500, mm2: 1, iecClass: 5 as const, tempC: 50 },
    },
  }),
  calculation({
    name: 'electrical.hartCable',
    title: 'Longest cable for a digital signal on the loop',
    source: 'Capacitance rule L = 65e6/(R C) - (Cf + 10000)/C; typical, check the data sheets',
    input: z.strictObject({
      rLoop: z.number().positive(),
      pFperM: z.number().positive(),
      pFdevices: z.number().min(0),
    }),
    output: z.object({ length: z.number() }),
    run: ({ rLoop, pFperM, pFdevices }) => ({ length: hartCableLength_m(rLoop, pFperM, pFdevices) }),
    example: { rLoop: 290, pFperM: 160, pFdevices: 7000 },
  }),
  calculation({
    name: 'electrical.ne43',
    title: 'State of a loop current',
    source: 'NAMUR NE 43',
    input: z.strictObject({ i: ampere }),
    output: z.object({ state: z.string(), percent: z.number() }),
    run: ({ i }) => ({ state: currentState(i * 1000), percent: ((i - 0.004) / 0.016) * 100 }),
    example: { i: 0.00372 },
  }),
  calculation({
    name: 'electrical.shuntError',
    title: 'What a shunt’s value does to the reading',
    source: 'Ohm’s law against the nominal resistor',
    input: z.strictObject({
      i: ampere,
      r: z.number().positive(),
      rNominal: z.number().positive(),
      tolPct: z.number().default(0),
    }),
    output: z.object({ v: z.number(), iShown: z.number(), percent: z.number(), errPctSpan: z.number() }),
    run: ({ i, r, rNominal, tolPct }) => {
      const v = i * r * (1 + tolPct / 100)
      const iShown = v / rNominal
      return {
        v,
        iShown,
        percent: ((iShown - 0.004) / 0.016) * 100,
        errPctSpan: ((iShown - i) / 0.016) * 100,
      }
    },
    example: { i: 0.02, r: 250, rNominal: 250, tolPct: 0.1 },
  }),
  calculation({
    name: 'electrical.pullSizing',
    title: 'Pull-up or pull-down resistor',
    source: 'IEC 61131-2 input levels; E12 series; inverts the signal, not for protective functions',
    input: z.strictObject({
      vMin: z.number().positive(),
      vMax: z.number().positive(),
      iecType: z.union([z.literal(1), z.literal(2), z.literal(3)]).optional(),
      r: z.number().positive().optional(),
      iMax: z.number().positive().optional(),
      UH: volt.optional(),
      IH: ampere.optional(),
      vDrop: volt,
      rOn: ohm.default(1),
      iLeak: z.number().min(0),
      iOutMax: z.number().positive(),
      derate: z.number().positive().max(1).default(0.8),
    }),
    output: z.object({
      rMax: z.number(),
      rMin: z.number(),
      r: z.number().nullable(),
      iOn: z.number().nullable(),
      pR: z.number().nullable(),
      vInReleased: z.number().nullable(),
      iInReleased: z.number().nullable(),
    }),
    run: (p) => {
      const needs = inputNeeds(p)
      return isRefused(needs) ? needs : { ...pullSizing({ ...p, ...needs }) }
    },
    example: { vMin: 20.4, vMax: 28.8, iecType: 3 as const, vDrop: 1.5, iLeak: 0.0001, iOutMax: 0.1 },
  }),
  calculation({
    name: 'electrical.tripRelay',
    title: 'A trip relay over a sequence of values',
    source: 'On and off point, or a band; an edge counts as reached; between two points it holds',
    input: z
      .strictObject({
        onAt: z.number().optional(),
        offAt: z.number().optional(),
        direction: z
          .enum(['falling', 'rising'])
          .default('falling')
          .describe('where both points are the same'),
        from: z.number().optional(),
        to: z.number().optional(),
        onInside: z.boolean().default(true),
        x: z.array(z.number().nullable()).max(100_000),
        startUp: z.boolean().default(false),
        onInvalid: z.enum(['off', 'on', 'hold']).default('off'),
      })
      .superRefine((t, ctx) => {
        const points = t.onAt !== undefined && t.offAt !== undefined
        const band = t.from !== undefined && t.to !== undefined
        if (points === band)
          ctx.addIssue({
            code: 'custom',
            path: [points ? 'from' : 'onAt'],
            message: 'Give the points at which it goes on and off, or the band from and to.',
          })
        else if (band && (t.from ?? 0) > (t.to ?? 0))
          ctx.addIssue({ code: 'custom', path: ['to'], message: 'A band ends above where it begins.' })
      }),
    output: z.object({ on: z.array(z.boolean()) }),
    run: ({ onAt = 0, offAt = 0, direction, from, to, onInside, x, startUp, onInvalid }) => {
      const trip: Trip =
        from !== undefined && to !== undefined
          ? { kind: 'band', from, to, onInside }
          : { kind: 'points', onAt, offAt, same: direction }
      return { on: tripSequence(trip, x, startUp, onInvalid) }
    },
    example: { onAt: 0.6, offAt: 0.85, x: [0.7, 0.6, 0.72, 0.85, null] },
  }),
  calculation({
    name: 'electrical.sensing',
    title: 'Assured sensing distance',
    source: 'IEC 60947-5-2; material factors typical, check the data sheet',
    input: z.strictObject({
      sn: z.number().positive(),
      d: z.number().positive(),
      kMat: z.number().positive().max(1.5).default(1),
      kSize: z.number().positive().max(1).default(1),
    }),
    output: z.object({
      sa: z.number(),
      srMin: z.number(),
      srMax: z.number(),
      suMin: z.number(),
      suMax: z.number(),
      targetSide: z.number(),
      hystMax: z.number(),
    }),
    run: ({ sn, d, kMat, kSize }) => sensing(sn, d, kMat, kSize),
    example: { sn: 8, d: 18, kMat: 0.75, kSize: 0.92 },
  }),
  calculation({
    name: 'electrical.passing',
    title: 'Targets passing a sensor',
    source: 'Switching frequency, input filter and scan time; the card is usually the limit',
    input: z.strictObject({
      speed: z.number().positive().describe('m/s'),
      targetLen: z.number().positive().describe('m'),
      gapLen: z.number().positive().describe('m'),
      fSensor: z.number().positive().describe('Hz'),
      tFilter: second,
      tScan: second,
    }),
    output: z.object({
      fNeeded: z.number(),
      tOn: z.number(),
      tOff: z.number(),
      vMaxSensor: z.number(),
      vMaxInput: z.number(),
      ok: z.boolean(),
    }),
    run: (p) => {
      if (p.tFilter + p.tScan === 0) return refused('Filter and scan cannot both take no time.', 'tScan')
      return passing(p)
    },
    example: { speed: 1.6, targetLen: 0.024, gapLen: 0.048, fSensor: 400, tFilter: 0.003, tScan: 0.01 },
  }),
  calculation({
    name: 'electrical.wireOhm',
    title: 'Resistance of a cable',
    source: 'Copper at temperature; IEC 60228 maximum values, AWG geometry',
    input: ThickCable,
    output: z.object({ ohmPerKm: z.number(), r: z.number(), rLoop: z.number() }),
    run: (cable) => {
      const r = conductorOhm(cable)
      return { ohmPerKm: ohmPerKm(cable) ?? 0, r, rLoop: 2 * r }
    },
    example: { length: 300, awg: 18, tempC: 45 },
  }),
]
