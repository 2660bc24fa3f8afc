import { defaultPath } from '@calm/core/loop/default-path'
import { withStage } from '@calm/core/loop/optional-stages'
import { auditPath } from '@calm/core/scale/audit'
import { compilePath, computeFrom } from '@calm/core/signal/path'
import { median, type Figure } from './report.ts'

const range = { low: 0, high: 85, unit: 'bar(g)' }
const seven = defaultPath({ transmitter: range, squareRoot: false, receiver: range })
/** Ten stages: with an isolator, a pulse output and a display as well. */
const stages = (['isolator', 'frequency', 'display'] as const).reduce((s, kind) => withStage(s, kind), seven)

/** Milliseconds of one call, as the median of rounds. */
function perCall_ms(rounds: number, calls: number, run: (i: number) => number): number {
  let sink = 0
  const times = Array.from({ length: rounds }, () => {
    const begun = performance.now()
    for (let i = 0; i < calls; i++) sink += run(i)
    return (performance.now() - begun) / calls
  })
  if (Number.isNaN(sink)) throw new Error('not a number')
  return median(times)
}

export function coreFigures(): Figure[] {
  const path = compilePath(stages)
  const walk = perCall_ms(9, 20_000, (i) => computeFrom(path, 0, (i % 850) / 10).length)
  const bare = perCall_ms(9, 20_000, (i) => {
    // The same arithmetic with nothing around it.
    const phi = (i % 850) / 850
    const mA = Math.min(20.5, Math.max(3.8, 4 + 16 * phi))
    const code = Math.floor(((mA - 4) / 16) * 27648 + 0.5)
    return [phi * 85, phi * 85, phi * 100, mA, mA / 4, code, (code / 27648) * 85].length
  })
  const audit = perCall_ms(9, 2_000, () => auditPath(stages, false).length)
  return [
    {
      title: 'signal path of ten stages, all stations from one value',
      measured: `${(walk * 1000).toFixed(2)} µs`,
      against: `${(bare * 1000).toFixed(3)} µs bare arithmetic`,
      ratio: walk / bare,
      wanted: 'under 200 µs',
    },
    {
      title: 'audit of a path of ten stages',
      measured: `${(audit * 1000).toFixed(1)} µs`,
      against: '5 ms allowed',
      ratio: audit / 5,
      wanted: 'below 1',
    },
  ]
}
