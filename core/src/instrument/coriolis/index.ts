import type { Finding } from '../../finding.ts'
import { parseNumber } from '../../quantity/parse-number.ts'
import { sayNumber } from '../../quantity/round.ts'
import { choice, flag, number, text, type Settings } from '../../quantity/setting.ts'
import type { Family, ResultRow, SetUpResult } from '../family.ts'
import { cutoff, errorAt_pct, kneeFlow, pulses } from './accuracy.ts'
import { compareTyped, splitFactor, type Slip } from './factor-string.ts'
import { density, massFlow_g_s } from './flow-and-density.ts'
import { plausible } from './plausible.ts'

/** Values of the characterization, in the order of the tag; each is entered from the certificate, the tag and the device. */
const VALUES = [
  { id: 'factor', title: 'Flow factor', short: 'Factor' },
  { id: 'K1', title: 'K1, µs', short: 'K1' },
  { id: 'K2', title: 'K2, µs', short: 'K2' },
  { id: 'D1', title: 'D1', short: 'D1' },
  { id: 'D2', title: 'D2', short: 'D2' },
  { id: 'DT', title: 'DT, % per 100 °C', short: 'DT' },
] as const
const COLUMNS = [
  { id: 'cert', title: 'certificate' },
  { id: 'tag', title: 'tag' },
  { id: 'dev', title: 'device' },
] as const

const problemOf = (id: string) => (typed: string) => {
  if (typed.trim() === '') return null
  if (id === 'factor') {
    const f = splitFactor(typed)
    return f.kind === 'refused' ? f.says : null
  }
  const n = parseNumber(typed)
  return n.kind === 'refused' ? n.says : null
}
const SLIP_SAYS: Readonly<Record<Slip, string>> = {
  SAME: '',
  SAME_VALUE: 'the same value with decimals lost',
  DECIMAL_SHIFT: 'the decimal point has moved',
  TRANSPOSED: 'two neighbouring digits are exchanged',
  DIGIT_CHANGED: 'one digit differs',
  DIGIT_DROPPED: 'one digit is missing',
  DIGIT_ADDED: 'there is one digit too many',
  DIFFERENT: 'they are different numbers',
}

/** What counts: the certificate, else the tag, else the device. */
const typedOf = (s: Settings, id: string): string =>
  COLUMNS.map((c) => s.word(`${id}_${c.id}`).trim()).find((t) => t !== '') ?? ''
const valueOf = (s: Settings, id: string): number | null => {
  const n = parseNumber(typedOf(s, id))
  return n.kind === 'number' ? n.value : null
}

function comparisons(s: Settings): Finding[] {
  return VALUES.flatMap(({ id, title }): Finding[] => {
    const given = COLUMNS.map((c) => ({ ...c, typed: s.word(`${id}_${c.id}`).trim() })).filter(
      (c) => c.typed !== '',
    )
    const [first, ...others] = given
    if (!first) return []
    return others.flatMap((o): Finding[] => {
      const told = compareTyped(first.typed.replace(',', '.'), o.typed.replace(',', '.'))
      if (told.slip === 'SAME') return []
      return [
        {
          code: told.slip,
          severity: told.slip === 'SAME_VALUE' ? 'note' : 'stop',
          where: [`${id}_${o.id}`],
          says: `${title}: the ${first.title} says ${first.typed}, the ${o.title} says ${o.typed}; ${SLIP_SAYS[told.slip]}${told.power ? ` by ${Math.abs(told.power)} ${Math.abs(told.power) === 1 ? 'place' : 'places'}` : ''}.`,
          rule: 'digit by digit, spaces trimmed',
        },
      ]
    })
  })
}

function compute(s: Settings): SetUpResult {
  const findings: Finding[] = [...comparisons(s)]
  const rows: ResultRow[] = []
  const combined = typedOf(s, 'factor')
  const f = combined === '' ? null : splitFactor(combined)
  const unit = s.word('densityUnit') as 'g/cm3' | 'kg/m3'
  const [K1, K2, D1, D2, DT] = ['K1', 'K2', 'D1', 'D2', 'DT'].map((id) => valueOf(s, id)) as [
    number | null,
    number | null,
    number | null,
    number | null,
    number | null,
  ]
  if (s.flag('memoryLost'))
    findings.push({
      code: 'MEMORY_LOST',
      severity: 'warn',
      where: ['memoryLost'],
      says: 'The sensor’s memory module is lost: size, factor and frequency are entered by hand from the tag, and span, output settings, cutoff and direction have to be set again. Nothing of the old set-up can be trusted.',
    })
  if (f?.kind === 'refused')
    findings.push({ code: 'FACTOR', severity: 'stop', where: ['factor_cert'], says: f.says })
  findings.push(
    ...plausible({
      K1_us: K1,
      K2_us: K2,
      D1,
      D2,
      densityUnit: unit,
      kF: f?.kind === 'factor' ? f.kF : null,
      kD: DT,
      bore_mm: s.num('bore_mm'),
      F: f?.kind === 'factor' ? f.F : null,
    }),
  )
  if (f?.kind === 'factor') {
    rows.push({ label: 'Flow factor', value: f.flow, unit: '(g/s)/µs' })
    rows.push({ label: 'Temperature term', value: f.temperature, unit: '% per 100 °C' })
    if (s.num('dt_us') !== 0) {
      const q = massFlow_g_s(
        { F: f.F, kF: f.kF, zero_us: s.num('zero_us'), tRef_C: 0 },
        s.num('dt_us'),
        s.num('tube_C'),
      )
      rows.push({ label: 'Mass flow of the reading', value: q * 3.6, unit: 'kg/h', decimals: 2 })
    }
  }
  if (K1 !== null && K2 !== null && D1 !== null && D2 !== null && K1 !== K2 && s.num('tau_us') > 0) {
    const rho = density(
      { K1_us: K1, K2_us: K2, D1, D2, kD: DT ?? 0, kf: 0, tRef_C: 0 },
      s.num('tau_us'),
      s.num('tube_C'),
      s.num('dt_us') - s.num('zero_us'),
    )
    rows.push({
      label: 'Density of the reading',
      value: rho,
      unit: unit === 'g/cm3' ? 'g/cm³' : 'kg/m³',
      decimals: unit === 'g/cm3' ? 5 : 2,
    })
  }
  const zs = s.num('zs_kgh')
  const style = s.word('style') as 'max' | 'sum'
  const cut = s.num('cutoff_kgh')
  const usual = cutoff(zs)
  rows.push({
    label: 'Cutoff advised, twice the zero stability',
    value: usual.cutoff,
    unit: 'kg/h',
    decimals: 3,
  })
  rows.push({
    label: 'Error at full flow',
    value: errorAt_pct(s.num('flow_kgh'), s.num('base_pct'), zs, style),
    unit: '%',
    decimals: 3,
  })
  rows.push({
    label: 'Error at the smallest real flow',
    value: errorAt_pct(s.num('least_kgh'), s.num('base_pct'), zs, style),
    unit: '%',
    decimals: 3,
  })
  rows.push({
    label: 'Zero stability rules below',
    value: kneeFlow(s.num('base_pct'), zs),
    unit: 'kg/h',
    decimals: 0,
  })
  const cutSays =
    cut === 0
      ? 'A cutoff of 0 lets the total walk with the noise of the zero. Never 0.'
      : cut < zs
        ? `A cutoff of ${sayNumber(cut)} kg/h is below the zero stability of ${sayNumber(zs)} kg/h: the total walks.`
        : cut > 0.1 * s.num('least_kgh')
          ? `A cutoff of ${sayNumber(cut)} kg/h is more than a tenth of the smallest real flow.`
          : null
  findings.push(
    cutSays
      ? { code: 'CUTOFF', severity: cut === 0 ? 'stop' : 'warn', where: ['cutoff_kgh'], says: cutSays }
      : {
          code: 'CUTOFF_FINE',
          severity: 'good',
          where: ['cutoff_kgh'],
          says: `The cutoff is reasonable; a leak of up to ${sayNumber(cut * 24, 4)} kg a day hides under it.`,
        },
  )
  const p = pulses(
    {
      frequency_Hz: s.num('pulse_Hz'),
      rate_perHour: s.num('flow_kgh'),
      limit_Hz: s.num('limit_Hz'),
      width_ms: s.num('pulse_ms'),
    },
    s.num('flow_kgh'),
  )
  rows.push({ label: 'Pulses per kg', value: p.pulsesPerUnit, decimals: 4 })
  if (!p.topOk || !p.widthOk)
    findings.push({
      code: 'PULSES',
      severity: 'stop',
      where: ['pulse_Hz'],
      says: !p.topOk
        ? `At 105 % of full flow the output would make ${sayNumber(p.top_Hz, 5)} Hz; the receiver takes ${sayNumber(s.num('limit_Hz'))} Hz.`
        : `A pulse of ${sayNumber(s.num('pulse_ms'))} ms is wider than half the period at the top, ${sayNumber(p.widest_ms, 3)} ms.`,
    })
  return {
    rows,
    findings,
    sheet: [
      ...VALUES.map((v) => ({ says: v.title, value: typedOf(s, v.id) || 'not entered' })),
      { says: 'Flow direction', value: s.word('direction') },
      { says: 'Low-flow cutoff', value: `${sayNumber(cut)} kg/h` },
      { says: 'Flow at 20 mA', value: `${sayNumber(s.num('flow_kgh'))} kg/h` },
      { says: 'Frequency at full flow', value: `${sayNumber(s.num('pulse_Hz'))} Hz` },
    ],
    drawing: null,
  }
}

/** Coriolis meters by tag, certificate and device. */
export const coriolis: Family = {
  id: 'coriolis',
  title: 'Coriolis',
  fits: (words) => /coriolis/.test(words),
  groups: [
    {
      title: 'Characterization: certificate, tag and device side by side',
      columns: 3,
      settings: VALUES.flatMap((v) =>
        COLUMNS.map((c) => text(`${v.id}_${c.id}`, `${v.short} ${c.title}`, '', problemOf(v.id))),
      ),
    },
    {
      title: 'Sensor and reading',
      settings: [
        choice('densityUnit', 'Unit of D1 and D2', 'g/cm3', { 'g/cm3': 'g/cm³', 'kg/m3': 'kg/m³' }),
        number('bore_mm', 'Tube bore', 'mm', 25, 0.0001, 2000),
        flag('memoryLost', 'Memory module lost', false),
        choice('direction', 'Flow direction', 'forward', {
          forward: 'forward',
          reverse: 'reverse',
          both: 'both ways',
        }),
        number('dt_us', 'Time difference read, µs', '', 0, -10_000, 10_000),
        number('zero_us', 'Zero, µs', '', 0, -100, 100),
        number('tau_us', 'Tube period read, µs', '', 0, 0, 100_000),
        number('tube_C', 'Tube temperature', 'degC', 20, -100, 250),
      ],
    },
    {
      title: 'Accuracy and outputs',
      settings: [
        number('flow_kgh', 'Full flow', 'kg/h', 20_000, 0.001, 1e7),
        number('least_kgh', 'Smallest real flow', 'kg/h', 300, 0.001, 1e7),
        number('zs_kgh', 'Zero stability', 'kg/h', 1.4, 0.00001, 1e5),
        number('base_pct', 'Base error', '%', 0.1, 0.001, 10),
        choice('style', 'Certificate counts', 'max', { max: 'the larger of both', sum: 'the sum of both' }),
        number('cutoff_kgh', 'Low-flow cutoff', 'kg/h', 2.8, 0, 1e6),
        number('pulse_Hz', 'Frequency at full flow, Hz', '', 8000, 0.01, 20_000),
        number('limit_Hz', 'Receiver takes up to, Hz', '', 10_000, 0.1, 100_000),
        number('pulse_ms', 'Pulse width, ms', '', 0.05, 0.001, 10_000),
      ],
    },
  ],
  compute,
  ranges: (s) => [{ low: 0, high: s.num('flow_kgh'), unit: 'kg/h' }],
  kit: ['certificate and a picture of the tag', 'reference density for the check (water or air)'],
  cautions: [
    'Zero only with the tubes full, at working temperature, both valves shut and tight: a leak becomes a constant error.',
    'Put the controller in manual and tell the operator before factors change.',
  ],
}
