import { calmLine } from '@calm/core/signal/calm-line'
import { lineSteps } from '@calm/core/loop/line-steps'
import type { Judgement } from '@calm/core/verify/verdict'

/** The product's line small in print: flat when the parts of the loop agree, stepping where an error comes in. */
export function calmLineSvg(judgement: Judgement | null): string {
  const points = calmLine(lineSteps(judgement, []), 146, 20)
    .map(([x, y]) => `${x + 2},${y + 2}`)
    .join(' ')
  return `<svg xmlns="http://www.w3.org/2000/svg" width="150" height="24" viewBox="0 0 150 24"><polyline points="${points}" fill="none" stroke="black" stroke-width="1.6"/></svg>`
}
