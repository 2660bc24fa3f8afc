import type { Judgement } from '@calm/core/verify/verdict'

const WIDTH = 500
const HEIGHT = 150
const LEFT = 44
const BOTTOM = 24
const TOP = 8

/** Errors over percent of span with the tolerance, in black on white: open marks as found, filled as left. */
export function errorPlotSvg(asFound: Judgement | null, asLeft: Judgement | null): string {
  const all = [...(asFound?.points ?? []), ...(asLeft?.points ?? [])]
  const largest = Math.max(...all.map((p) => Math.max(Math.abs(p.loop_pct ?? 0), p.allowed_pct)), 1e-6) * 1.15
  const x = (level: number) => LEFT + ((level + 5) / 110) * (WIDTH - LEFT - 8)
  const y = (error: number) => TOP + ((largest - error) / (2 * largest)) * (HEIGHT - TOP - BOTTOM)
  const fixed = (v: number) => v.toFixed(2)
  const line = (x1: number, y1: number, x2: number, y2: number, style: string) =>
    `<line x1="${fixed(x1)}" y1="${fixed(y1)}" x2="${fixed(x2)}" y2="${fixed(y2)}" ${style}/>`
  const label = (at: number, above: number, text: string, anchor: string) =>
    `<text x="${fixed(at)}" y="${fixed(above)}" font-size="8" font-family="Mono" text-anchor="${anchor}">${text}</text>`
  const limits = (asLeft ?? asFound)?.points ?? []
  const band = [1, -1].map(
    (sign) =>
      `<polyline fill="none" stroke="black" stroke-width="0.8" stroke-dasharray="5 3" points="${[...limits]
        .sort((a, b) => a.level_pct - b.level_pct)
        .map((p) => `${fixed(x(p.level_pct))},${fixed(y(sign * p.allowed_pct))}`)
        .join(' ')}"/>`,
  )
  const series = (j: Judgement | null, fill: string, dash: string) => {
    const points = (j?.points ?? []).filter((p) => p.loop_pct !== null)
    const at = points.map((p) => [x(p.level_pct), y(p.loop_pct ?? 0)] as const)
    const path = at.map(([px, py]) => `${fixed(px)},${fixed(py)}`).join(' ')
    const marks = at.map(
      ([px, py]) =>
        `<circle cx="${fixed(px)}" cy="${fixed(py)}" r="2.6" fill="${fill}" stroke="black" stroke-width="0.9"/>`,
    )
    return `<polyline fill="none" stroke="black" stroke-width="0.9" ${dash} points="${path}"/>${marks.join('')}`
  }
  const ticks = [0, 25, 50, 75, 100].map(
    (level) =>
      line(x(level), y(-largest), x(level), y(-largest) + 3, 'stroke="black" stroke-width="0.6"') +
      label(x(level), HEIGHT - 10, `${level} %`, 'middle'),
  )
  const scale = [largest, 0, -largest].map((e) =>
    label(LEFT - 4, y(e) + 3, e === 0 ? '0' : e.toFixed(2), 'end'),
  )
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${WIDTH}" height="${HEIGHT}" viewBox="0 0 ${WIDTH} ${HEIGHT}">
${line(LEFT, y(0), WIDTH - 8, y(0), 'stroke="black" stroke-width="0.5"')}${line(LEFT, TOP, LEFT, y(-largest), 'stroke="black" stroke-width="0.6"')}
${band.join('')}${ticks.join('')}${scale.join('')}${series(asFound, 'white', 'stroke-dasharray="2 2"')}${series(asLeft, 'black', '')}</svg>`
}
