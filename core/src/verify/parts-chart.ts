import type { Chart } from '../chart.ts'
import { roundText } from '../quantity/round.ts'
import { ERROR_KINDS, type ErrorKind, type PointErrors } from './reading-errors.ts'
import type { Judgement } from './verdict.ts'

const PARTS: readonly (readonly [ErrorKind, (p: PointErrors) => number | null])[] = [
  ['sensor', (p) => p.sensor_pct],
  ['output', (p) => p.output_pct],
  ['receiver', (p) => p.receiver_pct],
]
/** Errors of sensor, output and receiver over the range: where the whole comes from. Null with one part only. */
export function partsChart(j: Judgement): Chart | null {
  const series = PARTS.flatMap(([kind, of]) => {
    const points = j.points.flatMap((p): [number, number][] => {
      const e = of(p)
      return e === null ? [] : [[p.level_pct, e]]
    })
    return points.length > 1 ? [{ name: ERROR_KINDS[kind], kind: 'line' as const, points }] : []
  })
  if (series.length < 2) return null
  const largest = [...j.parts]
    .filter((p) => p.kind !== 'loop')
    .sort((a, b) => Math.abs(b.largest_pct) - Math.abs(a.largest_pct))[0]
  return {
    title: 'Where the error comes from',
    says: largest
      ? `The largest part is the ${largest.title.toLowerCase()}, ${roundText(largest.largest_pct, 3)} %.`
      : '',
    x: { label: 'Level', unit: '%' },
    y: { label: 'Error', unit: '%' },
    series,
  }
}

/** What an adjustment did, part by part; nothing where a part cannot be told in both. */
export function trimEffect(found: Judgement, left: Judgement): string[] {
  const signed = (x: number) => `${x > 0 ? '+' : ''}${roundText(x, 3)}`
  return found.parts.flatMap((f) => {
    const l = left.parts.find((p) => p.kind === f.kind)
    if (!l || !f.components || !l.components) return []
    const moved = [
      ['zero', f.components.zero_pct, l.components.zero_pct],
      ['span', f.components.span_pct, l.components.span_pct],
    ] as const
    const told = moved.filter(([, a, b]) => Math.abs(a - b) >= 0.005)
    return told.length === 0
      ? []
      : [
          `${f.title}: ${told.map(([name, a, b]) => `${name} from ${signed(a)} to ${signed(b)} %`).join(', ')}.`,
        ]
  })
}
