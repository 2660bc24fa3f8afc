import type { JudgeSettings, LogFinding } from '../findings/finding.ts'
import type { Piece } from './piece.ts'

const MS_AN_HOUR = 3_600_000
const number = (f: LogFinding, key: string) => Number(f.evidence[key] ?? 0)
const isNear = (a: number, b: number, share: number) => Math.abs(a - b) <= share * Math.abs(b)

/** Whether the findings of two neighbours are one thing. */
function isSame(a: Piece, b: Piece): boolean {
  if (a.code !== b.code) return false
  const meets = a.goesOn && b.fromBefore
  switch (a.code) {
    case 'AT_LIMIT':
      // A limit that nobody told is one of the whole log, also where nothing stands at it near the seam.
      return number(a, 'limit') === number(b, 'limit') && (meets || a.evidence['known'] !== true)
    case 'FROZEN':
      return meets && number(a, 'value') === number(b, 'value')
    case 'QUANTISED':
      return isNear(number(a, 'step'), number(b, 'step'), 1e-6)
    case 'PERIODIC':
      return meets && isNear(number(a, 'period_s'), number(b, 'period_s'), 0.05)
    case 'DRIFT':
      return meets && Math.sign(number(a, 'total')) === Math.sign(number(b, 'total'))
    default:
      return meets
  }
}

/** Evidence of one thing that two neighbours told. */
function together(a: Piece, b: Piece, { range }: JudgeSettings): LogFinding['evidence'] {
  const sum = (key: string) => number(a, key) + number(b, key)
  const samples: LogFinding['evidence'] =
    a.evidence['samples'] === undefined ? {} : { samples: sum('samples') }
  switch (a.code) {
    case 'DRIFT':
      return { total: sum('total'), perHour: (sum('total') * MS_AN_HOUR) / (b.to - a.from) }
    case 'PERIODIC':
      return number(a, 'ratio') >= number(b, 'ratio') ? a.evidence : b.evidence
    case 'DUPLICATE':
      return { ...samples, conflicting: sum('conflicting') }
    case 'SIGNAL_LOW': {
      const of = (f: Piece) => number(f, 'mean') * number(f, 'samples')
      return {
        ...samples,
        lowest: Math.min(number(a, 'lowest'), number(b, 'lowest')),
        mean: (of(a) + of(b)) / sum('samples'),
      }
    }
    case 'OUT_OF_RANGE': {
      const beyond = (x: number) => Math.max((range?.lo ?? x) - x, x - (range?.hi ?? x))
      const [x, y] = [number(a, 'farthest'), number(b, 'farthest')]
      return { ...samples, farthest: beyond(x) >= beyond(y) ? x : y }
    }
    default:
      return { ...a.evidence, ...samples }
  }
}

/** Findings of parts in their order, those that go on beyond a seam as one. */
export function joinedPieces(parts: readonly (readonly Piece[])[], s: JudgeSettings): LogFinding[] {
  const whole: Piece[] = []
  /** What the part before told, by where it stands among all. */
  let before: number[] = []
  for (const pieces of parts) {
    const here: number[] = []
    for (const piece of pieces) {
      const at = before.find((i) => {
        const a = whole[i]
        return a !== undefined && !here.includes(i) && isSame(a, piece)
      })
      const a = at === undefined ? undefined : whole[at]
      if (at === undefined || !a) {
        here.push(whole.push(piece) - 1)
        continue
      }
      whole[at] = { ...a, to: piece.to, goesOn: piece.goesOn, evidence: together(a, piece, s) }
      here.push(at)
    }
    before = here
  }
  return whole.map(({ code, from, to, evidence }) => ({ code, from, to, evidence }))
}
