import type { Axis, Chart, Series } from '@calm/core/chart'

const WIDTH = 500
const HEIGHT = 150
const LEFT = 44
const RIGHT = 8
const BOTTOM = 24
const TOP = 8
/** Dashes tell lines apart: paper may be without colour. */
const LINE = 'stroke="black" stroke-width="0.9"'
const DASHED = `${LINE} stroke-dasharray="2 2"`
const LIMIT = 'stroke="black" stroke-width="0.8" stroke-dasharray="5 3"'

/** Ends of an axis: as told, else those of the numbers with a little room. */
function endsOf(a: Axis, values: readonly number[]): readonly [number, number] {
  const [low, high] = [Math.min(...values, Infinity), Math.max(...values, -Infinity)]
  const known: readonly [number, number] = low <= high ? [low, high] : [0, 1]
  const room = (known[1] - known[0]) * 0.05 || 1
  return [a.from ?? known[0] - room, a.to ?? known[1] + room]
}
const fixed = (v: number) => v.toFixed(2)
/** A text inside a drawing. */
export const svgText = (s: string) => s.replaceAll('&', '&amp;').replaceAll('<', '&lt;')

/** A chart of the core on paper, in black on white. */
export function chartSvg(chart: Chart): string {
  const xs = chart.series.flatMap((s) => s.points.map(([x]) => x))
  const ys = chart.series.flatMap((s) => [...s.points.map(([, y]) => y), ...(s.below ?? [])])
  const [x0, x1] = endsOf(chart.x, xs)
  const [y0, y1] = endsOf(chart.y, ys)
  const px = (x: number) => LEFT + ((x - x0) / (x1 - x0)) * (WIDTH - LEFT - RIGHT)
  const py = (y: number) => TOP + ((y1 - y) / (y1 - y0)) * (HEIGHT - TOP - BOTTOM)
  const line = (a: readonly [number, number], b: readonly [number, number], width: number) =>
    `<line x1="${fixed(a[0])}" y1="${fixed(a[1])}" x2="${fixed(b[0])}" y2="${fixed(b[1])}" stroke="black" stroke-width="${width}"/>`
  const label = (at: number, above: number, says: string, anchor: string) =>
    `<text x="${fixed(at)}" y="${fixed(above)}" font-size="8" font-family="Mono" text-anchor="${anchor}">${svgText(says)}</text>`
  const polyline = (points: Series['points'], style: string) =>
    `<polyline fill="none" ${style} points="${points.map(([x, y]) => `${fixed(px(x))},${fixed(py(y))}`).join(' ')}"/>`
  const drawn = (s: Series): string => {
    switch (s.kind) {
      case 'points':
        return (
          (s.apart ? '' : polyline(s.points, s.open ? DASHED : LINE)) +
          s.points
            .map(
              ([x, y]) =>
                `<circle cx="${fixed(px(x))}" cy="${fixed(py(y))}" r="2.6" fill="${s.open ? 'white' : 'black'}" stroke="black" stroke-width="0.9"/>`,
            )
            .join('')
        )
      case 'band':
        return (
          polyline(s.points, LIMIT) +
          polyline(
            s.points.map(([x], i) => [x, s.below?.[i] ?? 0] as const),
            LIMIT,
          )
        )
      case 'limit':
      case 'floor':
        return polyline(s.points, LIMIT)
      case 'bars':
        return s.points.map(([x, y]) => line([px(x), py(Math.max(0, y0))], [px(x), py(y)], 3)).join('')
      case 'line':
        return polyline(s.points, LINE)
    }
  }
  const step = chart.x.step ?? (x1 - x0) / 4
  const first = Math.ceil(x0 / step) * step
  const ticks = Array.from({ length: Math.floor((x1 - first) / step) + 1 }, (_, i) => first + i * step).map(
    (x) =>
      line([px(x), py(y0)], [px(x), py(y0) + 3], 0.6) +
      label(px(x), HEIGHT - 10, `${Number(x.toPrecision(4))}${chart.x.unit === '%' ? ' %' : ''}`, 'middle'),
  )
  const marks = [y1, ...(y0 < 0 && y1 > 0 ? [0] : []), y0].map((y) =>
    label(LEFT - 4, py(y) + 3, y === 0 ? '0' : y.toFixed(2), 'end'),
  )
  const zero = y0 < 0 && y1 > 0 ? line([LEFT, py(0)], [WIDTH - RIGHT, py(0)], 0.5) : ''
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${WIDTH}" height="${HEIGHT}" viewBox="0 0 ${WIDTH} ${HEIGHT}">
${zero}${line([LEFT, TOP], [LEFT, py(y0)], 0.6)}
${ticks.join('')}${marks.join('')}${chart.series.map(drawn).join('')}</svg>`
}
