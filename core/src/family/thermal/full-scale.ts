import type { Finding } from '../../finding.ts'
import { ATMOSPHERE_KPA, fluidState, NAMED_GASES } from '../../media/fluid.ts'
import { sayNumber } from '../../quantity/round.ts'
import { entryFix } from '../entry-fix.ts'
import { insertion, meanFactor } from './insertion.ts'
import { stackOf_mm, type Entries } from './settings.ts'

/** Density of the loop's gas, kg/m³; null where it is no gas there. */
function density(s: Entries, t_C: number, p_kPa: number): number | null {
  const gas = NAMED_GASES[s.gas]
  if (!gas) return null
  const state = fluidState(
    { kind: 'gas', composition: gas.composition, viscosityAs: gas.viscosityAs },
    t_C,
    p_kPa,
  )
  return state.kind === 'state' ? state.density_kg_m3 : null
}
export const insertionOf = (s: Entries) =>
  insertion({
    stack_mm: stackOf_mm(s),
    wall_mm: s.wall_mm,
    id_mm: s.od_mm - 2 * s.wall_mm,
    tip_mm: s.tip_mm,
    stem_mm: s.stem_mm,
    probe_mm: s.probe_mm,
    gauge_kPa: s.gauge_kPa,
  })

/** m³/h through the pipe for 1 m/s on the centre line: profile, blockage, area. */
export const flowPerVelocity = (s: Entries): number =>
  meanFactor(s.n).F * insertionOf(s).blockage * (Math.PI / 4) * ((s.od_mm - 2 * s.wall_mm) / 1000) ** 2 * 3600

/** Full scale as a mass, as a volume at base and at work, and as velocities: one thing said five ways. */
export function fullScale(s: Entries) {
  const base = density(s, s.base_C, ATMOSPHERE_KPA)
  const atWork = density(s, s.t_C, s.gauge_kPa + ATMOSPHERE_KPA)
  if (base === null || atWork === null) return null
  const perVelocity = flowPerVelocity(s)
  return {
    base_kg_m3: base,
    atWork_kg_m3: atWork,
    base_m3h: s.fs_kgh / base,
    atWork_m3h: s.fs_kgh / atWork,
    baseVelocity_m_s: s.fs_kgh / base / perVelocity,
    velocity_m_s: s.fs_kgh / atWork / perVelocity,
  }
}

/** The plate's velocity and the full scale agree within this, %. */
const AGREE_PCT = 3
/** What people do wrong when a plate's velocity does not fit a full scale in this bore. */
function slips(s: Entries): { says: string; set: Partial<Entries>; off: number }[] {
  const id = s.od_mm - 2 * s.wall_mm
  const tries: { says: string; set: Partial<Entries> }[] = [
    { says: 'the bore was entered as the outside diameter', set: { od_mm: s.od_mm + 2 * s.wall_mm } },
    { says: 'the outside diameter was taken as the bore', set: { wall_mm: 0.5, od_mm: id } },
    { says: 'a circumference was entered as the diameter', set: { od_mm: s.od_mm / Math.PI } },
    { says: 'the full scale is in lb/h', set: { fs_kgh: s.fs_kgh * 0.45359237 } },
    { says: 'the full scale is in kg/min', set: { fs_kgh: s.fs_kgh * 60 } },
    {
      says: 'the full scale is in m³/h at base conditions',
      set: { fs_kgh: s.fs_kgh * (density(s, s.base_C, ATMOSPHERE_KPA) ?? NaN) },
    },
    { says: 'the plate’s velocity is in ft/s', set: { v_m_s: s.v_m_s * 0.3048 } },
    ...[0, 15, 20, 25]
      .filter((t) => t !== s.base_C)
      .map((t) => ({ says: `its base temperature is ${t} °C`, set: { base_C: t } })),
    ...(['air', 'nitrogen', 'natural_gas', 'carbon_dioxide'] as const)
      .filter((g) => g !== s.gas)
      .map((g) => ({ says: `it was made for another gas: ${g.replace('_', ' ')}`, set: { gas: g } })),
  ]
  const actual = fullScale(s)
  return [
    ...(actual
      ? [
          {
            says: 'the plate’s velocity is at working conditions, not at base',
            set: { v_m_s: (s.v_m_s * actual.atWork_kg_m3) / actual.base_kg_m3 },
          },
        ]
      : []),
    ...tries,
  ]
    .map((t) => {
      const other = fullScale({ ...s, ...t.set })
      const v = t.set.v_m_s ?? s.v_m_s
      return { ...t, off: other ? Math.abs(other.baseVelocity_m_s / v - 1) * 100 : Infinity }
    })
    .filter((t) => t.off < AGREE_PCT / 2)
    .sort((a, b) => a.off - b.off)
}

/** Whether the plate's velocity, the full scale and the pipe agree; and what a velocity says by itself. */
export function fullScaleFindings(s: Entries): Finding[] {
  const full = fullScale(s)
  if (!full)
    return [
      {
        code: 'NO_GAS',
        severity: 'stop',
        where: ['t_C'],
        says: 'At this temperature and pressure it is no gas: its density is not known.',
      },
    ]
  if (s.v_m_s === 0)
    return full.baseVelocity_m_s > 120 || full.baseVelocity_m_s < 1
      ? [
          {
            code: full.baseVelocity_m_s > 120 ? 'FULL_SCALE_FAST' : 'FULL_SCALE_SLOW',
            severity: 'warn',
            where: ['fs_kgh'],
            says: `${sayNumber(s.fs_kgh)} kg/h in this bore is ${sayNumber(full.baseVelocity_m_s, 3)} m/s at base conditions: a slip in full scale, unit or bore?`,
            rule: 'usual are 1 to 120 m/s at base conditions; typical',
          },
        ]
      : []
  const off_pct = (full.baseVelocity_m_s / s.v_m_s - 1) * 100
  if (Math.abs(off_pct) <= AGREE_PCT)
    return [
      {
        code: 'FULL_SCALE_AGREES',
        severity: 'good',
        where: ['v_m_s'],
        says: `Full scale, bore and the plate’s velocity agree within ${sayNumber(Math.abs(off_pct), 2)} %.`,
      },
    ]
  const [first, second] = slips(s)
  return [
    {
      code: 'FULL_SCALE_DISAGREES',
      severity: 'warn',
      where: ['v_m_s'],
      says: `${sayNumber(s.fs_kgh)} kg/h in this bore is ${sayNumber(full.baseVelocity_m_s, 4)} m/s at base conditions and the plate says ${sayNumber(s.v_m_s)} m/s.${first ? '' : ' A slip in full scale, unit, bore or gas?'}`,
    },
    ...[first, second].flatMap((t, i): Finding[] =>
      t
        ? [
            {
              code: 'LIKELY_CAUSE',
              severity: 'note',
              where: Object.keys(t.set),
              says: `${i === 0 ? 'Likeliest' : 'Or'}: ${t.says}.`,
              evidence: [{ label: 'it leaves unexplained', value: `${sayNumber(t.off, 2)} %` }],
              fix: entryFix('Enter it so', t.set),
            },
          ]
        : [],
    ),
  ]
}
