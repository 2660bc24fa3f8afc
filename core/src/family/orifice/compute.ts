import { NAMED_GASES } from '../../media/fluid.ts'
import { saturationPressure_MPa } from '../../media/water.ts'
import { entryFix } from '../entry-fix.ts'
import { judgeFirstReading, rangeSlips } from '../first-reading.ts'
import { backwards, flowUnitSlips, otherVolume, pulseSlips } from '../flow-reading.ts'
import type { Finding } from '../../finding.ts'
import { sayNumber } from '../../quantity/round.ts'
import { nothing, type AtWork, type SetUpResult } from '../family.ts'
import { drawing } from './drawing.ts'
import type { Entries } from './settings.ts'
import { streamOf } from './stream.ts'

/** The root as a line of the sheet: it is set on the signal path, and nowhere else. */
const sayTakers = ({ root }: AtWork): string =>
  root === null
    ? 'not known'
    : root.takers.length === 0
      ? 'nowhere'
      : `in the ${root.takers.join(' and the ')}`

/** Differentials that plates are made for, kPa; typical. */
const USUAL_KPA = [0.5, 100] as const
/** A span that nobody builds a plate for, or at which the liquid would boil behind it. */
function spanFindings(s: Entries, p_kPa: number): Finding[] {
  const isLiquid = NAMED_GASES[s.fluid] === undefined
  const boils_kPa = isLiquid ? saturationPressure_MPa(s.t_C + 273.15) * 1000 : 0
  const [least, most] = USUAL_KPA
  const where = ['span_kPa']
  if (isLiquid && p_kPa - s.span_kPa <= boils_kPa)
    return [
      {
        code: 'FLASHES',
        severity: 'stop',
        where,
        says: `Behind the plate ${sayNumber(Math.max(0, p_kPa - s.span_kPa), 3)} kPa absolute would be left and water boils at ${sayNumber(boils_kPa, 3)} kPa: a slip in the differential or its unit, mbar or mmH2O for kPa?`,
      },
    ]
  return s.span_kPa > most || s.span_kPa < least
    ? [
        {
          code: 'SPAN_UNUSUAL',
          severity: 'warn',
          where,
          says: `A differential of ${sayNumber(s.span_kPa)} kPa at full flow is unusual: ${least} to ${most} kPa are. ${s.span_kPa > most ? 'Was it in mbar, or in mmH2O' : 'Was it in bar'}?`,
          rule: 'typical',
        },
      ]
    : []
}

/** A flow that is known against what the loop reads. @param top_m3h - at the span */
function readingFindings(s: Entries, top_m3h: number, density_kg_m3: number): Finding[] {
  if (s.compared === 'no') return []
  const { known, reads } = s
  const f = known / top_m3h
  return judgeFirstReading({ known, reads, unit: 'm³/h', agrees: Math.max(0.03 * Math.abs(known), 1e-9) }, [
    {
      says: 'no square root is taken: the differential is shown as a flow',
      reads: top_m3h * f * f,
      slope: 2 * f,
    },
    {
      says: 'the square root is taken twice',
      reads: top_m3h * Math.sqrt(Math.max(0, f)),
      slope: 0.5 / Math.sqrt(Math.max(f, 1e-6)),
    },
    backwards(known, 'the two impulse lines are exchanged'),
    otherVolume(known, density_kg_m3 / 1000, 'the receiver shows tonnes an hour'),
    ...flowUnitSlips(known, 'm3/h'),
    ...pulseSlips(known),
    ...rangeSlips(known, 0, top_m3h).filter((slip) => !slip.says.includes('root')),
  ])
}

/** The span against the flow that is wanted at 20 mA. @param dp_kPa - that makes it; null where none does */
function wantedFindings(s: Entries, dp_kPa: number | null): Finding[] {
  if (s.wanted_m3h === 0) return []
  const where = ['span_kPa']
  if (dp_kPa === null)
    return [
      {
        code: 'WANTED_TOO_MUCH',
        severity: 'stop',
        where: ['wanted_m3h'],
        says: `No differential drives ${sayNumber(s.wanted_m3h)} m³/h through this plate: a larger bore, or a slip in the flow or its unit?`,
      },
    ]
  if (Math.abs(s.span_kPa / dp_kPa - 1) < 0.002)
    return [
      {
        code: 'SPAN_FITS',
        severity: 'good',
        where,
        says: `The differential at 20 mA makes the wanted ${sayNumber(s.wanted_m3h)} m³/h.`,
      },
    ]
  return [
    {
      code: 'SPAN_FOR_WANTED',
      severity: 'warn',
      where,
      says: `For ${sayNumber(s.wanted_m3h)} m³/h at 20 mA the differential is ${sayNumber(dp_kPa, 5)} kPa, not ${sayNumber(s.span_kPa)} kPa.`,
      ...(dp_kPa <= 1000 ? { fix: entryFix(`Enter ${sayNumber(dp_kPa, 5)} kPa`, { span_kPa: dp_kPa }) } : {}),
    },
  ]
}

export function compute(s: Entries, at: AtWork): SetUpResult {
  const [D, d] = [s.D_mm, s.d_mm]
  if (d >= D) return nothing('BORE', 'd_mm', `The bore of ${d} mm is not smaller than the pipe of ${D} mm.`)
  const span = s.span_kPa
  const stream = streamOf(s)
  if (typeof stream === 'string') return nothing('FLUID_OUTSIDE', 't_C', stream)
  if (stream.fluid.kappa !== null && span >= stream.p_kPa)
    return nothing('SPAN', 'span_kPa', 'The differential pressure is not below the pressure upstream.')
  const f = stream.fluid
  const flowAt = (dp_kPa: number) => stream.flow(D, d, dp_kPa, 0)
  const full = flowAt(span)
  const findings: Finding[] = []
  findings.push(
    at.root?.finding ?? {
      code: 'SQRT_NOT_JUDGED',
      severity: 'note',
      where: ['path'],
      says: 'Who takes the square root is not judged: this loop has no signal path.',
    },
  )
  for (const says of full.outside)
    findings.push({
      code: 'OUTSIDE_STANDARD',
      // The standard knows no coefficient for such a plate; a flow that is too low is a matter of the moment.
      severity: full.plateOutside.includes(says) ? 'stop' : 'warn',
      where: ['d_mm'],
      says: `Outside the standard: ${says}.`,
      rule: 'ISO 5167-2',
    })
  for (const says of f.warnings) findings.push({ code: 'FLUID_NOTE', severity: 'note', where: ['t_C'], says })
  findings.push(...spanFindings(s, stream.p_kPa))
  const cut = s.cut_pct
  if (cut < 0.25)
    findings.push({
      code: 'CUTOFF_LOW',
      severity: 'warn',
      where: ['cut_pct'],
      says: `Below 0.25 % of the differential the flow error of 0.1 % of span is 20 % and more: cut off at 0.25 to 1 %, not at ${sayNumber(cut)} %.`,
    })
  const volume = (q: number) => (q / f.density_kg_m3) * 3600
  const wanted = s.wanted_m3h > 0 ? stream.differential_kPa(D, d, s.wanted_m3h) : null
  findings.push(
    ...wantedFindings(s, wanted),
    ...readingFindings(s, volume(full.massFlow_kg_s), f.density_kg_m3),
  )
  return {
    rows: [
      { label: 'β = d/D', value: full.beta, decimals: 5 },
      { label: 'Density', value: f.density_kg_m3, unit: 'kg/m³', decimals: 3 },
      { label: 'Discharge coefficient', value: full.C, decimals: 6 },
      { label: 'Expansibility', value: full.epsilon, decimals: 6 },
      ...(wanted === null
        ? []
        : [{ label: 'Differential for the wanted flow', value: wanted, unit: 'kPa', decimals: 4 }]),
      { label: 'Flow at the span', value: volume(full.massFlow_kg_s), unit: 'm³/h', decimals: 3 },
      { label: 'as mass', value: full.massFlow_kg_s * 3600, unit: 'kg/h', decimals: 2 },
      {
        label: 'Flow at half the span',
        value: volume(flowAt(span / 2).massFlow_kg_s),
        unit: 'm³/h',
        decimals: 3,
      },
      { label: 'Permanent loss at the span', value: full.permanentLoss_Pa / 1000, unit: 'kPa', decimals: 3 },
      { label: 'Reynolds number', value: full.Re, decimals: 0 },
      { label: 'Uncertainty of the coefficient', value: full.uncertainty_pct, unit: '%', decimals: 2 },
      { label: 'Cutoff hides flow below', value: 10 * Math.sqrt(cut), unit: '%', decimals: 2 },
    ],
    findings,
    sheet: [
      { says: 'Differential at 4 mA', value: '0 kPa', part: 'Range' },
      { says: 'Differential at 20 mA', value: `${sayNumber(span)} kPa`, part: 'Range' },
      {
        says: 'Square root',
        value: sayTakers(at),
        part: 'Range',
        trap: 'taken once: in the transmitter or in the receiver',
      },
      { says: 'Low cutoff of the differential', value: `${sayNumber(cut)} %`, part: 'Reading' },
      { says: 'Damping', value: `${sayNumber(s.damping_s)} s`, part: 'Reading' },
      { says: 'Flow at 20 mA', value: `${volume(full.massFlow_kg_s).toFixed(2)} m³/h`, part: 'Receiver' },
      { says: 'Zero', value: 'manifold equalised, at line pressure', part: 'Last' },
    ],
    drawing: drawing(s),
  }
}
