import type { Chart } from '../chart.ts'
import type { PositionJudged } from './judge-position.ts'
import type { PositionTry } from './site-shape.ts'

/** The signal over the position of the sensor: every try, where it stands, and where the tries peak. */
export function triesChart(
  tries: readonly PositionTry[],
  { peak }: Pick<PositionJudged, 'peak'>,
  unit: string,
): Chart {
  const [last] = tries.slice(-1)
  const isFound = peak.state === 'FOUND' && peak.best !== null
  return {
    title: 'Signal by position',
    says: `${tries.length} tries${last ? `; it stands at ${last.at} ${unit} with ${last.signal_pct} %` : ''}.`,
    x: { label: 'Position', ...(unit === '' ? {} : { unit }) },
    y: { label: 'Signal', unit: '%', from: 0, to: 100 },
    series: [
      {
        name: 'tried',
        kind: 'points',
        apart: true,
        open: true,
        points: tries.slice(0, -1).map((t) => [t.at, t.signal_pct] as const),
      },
      ...(last
        ? [{ name: 'stands here', kind: 'points' as const, points: [[last.at, last.signal_pct] as const] }]
        : []),
      ...(isFound
        ? [
            {
              name: 'peak of the tries',
              kind: 'limit' as const,
              points: [
                [peak.best, 0],
                [peak.best, 100],
              ] as const,
            },
          ]
        : []),
    ],
  }
}
