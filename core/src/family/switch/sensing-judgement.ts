import type { Finding } from '../../finding.ts'
import { sayNumber } from '../../quantity/round.ts'
import { passing, sensing } from './sensing.ts'

/** What a technician knows of a proximity sensor's place. Lengths in mm, speed in m/s, times in ms. */
export interface SensingPlace {
  readonly ratedDistance_mm: number
  readonly diameter_mm: number
  readonly metal: keyof typeof METALS
  /** Reading factor for a target smaller than standard, 0..1. */
  readonly sizeFactor: number
  readonly gap_mm: number
  readonly release_mm: number
  readonly speed_mPerS: number
  readonly targetLength_mm: number
  readonly gapLength_mm: number
  readonly sensorFrequency_Hz: number
  readonly inputFilter_ms: number
  readonly scan_ms: number
}

/** Typical reading factors of inductive sensors, the lower end; check against the device's data sheet. */
export const METALS = {
  steel: { title: 'mild steel', factor: 1 },
  stainless: { title: 'stainless steel', factor: 0.7 },
  brass: { title: 'brass', factor: 0.4 },
  aluminium: { title: 'aluminium', factor: 0.35 },
  copper: { title: 'copper', factor: 0.3 },
  anyMetal: { title: 'any metal (factor 1 sensor)', factor: 1 },
} as const

export const TYPICAL_PLACE: SensingPlace = {
  ratedDistance_mm: 8,
  diameter_mm: 18,
  metal: 'steel',
  sizeFactor: 1,
  gap_mm: 5,
  release_mm: 20,
  speed_mPerS: 0.5,
  targetLength_mm: 24,
  gapLength_mm: 48,
  sensorFrequency_Hz: 400,
  inputFilter_ms: 3,
  scan_ms: 10,
}

export interface SensingJudgement {
  /** Distance that always works, and the one at which it has surely let go, mm. */
  readonly assured_mm: number
  readonly released_mm: number
  readonly findings: readonly Finding[]
}

const finding = (
  code: string,
  severity: Finding['severity'],
  says: string,
  evidence: Finding['evidence'] = [],
): Finding => ({
  code,
  severity,
  where: ['sensor'],
  says,
  evidence,
  rule: 'IEC 60947-5-2; factors typical, check against the device’s data sheet',
})

/** Whether the sensor surely sees its target, surely lets it go, and is fast enough; the card as well. */
export function judgeSensing(p: SensingPlace): SensingJudgement {
  const metal = METALS[p.metal]
  const s = sensing(p.ratedDistance_mm, p.diameter_mm, metal.factor, p.sizeFactor)
  // Differential travel adds up to a fifth to the farthest it may reach.
  const released_mm = s.suMax + s.hystMax
  const findings: Finding[] = []
  const mm = (label: string, value: number) => ({ label, value, unit: 'mm' })
  if (p.gap_mm > s.suMax)
    findings.push(
      finding(
        'OUT_OF_REACH',
        'stop',
        `The target passes at ${sayNumber(p.gap_mm)} mm and even the best unit reaches ${sayNumber(s.suMax, 3)} mm on ${metal.title}. Bring it within ${sayNumber(s.sa, 3)} mm, or take a sensor with a larger rated distance.`,
        [mm('assured', s.sa), mm('gap', p.gap_mm)],
      ),
    )
  else if (p.gap_mm > s.sa)
    findings.push(
      finding(
        'NOT_ASSURED',
        'warn',
        `At ${sayNumber(p.gap_mm)} mm this unit may see it and the spare may not: only ${sayNumber(s.sa, 3)} mm is assured on ${metal.title}.`,
        [mm('assured', s.sa), mm('gap', p.gap_mm)],
      ),
    )
  else
    findings.push(
      finding(
        'SEES',
        'good',
        `The target is seen: ${sayNumber(p.gap_mm)} mm is within the assured ${sayNumber(s.sa, 3)} mm.`,
        [mm('assured', s.sa), mm('gap', p.gap_mm)],
      ),
    )
  if (p.release_mm < released_mm)
    findings.push(
      finding(
        'MAY_STICK',
        'warn',
        `When the target has gone it stands at ${sayNumber(p.release_mm)} mm; the sensor lets go for sure beyond ${sayNumber(released_mm, 3)} mm only.`,
        [mm('lets go for sure beyond', released_mm)],
      ),
    )
  const t = passing({
    speed: p.speed_mPerS,
    targetLen: p.targetLength_mm / 1000,
    gapLen: p.gapLength_mm / 1000,
    fSensor: p.sensorFrequency_Hz,
    tFilter: p.inputFilter_ms / 1000,
    tScan: p.scan_ms / 1000,
  })
  const speeds = [
    { label: 'sensor follows up to', value: t.vMaxSensor, unit: 'm/s' },
    { label: 'card follows up to', value: t.vMaxInput, unit: 'm/s' },
  ]
  if (p.speed_mPerS > t.vMaxInput)
    findings.push(
      finding(
        'CARD_TOO_SLOW',
        'stop',
        `At ${sayNumber(p.speed_mPerS)} m/s the shorter phase lasts ${sayNumber(Math.min(t.tOn, t.tOff) * 1000, 3)} ms; filter and one scan take ${sayNumber(p.inputFilter_ms + p.scan_ms)} ms. Some targets are not counted: a shorter filter or a counter input.`,
        speeds,
      ),
    )
  if (p.speed_mPerS > t.vMaxSensor)
    findings.push(
      finding(
        'SENSOR_TOO_SLOW',
        'stop',
        `${sayNumber(t.fNeeded, 3)} Hz are needed and the sensor follows ${sayNumber(p.sensorFrequency_Hz)} Hz: take a faster one.`,
        speeds,
      ),
    )
  if (t.ok)
    findings.push(
      finding('FAST_ENOUGH', 'good', `Sensor and card follow ${sayNumber(p.speed_mPerS)} m/s.`, speeds),
    )
  if (p.targetLength_mm < s.targetSide && p.sizeFactor >= 1)
    findings.push(
      finding(
        'SMALL_TARGET',
        'note',
        `The target is shorter than the standard ${sayNumber(s.targetSide)} mm: its size factor is below 1; the data sheet tells it.`,
      ),
    )
  return { assured_mm: s.sa, released_mm, findings }
}
