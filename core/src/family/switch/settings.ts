import { when } from '../../quantity/condition.ts'
import { choice, flag, number, text, titlesOf } from '../../quantity/setting.ts'
import { group, type EntriesOf } from '../family.ts'
import { METALS, TYPICAL_PLACE } from './sensing-judgement.ts'

const isInductive = when('kind', 'inductive')
const hasTrip = when('kind', 'trip')
const counts = when('counter', true)

export const GROUPS = [
  group('Input', [
    choice('kind', 'Sensor', 'inductive', {
      inductive: 'inductive',
      magnetic: 'magnet-sensed cylinder',
      float: 'float',
      dry: 'other contact',
      trip: 'trip relay of a controller',
    }),
    choice('output', 'It switches by', 'contact', {
      contact: 'a dry contact',
      pnp: 'PNP, to plus',
      npn: 'NPN, to minus',
      pushPull: 'push-pull',
      twoWire: 'two wires, in series',
      namur: 'NAMUR, behind its amplifier',
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
  ]),
  group('Target', [
    number('rated_mm', 'Rated sensing distance', 'mm', TYPICAL_PLACE.ratedDistance_mm, 0.1, 200, isInductive),
    number('diameter_mm', 'Sensor diameter', 'mm', TYPICAL_PLACE.diameter_mm, 1, 300, isInductive),
    choice('metal', 'Target’s metal', 'steel', titlesOf(METALS), isInductive),
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
    number('between_mm', 'Space between targets', 'mm', TYPICAL_PLACE.gapLength_mm, 0.1, 10_000, isInductive),
    number(
      'frequency_Hz',
      'Switching frequency',
      'Hz',
      TYPICAL_PLACE.sensorFrequency_Hz,
      0.1,
      100_000,
      isInductive,
    ),
  ]),
  group('Place', [number('mounting_m', 'Sensor above the bottom', 'm', 4, 0.01, 200, hasTrip)]),
] as const
export type Entries = EntriesOf<typeof GROUPS>
