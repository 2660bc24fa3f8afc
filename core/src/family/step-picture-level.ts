import type { ProcedureContext, Step } from '../procedure/step.ts'
import type { ProcedureRun } from '../procedure/run.ts'
import { sayNumber } from '../quantity/round.ts'
import { printedUnit } from '../quantity/units.ts'
import type { ScaleDrawing, Shape } from './scale-drawing.ts'

const [W, H, TOP] = [200, 260, 40]

/** The level that a step stands at, as a share of the range: what it asks for, else what was asked for last. */
function shareOf(run: ProcedureRun, step: Step, { range }: ProcedureContext): number | null {
  const asked = [...run.done.map((d) => d.step), step].findLast((s) => s.apply !== undefined)?.apply
  return asked === undefined ? null : (asked - range.low) / (range.high - range.low)
}

/** A vessel with its level where the step wants it, what looks down into it, and the tape beside. */
export function levelPicture(run: ProcedureRun, step: Step, c: ProcedureContext): ScaleDrawing | null {
  const share = shareOf(run, step, c)
  if (share === null || !Number.isFinite(share)) return null
  const drawn = Math.min(1, Math.max(0, share))
  // What stands at 0 and at 100 % is inside the vessel: room above for the device, and below for the sump.
  const [full, empty] = [TOP + 46, TOP + H - 24]
  const surface = empty - drawn * (empty - full)
  const unit = printedUnit(c.range.unit)
  const level = c.range.low + share * (c.range.high - c.range.low)
  const told = `${sayNumber(level, 5)} ${unit}`
  const rect = (ink: 'box' | 'fluid' | 'wall', x: number, y: number, w: number, h: number): Shape => ({
    ...{ kind: 'rect', ink, x, y, w, h },
  })
  const line = (a: readonly [number, number], b: readonly [number, number]): Shape => ({
    ...{ kind: 'line', ink: 'flow', points: [a, b] },
  })
  const label = (x: number, y: number, text: string): Shape => ({
    ...{ kind: 'label', at: [x, y], text, anchor: 'start' },
  })
  return {
    says: `The level stands at ${told}, ${sayNumber(100 * share, 4)} % of the range; the tape tells it`,
    sketch: true,
    left: -110,
    top: -20,
    width: W + 200,
    height: TOP + H + 44,
    shapes: [
      rect('fluid', 0, surface, W, TOP + H - surface),
      rect('wall', -6, TOP, 6, H),
      rect('wall', W, TOP, 6, H),
      rect('wall', -6, TOP + H, W + 12, 6),
      rect('wall', -6, TOP, W + 12, 6),
      rect('box', W / 2 - 26, TOP - 40, 52, 40),
      line([W / 2, TOP + 6], [W / 2, surface]),
      label(W + 14, full + 5, '100 %'),
      label(W + 14, empty + 5, '0 %'),
      { kind: 'label', at: [-14, surface + 5], text: told, anchor: 'end' },
    ],
  }
}
