import type { Finding } from '../../finding.ts'
import { sayNumber } from '../../quantity/round.ts'
import type { ResultRow, SetUpResult } from '../family.ts'
import { judgeSensing, type SensingPlace } from './sensing-judgement.ts'
import type { Entries } from './settings.ts'

const isInductive = (s: Entries) => s.kind === 'inductive'

function placeOf(s: Entries): SensingPlace {
  return {
    ratedDistance_mm: s.rated_mm,
    diameter_mm: s.diameter_mm,
    metal: s.metal,
    sizeFactor: s.sizeFactor,
    gap_mm: s.gap_mm,
    release_mm: s.release_mm,
    speed_mPerS: s.speed_m_s,
    targetLength_mm: s.target_mm,
    gapLength_mm: s.between_mm,
    sensorFrequency_Hz: s.frequency_Hz,
    inputFilter_ms: s.filter_ms,
    scan_ms: s.scan_ms,
  }
}
/** State of the input while the thing to be told is there, and while the wire is cut. */
function meaning(s: Entries): Finding[] {
  // NO conducts while it senses; NC while it does not. A cut wire never conducts.
  const bitSensing = s.contact === 'no' ? 1 : 0
  const one = s.meaning1
  const told = bitSensing === 1 ? 'sensed' : 'notSensed'
  const out: Finding[] = []
  if (one !== told)
    out.push({
      code: 'MEANING_REVERSED',
      severity: 'stop',
      where: ['meaning1', 'contact'],
      says: `With a ${s.contact.toUpperCase()} contact the input is ${bitSensing} while it senses, and the tag says 1 means “${one === 'sensed' ? 'it senses' : 'it does not sense'}”. One of the two is wrong.`,
    })
  if (s.alarmOn !== 'none') {
    const alarmBit = s.alarmOn === 'sensed' ? bitSensing : 1 - bitSensing
    out.push(
      alarmBit === 1
        ? {
            code: 'FAIL_UNSAFE',
            severity: 'warn',
            where: ['alarmOn', 'contact'],
            says: 'A cut wire looks like “no alarm”: the alarm needs current. Take the other contact, so that the alarm state is the one without current.',
            rule: 'the alarm state is the de-energised state',
          }
        : {
            code: 'FAIL_SAFE',
            severity: 'good',
            where: ['alarmOn'],
            says: 'A cut wire, a lost supply and the alarm look the same: it fails to the safe side.',
          },
    )
  }
  return out
}

function cycleFindings(s: Entries): { rows: ResultRow[]; findings: Finding[] } {
  if (!s.counter) return { rows: [], findings: [] }
  const [ideal, least, most] = [s.ideal_s, s.least_s, s.most_s]
  const findings: Finding[] = []
  if (!(least < ideal && ideal < most))
    findings.push({
      code: 'CYCLE_LIMITS',
      severity: 'stop',
      where: ['most_s'],
      says: `The limits must lie around the ideal cycle: ${sayNumber(least)} < ${sayNumber(ideal)} < ${sayNumber(most)} s is not so.`,
    })
  if (s.filter_ms + s.scan_ms > (ideal * 1000) / 4)
    findings.push({
      code: 'FILTER_LONG',
      severity: 'warn',
      where: ['filter_ms'],
      says: `Filter and scan take ${sayNumber(s.filter_ms + s.scan_ms)} ms of a cycle of ${sayNumber(ideal * 1000)} ms: short strokes are lost.`,
    })
  return {
    rows: [{ label: 'Ideal rate', value: 3600 / ideal, unit: 'per hour', decimals: 1 }],
    findings,
  }
}

export function compute(s: Entries): SetUpResult {
  const findings: Finding[] = meaning(s)
  const rows: ResultRow[] = [
    { label: 'Input while it senses', value: s.contact === 'no' ? '1' : '0' },
    { label: 'Input with a cut wire', value: '0' },
    {
      label: 'Shortest signal that counts',
      value: s.filter_ms + s.scan_ms,
      unit: 'ms',
      decimals: 1,
    },
  ]
  if (isInductive(s)) {
    const j = judgeSensing(placeOf(s))
    findings.push(...j.findings.map((f) => ({ ...f, where: ['gap_mm'] })))
    rows.push(
      { label: 'Assured distance', value: j.assured_mm, unit: 'mm', decimals: 2, typical: true },
      { label: 'Lets go for sure beyond', value: j.released_mm, unit: 'mm', decimals: 2, typical: true },
    )
  }
  const cycle = cycleFindings(s)
  const delay = s.delay_s
  rows.push(
    {
      label: 'Alarm after',
      value: delay + (s.filter_ms + s.scan_ms) / 1000,
      unit: 's',
      decimals: 3,
    },
    ...cycle.rows,
  )
  return {
    rows,
    findings: [...findings, ...cycle.findings],
    sheet: [
      { says: 'Input tag', value: s.tag || 'not entered' },
      { says: 'Contact', value: s.contact.toUpperCase() },
      { says: '1 means', value: s.meaning1 === 'sensed' ? 'it senses' : 'it does not sense' },
      { says: 'Input filter', value: `${sayNumber(s.filter_ms)} ms` },
      { says: 'Alarm delay', value: `${sayNumber(delay)} s` },
      ...(s.counter
        ? [
            {
              says: 'Counter',
              value: `on, ideal cycle ${sayNumber(s.ideal_s)} s, alarm outside ${sayNumber(s.least_s)} to ${sayNumber(s.most_s)} s`,
            },
          ]
        : [{ says: 'Counter', value: 'off' }]),
    ],
    drawing: null,
  }
}
