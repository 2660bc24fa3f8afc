import { z } from 'zod'
import { calculation } from '../../calculation.ts'
import { refused } from '../../refused.ts'
import { positive } from '../../quantity/described.ts'
import { orificeDp_Pa, orificeFlow } from './orifice.ts'

/** A plate and what flows through it, as it is asked for. */
const PLATE = {
  D: positive('mm'),
  d: positive('mm'),
  taps: z.enum(['corner', 'flange', 'D-D/2']),
  density: positive('kg/m³'),
  viscosity: positive('Pa·s'),
}
const GAS = z
  .strictObject({ p1: positive('kPa absolute'), kappa: positive('') })
  .nullable()
  .default(null)

export const flowCalculations = [
  calculation({
    name: 'flow.orifice',
    title: 'Flow through an orifice',
    source: 'ISO 5167-2',
    input: z.strictObject({
      ...PLATE,
      dp: positive('kPa'),
      gas: GAS,
    }),
    output: z.object({
      beta: z.number(),
      C: z.number(),
      epsilon: z.number(),
      Re: z.number(),
      massFlow: z.number(),
      volumeFlow: z.number(),
      loss: z.number(),
      uncertainty: z.number(),
      outside: z.array(z.string()),
    }),
    run: (x) => {
      if (x.d >= x.D) return refused(`The bore of ${x.d} mm is not smaller than the pipe of ${x.D} mm.`, 'd')
      if (x.gas && x.dp >= x.gas.p1)
        return refused('The differential is not below the upstream pressure.', 'dp')
      const o = orificeFlow({
        D: x.D / 1000,
        d: x.d / 1000,
        taps: x.taps,
        density_kg_m3: x.density,
        viscosity_Pa_s: x.viscosity,
        dp_Pa: x.dp * 1000,
        gas: x.gas ? { p1_Pa: x.gas.p1 * 1000, kappa: x.gas.kappa } : null,
      })
      return {
        beta: o.beta,
        C: o.C,
        epsilon: o.epsilon,
        Re: o.Re,
        massFlow: o.massFlow_kg_s,
        volumeFlow: (o.massFlow_kg_s / x.density) * 3600,
        loss: o.permanentLoss_Pa / 1000,
        uncertainty: o.uncertainty_pct,
        outside: [...o.outside],
      }
    },
    example: {
      D: 102.26,
      d: 61,
      taps: 'flange' as const,
      density: 995.4875,
      viscosity: 0.000780535,
      dp: 18.7,
    },
  }),
  calculation({
    name: 'flow.orificeDp',
    title: 'Differential of an orifice for a flow',
    source: 'ISO 5167-2, solved for the differential',
    input: z.strictObject({
      ...PLATE,
      flow: positive('m³/h at working conditions'),
      gas: GAS,
    }),
    output: z.object({
      dp: z.number().describe('kPa'),
      beta: z.number(),
      C: z.number(),
      Re: z.number(),
      loss: z.number(),
      outside: z.array(z.string()),
    }),
    run: (x) => {
      if (x.d >= x.D) return refused(`The bore of ${x.d} mm is not smaller than the pipe of ${x.D} mm.`, 'd')
      const plate = {
        D: x.D / 1000,
        d: x.d / 1000,
        taps: x.taps,
        density_kg_m3: x.density,
        viscosity_Pa_s: x.viscosity,
        gas: x.gas ? { p1_Pa: x.gas.p1 * 1000, kappa: x.gas.kappa } : null,
      }
      const dp_Pa = orificeDp_Pa(plate, (x.flow / 3600) * x.density)
      if (dp_Pa === null) return refused('No differential makes so much flow through this bore.', 'flow')
      const o = orificeFlow({ ...plate, dp_Pa })
      return {
        dp: dp_Pa / 1000,
        beta: o.beta,
        C: o.C,
        Re: o.Re,
        loss: o.permanentLoss_Pa / 1000,
        outside: [...o.outside],
      }
    },
    example: {
      D: 102.26,
      d: 61,
      taps: 'flange' as const,
      density: 995.4875,
      viscosity: 0.000780535,
      flow: 42.0122,
    },
  }),
]
