import type { Finding } from '../../finding.ts'
import { sayNumber } from '../../quantity/round.ts'
import { choice, flag, number, text, type Settings } from '../../quantity/setting.ts'
import type { Family, ResultRow, SetUpResult } from '../family.ts'
import { judgeSensing, METALS, TYPICAL_PLACE, type SensingPlace } from './sensing-judgement.ts'
import { judgeTrip, TRIP_TITLES, type TripPlan } from './trip-plan.ts'
import { TRIP_KINDS } from './trip-relay.ts'

const isInductive = (s: Settings) => s.word('kind') === 'inductive'
const hasTrip = (s: Settings) => s.word('kind') === 'trip'
const counts = (s: Settings) => s.flag('counter')

function placeOf(s: Settings): SensingPlace {
  return {
    ratedDistance_mm: s.num('rated_mm'),
    diameter_mm: s.num('diameter_mm'),
    metal: s.word('metal') as SensingPlace['metal'],
    sizeFactor: s.num('sizeFactor'),
    gap_mm: s.num('gap_mm'),
    release_mm: s.num('release_mm'),
    speed_mPerS: s.num('speed_m_s'),
    targetLength_mm: s.num('target_mm'),
    gapLength_mm: s.num('between_mm'),
    sensorFrequency_Hz: s.num('frequency_Hz'),
    inputFilter_ms: s.num('filter_ms'),
    scan_ms: s.num('scan_ms'),
  }
}
function planOf(s: Settings): TripPlan {
  return {
    kind: s.word('tripKind') as TripPlan['kind'],
    V: s.num('trip_m'),
    W: s.num('window_m'),
    protects: s.word('protects') as TripPlan['protects'],
    contact: s.word('contact') as TripPlan['contact'],
    startUp: false,
    onInvalid: s.word('onInvalid') as TripPlan['onInvalid'],
    mounting_m: s.num('mounting_m'),
    waves_m: s.num('waves_m'),
  }
}

/** State of the input while the thing to be told is there, and while the wire is cut. */
function meaning(s: Settings): Finding[] {
  // NO conducts while it senses; NC while it does not. A cut wire never conducts.
  const bitSensing = s.word('contact') === 'no' ? 1 : 0
  const one = s.word('meaning1')
  const told = bitSensing === 1 ? 'sensed' : 'notSensed'
  const out: Finding[] = []
  if (one !== told)
    out.push({
      code: 'MEANING_REVERSED',
      severity: 'stop',
      where: ['meaning1', 'contact'],
      says: `With a ${s.word('contact').toUpperCase()} contact the input is ${bitSensing} while it senses, and the tag says 1 means “${one === 'sensed' ? 'it senses' : 'it does not sense'}”. One of the two is wrong.`,
    })
  if (s.word('alarmOn') !== 'none') {
    const alarmBit = s.word('alarmOn') === 'sensed' ? bitSensing : 1 - bitSensing
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

function cycleFindings(s: Settings): { rows: ResultRow[]; findings: Finding[] } {
  if (!counts(s)) return { rows: [], findings: [] }
  const [ideal, least, most] = [s.num('ideal_s'), s.num('least_s'), s.num('most_s')]
  const findings: Finding[] = []
  if (!(least < ideal && ideal < most))
    findings.push({
      code: 'CYCLE_LIMITS',
      severity: 'stop',
      where: ['most_s'],
      says: `The limits must lie around the ideal cycle: ${sayNumber(least)} < ${sayNumber(ideal)} < ${sayNumber(most)} s is not so.`,
    })
  if (s.num('filter_ms') + s.num('scan_ms') > (ideal * 1000) / 4)
    findings.push({
      code: 'FILTER_LONG',
      severity: 'warn',
      where: ['filter_ms'],
      says: `Filter and scan take ${sayNumber(s.num('filter_ms') + s.num('scan_ms'))} ms of a cycle of ${sayNumber(ideal * 1000)} ms: short strokes are lost.`,
    })
  return {
    rows: [{ label: 'Ideal rate', value: 3600 / ideal, unit: 'per hour', decimals: 1 }],
    findings,
  }
}

function compute(s: Settings): SetUpResult {
  const findings: Finding[] = meaning(s)
  const rows: ResultRow[] = [
    { label: 'Input while it senses', value: s.word('contact') === 'no' ? '1' : '0' },
    { label: 'Input with a cut wire', value: '0' },
    {
      label: 'Shortest signal that counts',
      value: s.num('filter_ms') + s.num('scan_ms'),
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
  if (hasTrip(s)) {
    findings.push(...judgeTrip(planOf(s)).map((f) => ({ ...f, where: ['tripKind'] })))
    rows.push({
      label: 'Trips at a level of',
      value: s.num('mounting_m') - s.num('trip_m'),
      unit: 'm',
      decimals: 3,
    })
  }
  const cycle = cycleFindings(s)
  const delay = s.num('delay_s')
  rows.push(
    {
      label: 'Alarm after',
      value: delay + (s.num('filter_ms') + s.num('scan_ms')) / 1000,
      unit: 's',
      decimals: 3,
    },
    ...cycle.rows,
  )
  return {
    rows,
    findings: [...findings, ...cycle.findings],
    sheet: [
      { says: 'Input tag', value: s.word('tag') || 'not entered' },
      { says: 'Contact', value: s.word('contact').toUpperCase() },
      { says: '1 means', value: s.word('meaning1') === 'sensed' ? 'it senses' : 'it does not sense' },
      { says: 'Input filter', value: `${sayNumber(s.num('filter_ms'))} ms` },
      { says: 'Alarm delay', value: `${sayNumber(delay)} s` },
      ...(counts(s)
        ? [
            {
              says: 'Counter',
              value: `on, ideal cycle ${sayNumber(s.num('ideal_s'))} s, alarm outside ${sayNumber(s.num('least_s'))} to ${sayNumber(s.num('most_s'))} s`,
            },
          ]
        : [{ says: 'Counter', value: 'off' }]),
      ...(hasTrip(s)
        ? [{ says: 'Relay', value: `${TRIP_TITLES[planOf(s).kind]}, at ${sayNumber(s.num('trip_m'))} m` }]
        : []),
    ],
    drawing: null,
  }
}

/** Discrete sensors and trip relays: what the input means, how fast, and what a cut wire looks like. */
export const discrete: Family = {
  id: 'switch',
  title: 'Switch, sensor or trip',
  fits: (words) => /switch|pnp|npn|contact|proximity/.test(words),
  groups: [
    {
      title: 'Input',
      settings: [
        choice('kind', 'Sensor', 'inductive', {
          inductive: 'inductive',
          magnetic: 'magnet-sensed cylinder',
          float: 'float',
          dry: 'other contact',
          trip: 'trip relay of a controller',
        }),
        text('tag', 'Input tag', ''),
        choice('contact', 'Contact', 'no', {
          no: 'NO, conducts while it senses',
          nc: 'NC, conducts while it does not',
        }),
        choice('meaning1', '1 means', 'sensed', { sensed: 'it senses', notSensed: 'it does not sense' }),
        choice('alarmOn', 'Alarm', 'none', {
          none: 'no alarm',
          sensed: 'when it senses',
          notSensed: 'when it does not sense',
        }),
        number('delay_s', 'Alarm delay', 's', 0, 0, 3600),
        number('filter_ms', 'Input filter', 'ms', 3, 0, 10_000),
        number('scan_ms', 'Scan', 'ms', 10, 0, 10_000),
        flag('counter', 'Counts cycles', false),
        number('ideal_s', 'Ideal cycle', 's', 10, 0.01, 86_400, counts),
        number('least_s', 'Shortest allowed cycle', 's', 8, 0, 86_400, counts),
        number('most_s', 'Longest allowed cycle', 's', 15, 0.01, 86_400, counts),
      ],
    },
    {
      title: 'Target',
      settings: [
        number(
          'rated_mm',
          'Rated sensing distance',
          'mm',
          TYPICAL_PLACE.ratedDistance_mm,
          0.1,
          200,
          isInductive,
        ),
        number('diameter_mm', 'Sensor diameter', 'mm', TYPICAL_PLACE.diameter_mm, 1, 300, isInductive),
        choice(
          'metal',
          'Target’s metal',
          'steel',
          Object.fromEntries(Object.entries(METALS).map(([k, m]) => [k, m.title])),
          isInductive,
        ),
        number('sizeFactor', 'Size factor', '', 1, 0.05, 1, isInductive),
        number('gap_mm', 'Gap when there', 'mm', TYPICAL_PLACE.gap_mm, 0, 500, isInductive),
        number('release_mm', 'Gap when gone', 'mm', TYPICAL_PLACE.release_mm, 0, 10_000, isInductive),
        number('speed_m_s', 'Speed', 'm/s', TYPICAL_PLACE.speed_mPerS, 0, 100, isInductive),
        number(
          'target_mm',
          'Length of the target',
          'mm',
          TYPICAL_PLACE.targetLength_mm,
          0.1,
          10_000,
          isInductive,
        ),
        number(
          'between_mm',
          'Space between targets',
          'mm',
          TYPICAL_PLACE.gapLength_mm,
          0.1,
          10_000,
          isInductive,
        ),
        number(
          'frequency_Hz',
          'Switching frequency',
          'Hz',
          TYPICAL_PLACE.sensorFrequency_Hz,
          0.1,
          100_000,
          isInductive,
        ),
      ],
    },
    {
      title: 'Trip',
      settings: [
        choice(
          'tripKind',
          'Relay',
          'hysteresisFar',
          Object.fromEntries(TRIP_KINDS.map((k) => [k, TRIP_TITLES[k]])),
          hasTrip,
        ),
        number('trip_m', 'Trip distance', 'm', 0.6, 0, 200, hasTrip),
        number('window_m', 'Window or hysteresis', 'm', 0.25, 0, 200, hasTrip),
        choice(
          'protects',
          'Protects from',
          'highLevel',
          { highLevel: 'a level too high', lowLevel: 'a level too low' },
          hasTrip,
        ),
        choice(
          'onInvalid',
          'Lost echo',
          'off',
          { off: 'relay off', on: 'relay on', hold: 'hold as it was' },
          hasTrip,
        ),
        number('mounting_m', 'Sensor above the bottom', 'm', 4, 0.01, 200, hasTrip),
        number('waves_m', 'Height of the waves', 'm', 0.05, 0, 20, hasTrip),
      ],
    },
  ],
  compute,
  kit: ['target of the right metal', 'feeler gauge', 'meter on volts DC'],
  cautions: [
    'A machine can start when its sensor switches: lock it out before a hand goes in.',
    'A safety interlock is never bridged without its permit.',
    'Mains on a contact: isolate and prove dead first.',
  ],
}
