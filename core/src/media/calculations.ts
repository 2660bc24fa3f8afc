import { z } from 'zod'
import { calculation } from '../calculation.ts'
import { sayNumber } from '../quantity/round.ts'
import { refused, type Refused } from '../refused.ts'
import { fluidState, NAMED_GASES, type Fluid } from './fluid.ts'
import { GAS_COMPONENTS } from './gas-table.ts'
import { Gas, gasViscosity_Pa_s, VOLUME_BASES } from './gas.ts'
import { crossings } from '../numeric/crossings.ts'
import { namedPipe, PIPE_MAKES, sizesOf } from './other-pipes.ts'
import { keysOf } from '../quantity/setting.ts'
import { boilingKnownFrom_K, boilingPressure_kPa, condenses } from './saturation.ts'
import { bore, odFromCircumference_mm, scheduledPipe, wallFromGauge } from './pipe.ts'

const MAKES = keysOf(PIPE_MAKES)
const LIQUID = 'At this temperature and pressure it is a liquid or two phases.'
const mm = z.number().min(0, 'Not below 0 mm.').describe('mm')
const celsius = z.number().describe('°C')
const absolute = z.number().positive('Above 0 kPa absolute.').describe('kPa absolute')
const COMPONENTS = new Set<string>(GAS_COMPONENTS.map((c) => c.key))
const Fractions = z
  .record(z.string().max(30), z.number().min(0))
  .superRefine((x, ctx) => {
    for (const key of Object.keys(x).filter((k) => !COMPONENTS.has(k)))
      ctx.addIssue({
        code: 'custom',
        path: [key],
        message: `There is no component “${key}”. There are ${[...COMPONENTS].join(', ')}.`,
      })
  })
  .describe('mole fractions by component')

const Properties = z.object({
  density: z.number(),
  soundSpeed: z.number(),
  viscosity: z.number(),
  kinematic: z.number(),
  warnings: z.array(z.string()),
})
function properties(fluid: Fluid, t: number, p: number): z.output<typeof Properties> | Refused {
  const s = fluidState(fluid, t, p)
  if (s.kind === 'refused') return { ...s, where: 't' }
  return {
    density: s.density_kg_m3,
    soundSpeed: s.soundSpeed_m_s,
    viscosity: s.viscosity_Pa_s,
    kinematic: s.viscosity_Pa_s / s.density_kg_m3,
    warnings: [...s.warnings],
  }
}

export const mediaCalculations = [
  calculation({
    name: 'flow.pipe',
    title: 'Bore of a pipe',
    source: 'ASME B36.10M and B36.19M; ID = OD - 2 (wall + liner)',
    input: z.strictObject({
      nps: z.string().max(10).optional().describe('nominal size, “2-1/2”'),
      schedule: z.string().max(6).optional(),
      od: mm.optional(),
      wall: mm.optional(),
      liner: mm.default(0),
    }),
    output: z.object({
      od: z.number(),
      wall: z.number(),
      id: z.number(),
      area: z.number(),
      litresPerMetre: z.number(),
    }),
    run: ({ nps, schedule, od, wall, liner }) => {
      const listed = nps !== undefined && schedule !== undefined ? scheduledPipe(nps, schedule) : null
      if (nps !== undefined && schedule !== undefined && !listed)
        return refused(
          `Size ${nps} has no schedule ${schedule} in the table. Enter OD and wall by hand.`,
          'schedule',
        )
      const o = od ?? listed?.od_mm
      const w = wall ?? listed?.wall_mm
      if (o === undefined) return refused('Give the size and schedule, or the outside diameter.', 'od')
      if (w === undefined) return refused('Give the size and schedule, or the wall.', 'wall')
      const b = bore(o, w, liner)
      if (!b) return refused(`Wall and liner of ${w + liner} mm leave no bore in a pipe of ${o} mm.`, 'wall')
      return { od: o, wall: w, id: b.id_mm, area: b.area_m2, litresPerMetre: b.volume_L_per_m }
    },
    example: { nps: '24', schedule: 'STD', liner: 8 },
  }),
  calculation({
    name: 'flow.circumference',
    title: 'Outside diameter from a tape',
    source: 'OD = C/π - tape - 2 (paint + film)',
    input: z.strictObject({
      circumference: z.number().positive().describe('mm'),
      tape: mm.default(0).describe('mm, plain tape; 0 for a diameter tape'),
      paint: mm.default(0),
      film: mm.default(0),
    }),
    output: z.object({ od: z.number(), perMillimetre: z.number() }),
    run: ({ circumference, tape, paint, film }) => {
      const od = odFromCircumference_mm({
        circumference_mm: circumference,
        tape_mm: tape,
        paint_mm: paint,
        film_mm: film,
      })
      if (od <= 0)
        return refused('Tape, paint and film leave no pipe: was a diameter typed?', 'circumference')
      return { od, perMillimetre: 1 / Math.PI }
    },
    example: { circumference: 1921.4, tape: 0.3, paint: 0.25 },
  }),
  calculation({
    name: 'flow.wall',
    title: 'Wall from a thickness gauge',
    source: 'Speed, temperature (1 % per 55 K, typical) and paint corrected; s with N - 1',
    input: z.strictObject({
      readings: z.array(z.number().positive()).min(1).max(60).describe('mm'),
      cSet: z.number().positive().describe('m/s'),
      cMaterial: z.number().positive().describe('m/s'),
      tWall: celsius.default(20),
      tCalibrated: celsius.default(20),
      paint: mm.default(0),
      cPaint: z.number().positive().default(2500).describe('m/s'),
    }),
    output: z.object({
      wall: z.number(),
      s: z.number(),
      u: z.number(),
      spread: z.number(),
      warn: z.boolean(),
    }),
    run: (g) => {
      const w = wallFromGauge({
        readings_mm: g.readings,
        cSet_m_s: g.cSet,
        cMaterial_m_s: g.cMaterial,
        wall_C: g.tWall,
        calibrated_C: g.tCalibrated,
        paint_mm: g.paint,
        cPaint_m_s: g.cPaint,
      })
      return { wall: w.wall_mm, s: w.s_mm, u: w.u_mm, spread: w.spread_pct, warn: w.spread_pct > 10 }
    },
    example: { readings: [9.71, 9.66, 9.58, 9.62], cSet: 5920, cMaterial: 5890, tWall: 41 },
  }),
  calculation({
    name: 'flow.water',
    title: 'Water: density, sound speed, viscosity',
    source: 'IAPWS-IF97, IAPWS 2008; sound speed after Marczak with pressure terms fitted to IAPWS-95',
    input: z.strictObject({ t: celsius, p: absolute }),
    output: Properties,
    run: ({ t, p }) => properties({ kind: 'water' }, t, p),
    example: { t: 24, p: 600 },
  }),
  calculation({
    name: 'flow.seawater',
    title: 'Seawater: density, sound speed, viscosity',
    source: 'EOS-80; Chen and Millero; Sharqawy et al. 2010',
    input: z.strictObject({ salinity: z.number().min(0), t: celsius, p: absolute }),
    output: Properties,
    run: ({ salinity, t, p }) => properties({ kind: 'seawater', salinity }, t, p),
    example: { salinity: 35.1, t: 14.2, p: 481.325 },
  }),
  calculation({
    name: 'flow.brine',
    title: 'Salt brine: density, sound speed, viscosity',
    source: 'Batzle and Wang 1992; typical',
    input: z.strictObject({ salt: z.number().min(0).describe('% by mass'), t: celsius, p: absolute }),
    output: Properties,
    run: ({ salt, t, p }) => properties({ kind: 'brine', salt_pct: salt }, t, p),
    example: { salt: 18, t: 22, p: 350 },
  }),
  calculation({
    name: 'flow.gas',
    title: 'Gas: density, sound speed, compressibility',
    source: 'ISO 20765-1 (detailed composition equation)',
    input: z.strictObject({ composition: Fractions, t: celsius, p: absolute }),
    output: z.object({
      molarMass: z.number(),
      Z: z.number(),
      density: z.number(),
      soundSpeed: z.number(),
      kappa: z.number(),
      cp: z.number(),
      cv: z.number(),
      warnings: z.array(z.string()),
    }),
    run: ({ composition, t, p }) => {
      if (!(Object.values(composition).reduce((a, b) => a + b, 0) > 0))
        return refused('Give at least one component.', 'composition')
      const wet = condenses(composition, t + 273.15, p)
      const s = wet?.sure === true ? null : new Gas(composition).state(t + 273.15, p)
      if (!s) return refused(wet?.says ?? LIQUID, 'p')
      return {
        molarMass: s.molarMass_g_mol,
        Z: s.Z,
        density: s.density_kg_m3,
        soundSpeed: s.soundSpeed_m_s,
        kappa: s.kappa,
        cp: s.cp_J_molK,
        cv: s.cv_J_molK,
        warnings: wet ? [wet.says] : [],
      }
    },
    example: { composition: { ...NAMED_GASES['natural_gas']?.composition }, t: 21, p: 840 },
  }),
  calculation({
    name: 'flow.volume',
    title: 'Actual, standard and normal volume of a gas',
    source: 'Ratio of densities by ISO 20765-1',
    input: z.strictObject({
      composition: Fractions,
      t: celsius,
      p: absolute,
      actual: z.number().describe('m³/h at line conditions'),
    }),
    output: z.object({
      normal: z.number(),
      standard15: z.number(),
      standard20: z.number(),
      standard60F: z.number(),
      mass: z.number(),
    }),
    run: ({ composition, t, p, actual }) => {
      const gas = new Gas(composition)
      const wet = condenses(composition, t + 273.15, p)
      const line = wet?.sure === true ? null : gas.state(t + 273.15, p)
      if (!line) return refused(wet?.says ?? LIQUID, 'p')
      const mass = actual * line.density_kg_m3
      const at = (base: keyof typeof VOLUME_BASES): number => {
        const { T, p_kPa } = VOLUME_BASES[base]
        // The base volume of a damp gas is told as if nothing condensed; of a liquid there is none.
        const isGas = condenses(composition, T, p_kPa)?.alone !== true
        return mass / ((isGas ? gas.state(T, p_kPa)?.density_kg_m3 : undefined) ?? NaN)
      }
      const [normal, standard15, standard20, standard60F] = [
        at('normal'),
        at('standard15'),
        at('standard20'),
        at('standard60F'),
      ]
      return [normal, standard15, standard20, standard60F].some(Number.isNaN)
        ? refused('At base conditions this is not a gas.', 'composition')
        : { normal, standard15, standard20, standard60F, mass }
    },
    example: { composition: { ...NAMED_GASES['natural_gas']?.composition }, t: 21, p: 840, actual: 186 },
  }),
  calculation({
    name: 'flow.otherPipe',
    title: 'Bore of a pipe that has no schedule',
    source: 'EN 10220, ASTM B88, EN 1057, ISO 161-1, EN 545, AWWA C151; always measured all the same',
    input: z.strictObject({
      make: z.enum(MAKES),
      size: z.string().max(10).describe('as the make names it'),
      type: z.enum(['K', 'L', 'M']).optional().describe('copper in inches'),
      sdr: z.number().min(5).max(60).optional().describe('plastic'),
      kClass: z.number().min(5).max(20).optional().describe('ductile iron'),
      wall: mm.optional(),
      liner: mm.default(0),
    }),
    output: z.object({
      od: z.number(),
      wall: z.number(),
      id: z.number(),
      area: z.number(),
      litresPerMetre: z.number(),
      warnings: z.array(z.string()),
    }),
    run: ({ make, size, type, sdr, kClass, wall, liner }) => {
      const named = namedPipe(make, size, { type, sdr, kClass })
      if (named.od_mm === null)
        return refused(`There is no size ${size} of it. There are ${sizesOf(make).join(', ')}.`, 'size')
      const w = wall ?? named.wall_mm
      if (w === null) return refused('Its name does not tell the wall: measure it and type it.', 'wall')
      const b = bore(named.od_mm, w, liner)
      if (!b)
        return refused(
          `Wall and liner of ${w + liner} mm leave no bore in a pipe of ${named.od_mm} mm.`,
          'wall',
        )
      return {
        od: named.od_mm,
        wall: w,
        id: b.id_mm,
        area: b.area_m2,
        litresPerMetre: b.volume_L_per_m,
        warnings: wall === undefined && named.says !== null ? [named.says] : [],
      }
    },
    example: { make: 'ductile' as const, size: '200', kClass: 9, liner: 4 },
  }),
  calculation({
    name: 'flow.boreError',
    title: 'What an error in diameter or wall does to the flow',
    source: '(ID₂/ID₁)² − 1; linear 2 dOD/ID − 4 dw/ID',
    input: z.strictObject({
      od: z.number().positive().describe('mm, as entered'),
      wall: mm,
      liner: mm.default(0),
      odTrue: z.number().positive().describe('mm, as it is'),
      wallTrue: mm,
      linerTrue: mm.optional().describe('mm; the one entered when left out'),
      typedSoundSpeed: z
        .boolean()
        .default(false)
        .describe('the sound speed is typed, not measured: the bore counts once, not twice'),
    }),
    output: z.object({ exact: z.number().describe('%'), linear: z.number().describe('%') }),
    run: ({ od, wall, liner, odTrue, wallTrue, linerTrue, typedSoundSpeed }) => {
      const [entered, real] = [bore(od, wall, liner), bore(odTrue, wallTrue, linerTrue ?? liner)]
      if (!entered) return refused('The pipe as entered has no bore.', 'wall')
      if (!real) return refused('The pipe as it is has no bore.', 'wallTrue')
      const power = typedSoundSpeed ? 1 : 2
      const walls = wallTrue + (linerTrue ?? liner) - wall - liner
      return {
        exact: 100 * ((real.id_mm / entered.id_mm) ** power - 1),
        linear: (100 * (power * (odTrue - od) - 2 * power * walls)) / entered.id_mm,
      }
    },
    example: { od: 610, wall: 9.53, liner: 8, odTrue: 611, wallTrue: 9.13 },
  }),
  calculation({
    name: 'flow.saturation',
    title: 'Pressure at which a fluid boils',
    source: 'Water: IAPWS-IF97 region 4; others: Wagner’s equation, within 1 %',
    input: z.strictObject({ component: z.string().max(30), t: celsius }),
    output: z.object({ p: z.number().nullable().describe('kPa absolute; null: a gas at any pressure') }),
    run: ({ component, t }) => {
      const key = GAS_COMPONENTS.find((c) => c.key === component)?.key
      if (key === undefined)
        return refused(
          `There is no component “${component}”. There are ${[...COMPONENTS].join(', ')}.`,
          'component',
        )
      const from_C = boilingKnownFrom_K(key) - 273.15
      if (t < from_C)
        return refused(
          `Its boiling is known from ${sayNumber(from_C, 4)} °C; ${sayNumber(t, 5)} °C is colder.`,
          't',
        )
      return { p: boilingPressure_kPa(key, t + 273.15) }
    },
    example: { component: 'propane', t: 20 },
  }),
  calculation({
    name: 'flow.temperatureOfSound',
    title: 'Temperatures of one sound speed',
    source: 'The fluid’s own curve; water’s turns back near 74 °C, so that two temperatures have one speed',
    input: z.strictObject({
      fluid: z.enum(['water', 'seawater', 'brine']),
      salinity: z.number().min(0).default(35).describe('seawater, practical'),
      salt: z.number().min(0).default(10).describe('brine, % by mass'),
      p: absolute,
      c: z.number().positive().describe('m/s'),
    }),
    output: z.object({
      temperatures: z.array(z.number()).describe('°C, rising; none where no temperature has it'),
    }),
    run: ({ fluid, salinity, salt, p, c }) => {
      const of: Fluid =
        fluid === 'water'
          ? { kind: 'water' }
          : fluid === 'seawater'
            ? { kind: 'seawater', salinity }
            : { kind: 'brine', salt_pct: salt }
      const speed = (t: number) => {
        const s = fluidState(of, t, p)
        return s.kind === 'state' ? s.soundSpeed_m_s : null
      }
      const at20 = fluidState(of, 20, p)
      if (at20.kind === 'refused')
        return { ...at20, where: fluid === 'water' ? 'p' : fluid === 'brine' ? 'salt' : 'salinity' }
      const to = fluid === 'water' ? 150 : fluid === 'seawater' ? 40 : 60
      return { temperatures: crossings(speed, c, 0, to) }
    },
    example: { fluid: 'water' as const, p: 600, c: 1540 },
  }),
  calculation({
    name: 'flow.gasViscosity',
    title: 'Viscosity of a gas at low pressure',
    source: 'Sutherland, fitted −20 to 80 °C within 0.16 %; at 5 MPa real values are 5 to 12 % higher',
    input: z.strictObject({
      gas: z.enum(['nitrogen', 'air', 'carbon_dioxide', 'methane', 'argon', 'helium', 'oxygen', 'hydrogen']),
      t: z.number().min(-100).max(400).describe('°C'),
    }),
    output: z.object({ viscosity: z.number().describe('Pa·s'), warnings: z.array(z.string()) }),
    run: ({ gas, t }) => ({
      viscosity: gasViscosity_Pa_s(gas, t + 273.15),
      warnings: t < -20 || t > 80 ? ['Fitted from −20 to 80 °C; this is carried beyond it.'] : [],
    }),
    example: { gas: 'air' as const, t: 35 },
  }),
]
