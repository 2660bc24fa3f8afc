import type { Finding } from '../../finding.ts'
import { sayNumber } from '../../quantity/round.ts'
import type { AtWork, ResultRow, SetUpResult } from '../family.ts'
import { cutoff, errorAt_pct, kneeFlow, pulses } from './accuracy.ts'
import { comparisons, constantsOf, nameOf } from './characterization.ts'
import { density, massFlow_g_s } from './flow-and-density.ts'
import { flowReadingFindings } from './flow-reading.ts'
import { memoryFindings } from './memory-lost.ts'
import { frequency_Hz, frequencyEntry, outputFindings } from './outputs.ts'
import { plausible } from './plausible.ts'
import type { Entries } from './settings.ts'
import { coriolisSheet } from './sheet.ts'

export function compute(s: Entries, at: AtWork): SetUpResult {
  const { constants, findings: unreadable } = constantsOf(s)
  const valueOf = (role: keyof typeof constants) => constants[role]?.value ?? null
  const F = valueOf('flowFactor')
  const kF = valueOf('flowTemperature')
  const lightPeriod_us = valueOf('lightPeriod')
  const heavyPeriod_us = valueOf('heavyPeriod')
  const lightDensity = valueOf('lightDensity')
  const heavyDensity = valueOf('heavyDensity')
  const kD = valueOf('densityTemperature')
  const unit = s.densityUnit
  const findings: Finding[] = [...comparisons(s), ...unreadable]
  const rows: ResultRow[] = []
  findings.push(
    ...memoryFindings(s, constants),
    ...outputFindings(s, at.root !== null),
    ...flowReadingFindings(s),
  )
  findings.push(
    ...plausible({
      lightPeriod_us,
      heavyPeriod_us,
      lightDensity,
      heavyDensity,
      densityUnit: unit,
      kF,
      kD,
      bore_mm: s.bore_mm,
      F,
    }),
  )
  for (const role of ['flowFactor', 'flowTemperature'] as const) {
    const c = constants[role]
    if (c)
      rows.push({
        label: nameOf(s, role),
        value: c.typed,
        unit: role === 'flowFactor' ? '(g/s)/µs' : '% per 100 °C',
      })
  }
  if (F !== null && s.dt_us !== 0)
    rows.push({
      label: 'Mass flow of the reading',
      value: massFlow_g_s({ F, kF: kF ?? 0, zero_us: s.zero_us, tRef_C: 0 }, s.dt_us, s.tube_C) * 3.6,
      unit: 'kg/h',
      decimals: 2,
    })
  if (
    lightPeriod_us !== null &&
    heavyPeriod_us !== null &&
    lightDensity !== null &&
    heavyDensity !== null &&
    lightPeriod_us !== heavyPeriod_us &&
    s.period_us > 0
  )
    rows.push({
      label: 'Density of the reading',
      value: density(
        {
          lightPeriod_us,
          heavyPeriod_us,
          lightDensity,
          heavyDensity,
          kD: kD ?? 0,
          kf: valueOf('densityFlow') ?? 0,
          tRef_C: 0,
        },
        s.period_us,
        s.tube_C,
        s.dt_us - s.zero_us,
      ),
      unit: unit === 'g/cm3' ? 'g/cm³' : 'kg/m³',
      decimals: unit === 'g/cm3' ? 5 : 2,
    })
  const zs = s.zs_kgh
  const style = s.style
  const cut = s.cutoff_kgh
  const usual = cutoff(zs)
  rows.push({
    label: 'Cutoff advised, twice the zero stability',
    value: usual.cutoff,
    unit: 'kg/h',
    decimals: 3,
  })
  rows.push({
    label: 'Error at full flow',
    value: errorAt_pct(s.flow_kgh, s.base_pct, zs, style),
    unit: '%',
    decimals: 3,
  })
  rows.push({
    label: 'Error at the smallest real flow',
    value: errorAt_pct(s.least_kgh, s.base_pct, zs, style),
    unit: '%',
    decimals: 3,
  })
  rows.push({
    label: 'Zero stability rules below',
    value: kneeFlow(s.base_pct, zs),
    unit: 'kg/h',
    decimals: 0,
  })
  const cutSays =
    cut === 0
      ? 'A cutoff of 0 lets the total walk with the noise of the zero. Never 0.'
      : cut < zs
        ? `A cutoff of ${sayNumber(cut)} kg/h is below the zero stability of ${sayNumber(zs)} kg/h: the total walks.`
        : cut > 0.1 * s.least_kgh
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
      frequency_Hz: frequency_Hz(s),
      rate_perHour: s.flow_kgh,
      limit_Hz: s.limit_Hz,
      width_ms: s.pulse_ms,
    },
    s.flow_kgh,
  )
  rows.push({ label: 'Pulses per kg', value: p.pulsesPerUnit, decimals: 4 })
  if (!p.topOk || !p.widthOk)
    findings.push({
      code: 'PULSES',
      severity: 'stop',
      where: [frequencyEntry(s)],
      says: !p.topOk
        ? `At 105 % of full flow the output would make ${sayNumber(p.top_Hz, 5)} Hz; the receiver takes ${sayNumber(s.limit_Hz)} Hz.`
        : `A pulse of ${sayNumber(s.pulse_ms)} ms is wider than half the period at the top, ${sayNumber(p.widest_ms, 3)} ms.`,
    })
  return {
    rows,
    findings,
    sheet: coriolisSheet(s, constants),
    drawing: null,
  }
}
