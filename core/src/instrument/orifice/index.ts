import type { Finding } from '../../finding.ts'
import { ATMOSPHERE_KPA, fluidState, NAMED_GASES } from '../../media/fluid.ts'
import { sayNumber } from '../../quantity/round.ts'
import { choice, number, type Settings } from '../../quantity/setting.ts'
import { nothing, type Family, type ScaleDrawing, type SetUpResult, type UncertainInput } from '../family.ts'
import { orificeFlow, type Taps } from './orifice.ts'

function drawing(s: Settings): ScaleDrawing {
  const [D, d] = [s.num('D_mm'), s.num('d_mm')]
  const length = D * 3.2
  const wall = D * 0.06
  const cx = length / 2
  const tap = s.word('taps') === 'flange' ? 25.4 : s.word('taps') === 'corner' ? 2 : D
  const back = s.word('taps') === 'D-D/2' ? D / 2 : tap
  return {
    says: `Orifice of ${d} mm in a pipe of ${D} mm, ${s.word('taps')} taps`,
    left: -D * 0.35,
    top: -D * 0.45,
    width: length + D * 0.9,
    height: D * 1.9,
    shapes: [
      { kind: 'rect', ink: 'fluid', x: 0, y: 0, w: length, h: D },
      { kind: 'rect', ink: 'wall', x: 0, y: -wall, w: length, h: wall },
      { kind: 'rect', ink: 'wall', x: 0, y: D, w: length, h: wall },
      { kind: 'rect', ink: 'plate', x: cx, y: 0, w: D * 0.035, h: (D - d) / 2 },
      { kind: 'rect', ink: 'plate', x: cx, y: D - (D - d) / 2, w: D * 0.035, h: (D - d) / 2 },
      {
        kind: 'line',
        ink: 'sensor',
        points: [
          [cx - tap, 0],
          [cx - tap, -D * 0.22],
        ],
      },
      {
        kind: 'line',
        ink: 'sensor',
        points: [
          [cx + back, 0],
          [cx + back, -D * 0.22],
        ],
      },
      {
        kind: 'line',
        ink: 'axis',
        points: [
          [0, D / 2],
          [length, D / 2],
        ],
      },
      {
        kind: 'line',
        ink: 'flow',
        points: [
          [length * 0.05, D * 0.72],
          [length * 0.22, D * 0.72],
        ],
      },
      { kind: 'dimension', from: [length + D * 0.15, 0], to: [length + D * 0.15, D], text: `${D} mm` },
      {
        kind: 'dimension',
        from: [cx + D * 0.25, (D - d) / 2],
        to: [cx + D * 0.25, (D + d) / 2],
        text: `${d} mm`,
      },
      {
        kind: 'dimension',
        from: [cx - tap, -D * 0.28],
        to: [cx, -D * 0.28],
        text: `${sayNumber(tap, 4)} mm`,
      },
    ],
  }
}

/** The fluid at the plate and the flow by bore, differential and a change of density; or why there is none. */
function streamOf(s: Settings) {
  const gas = NAMED_GASES[s.word('fluid')]
  const p_kPa = s.num('gauge_kPa') + ATMOSPHERE_KPA
  const fluid = fluidState(
    gas ? { kind: 'gas', composition: gas.composition, viscosityAs: gas.viscosityAs } : { kind: 'water' },
    s.num('t_C'),
    p_kPa,
  )
  if (fluid.kind === 'refused') return fluid.says
  const flow = (D_mm: number, d_mm: number, dp_kPa: number, density_pct: number) =>
    orificeFlow({
      D: D_mm / 1000,
      d: d_mm / 1000,
      taps: s.word('taps') as Taps,
      density_kg_m3: fluid.density_kg_m3 * (1 + density_pct / 100),
      viscosity_Pa_s: fluid.viscosity_Pa_s,
      dp_Pa: dp_kPa * 1000,
      gas: gas ? { p1_Pa: p_kPa * 1000, kappa: fluid.kappa ?? 1.4 } : null,
    })
  return { fluid, p_kPa, flow }
}

function compute(s: Settings): SetUpResult {
  const [D, d] = [s.num('D_mm'), s.num('d_mm')]
  if (d >= D) return nothing('BORE', 'd_mm', `The bore of ${d} mm is not smaller than the pipe of ${D} mm.`)
  const span = s.num('span_kPa')
  const stream = streamOf(s)
  if (typeof stream === 'string') return nothing('FLUID_OUTSIDE', 't_C', stream)
  if (stream.fluid.kappa !== null && span >= stream.p_kPa)
    return nothing('SPAN', 'span_kPa', 'The differential pressure is not below the pressure upstream.')
  const f = stream.fluid
  const at = (dp_kPa: number) => stream.flow(D, d, dp_kPa, 0)
  const full = at(span)
  const findings: Finding[] = []
  const roots = [s.word('rootTx') === 'yes', s.word('rootRx') === 'yes'].filter(Boolean).length
  findings.push(
    roots === 1
      ? {
          code: 'ROOT_ONCE',
          severity: 'good',
          where: ['rootTx'],
          says: 'The square root is taken exactly once.',
        }
      : {
          code: roots === 2 ? 'ROOT_TWICE' : 'ROOT_NEVER',
          severity: 'stop',
          where: ['rootRx'],
          says:
            roots === 2
              ? 'The square root is taken twice: half the differential would read 84.1 % instead of 70.7 %. Take it in the transmitter or in the receiver, never in both.'
              : 'The square root is taken nowhere: half the differential would read 50 % instead of 70.7 %.',
        },
  )
  for (const says of full.outside)
    findings.push({
      code: 'OUTSIDE_STANDARD',
      severity: 'warn',
      where: ['d_mm'],
      says: `Outside the standard: ${says}.`,
      rule: 'ISO 5167-2',
    })
  for (const says of f.warnings) findings.push({ code: 'FLUID_NOTE', severity: 'note', where: ['t_C'], says })
  const cut = s.num('cut_pct')
  if (cut < 0.25)
    findings.push({
      code: 'CUTOFF_LOW',
      severity: 'warn',
      where: ['cut_pct'],
      says: `Below 0.25 % of the differential the flow error of 0.1 % of span is 20 % and more: cut off at 0.25 to 1 %, not at ${sayNumber(cut)} %.`,
    })
  const volume = (q: number) => (q / f.density_kg_m3) * 3600
  return {
    rows: [
      { label: 'β = d/D', value: full.beta, decimals: 5 },
      { label: 'Density', value: f.density_kg_m3, unit: 'kg/m³', decimals: 3 },
      { label: 'Discharge coefficient', value: full.C, decimals: 6 },
      { label: 'Expansibility', value: full.epsilon, decimals: 6 },
      { label: 'Flow at the span', value: volume(full.massFlow_kg_s), unit: 'm³/h', decimals: 3 },
      { label: 'as mass', value: full.massFlow_kg_s * 3600, unit: 'kg/h', decimals: 2 },
      {
        label: 'Flow at half the span',
        value: volume(at(span / 2).massFlow_kg_s),
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
      { says: 'Differential at 20 mA', value: `${sayNumber(span)} kPa` },
      { says: 'Square root in the transmitter', value: s.word('rootTx') },
      { says: 'Square root in the receiver', value: s.word('rootRx') },
      { says: 'Low cutoff of the differential', value: `${sayNumber(cut)} %` },
      { says: 'Flow at 20 mA', value: `${volume(full.massFlow_kg_s).toFixed(2)} m³/h` },
    ],
    drawing: drawing(s),
  }
}

/** Plate, pipe, density, coefficient and differential, as well as they are usually known. */
function uncertain(s: Settings): UncertainInput[] {
  const full = streamOf(s)
  if (typeof full === 'string') return []
  const at = full.flow(s.num('D_mm'), s.num('d_mm'), s.num('span_kPa'), 0)
  return [
    { name: 'D_mm', title: 'Pipe bore', unit: 'mm', value: s.num('D_mm'), usual: s.num('D_mm') * 0.004 },
    { name: 'd_mm', title: 'Orifice bore', unit: 'mm', value: s.num('d_mm'), usual: s.num('d_mm') * 0.0007 },
    {
      name: 'span_kPa',
      title: 'Differential',
      unit: 'kPa',
      value: s.num('span_kPa'),
      usual: s.num('span_kPa') * 0.001,
    },
    { name: 'density', title: 'Density', unit: '%', value: 0, usual: full.fluid.kappa === null ? 0.2 : 1 },
    { name: 'coefficient', title: 'Discharge coefficient', unit: '%', value: 0, usual: at.uncertainty_pct },
  ]
}
function flowModel(s: Settings): ((x: ArrayLike<number>) => number) | null {
  const full = streamOf(s)
  if (typeof full === 'string' || s.num('d_mm') >= s.num('D_mm')) return null
  const entered = full.flow(s.num('D_mm'), s.num('d_mm'), s.num('span_kPa'), 0).massFlow_kg_s
  return (x) => {
    const [D = 1, d = 0, dp = 0, density = 0, coefficient = 0] = x as number[]
    if (d >= D || d <= 0) return -100
    const q = full.flow(D, d, dp, density).massFlow_kg_s * (1 + coefficient / 100)
    return (q / entered - 1) * 100
  }
}

/** Orifice plates and the question where the root is taken. */
export const orifice: Family = {
  id: 'orifice',
  title: 'Orifice, differential pressure',
  fits: (words) => /orifice|dp flow/.test(words),
  groups: [
    {
      title: 'Plate and pipe',
      settings: [
        number('D_mm', 'Pipe bore at working temperature', 'mm', 102.26, 10, 2000),
        number('d_mm', 'Orifice bore', 'mm', 61, 1, 1500),
        choice('taps', 'Taps', 'flange', { flange: 'flange', corner: 'corner', 'D-D/2': 'D and D/2' }),
        choice('fluid', 'Fluid', 'water', {
          water: 'water',
          ...Object.fromEntries(Object.entries(NAMED_GASES).map(([k, g]) => [k, `${g.title} (gas)`])),
        }),
        number('t_C', 'Temperature', 'degC', 31, -50, 300),
        number('gauge_kPa', 'Gauge pressure upstream', 'kPa', 319, -100, 50_000),
      ],
    },
    {
      title: 'Range and root',
      settings: [
        number('span_kPa', 'Differential at 20 mA', 'kPa', 40, 0.01, 1000),
        choice('rootTx', 'Square root in the transmitter', 'no', { yes: 'yes', no: 'no' }),
        choice('rootRx', 'Square root in the receiver', 'yes', { yes: 'yes', no: 'no' }),
        number('cut_pct', 'Cutoff of the differential', '%', 0.5, 0, 10),
      ],
    },
  ],
  compute,
  whatIf: { title: 'Flow at the span', inputs: uncertain, model: flowModel },
  kit: ['plate with its certificate, bore and edge looked at', 'five-valve manifold key'],
  cautions: [
    'A manifold opened in the wrong order overloads the cell; equalise first.',
    'Isolate, bleed and prove zero before the plate is drawn.',
  ],
}
