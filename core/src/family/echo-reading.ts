import type { Finding } from '../finding.ts'
import { choice, number, type ValuesOf } from '../quantity/setting.ts'
import { sayNumber } from '../quantity/round.ts'
import { group, type SheetLine } from './family.ts'

/** How a level device that lives by its echo is calmed, and what it does when there is none. */
export const ECHO_READING_ENTRIES = [
  number('damping_s', 'Damping', 's', 2, 0, 600),
  choice('lostEcho', 'With its echo lost', 'up', {
    up: 'goes up, 21 mA or more',
    down: 'goes down, 3.6 mA or less',
    hold: 'holds the last value',
  }),
  number('lostAfter_s', 'and that after', 's', 60, 0, 3600),
  choice('shows', 'Display shows', 'level', {
    level: 'level',
    percent: 'percent',
    distance: 'distance',
    volume: 'volume',
    none: 'it has none',
  }),
] as const
export const ECHO_READING_GROUP = group('Reading', ECHO_READING_ENTRIES)
type Reading = ValuesOf<typeof ECHO_READING_ENTRIES>

export const echoReadingLines = (s: Reading): SheetLine[] => [
  { says: 'Damping', value: `${sayNumber(s.damping_s)} s`, part: 'Reading' },
  {
    says: 'With its echo lost',
    value: `${{ up: 'up', down: 'down', hold: 'holds' }[s.lostEcho]} after ${sayNumber(s.lostAfter_s)} s`,
    part: 'Reading',
  },
  ...(s.shows === 'none' ? [] : [{ says: 'Display shows', value: s.shows, part: 'Reading' }]),
]
/** A level that stays where it was while nobody sees the surface is how tanks run over. */
export const echoReadingFindings = (s: Reading): Finding[] =>
  s.lostEcho === 'hold'
    ? [
        {
          code: 'ECHO_HELD',
          severity: 'warn',
          where: ['lostEcho'],
          says: 'With its echo lost the level stays as it was: the tank fills or empties unseen. Overfill and dry-run protection must not hang on it.',
        },
      ]
    : []
