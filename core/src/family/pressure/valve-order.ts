import type { Finding } from '../../finding.ts'
import {
  judgeSequence,
  manifold,
  RULE_SAYS,
  valvesOf,
  type ManifoldKind,
  type ValveMove,
} from '../../manifold/manifold.ts'
import type { Entries } from './settings.ts'

/** A sequence as typed: "close L; open E". */
export function movesOf(kind: ManifoldKind, sequence: string): ValveMove[] | string {
  const out: ValveMove[] = []
  for (const item of sequence.split(/[;,\n]+/).map((x) => x.trim())) {
    if (item === '') continue
    const m = /^(open|close|shut)\s+([A-Z]{1,2})$/i.exec(item)
    const valve = m?.[2]?.toUpperCase() ?? ''
    if (!m || !valvesOf(kind).includes(valve))
      return `“${item}” is not a move. Type open or close and one of ${valvesOf(kind).join(', ')}, with semicolons between.`
    out.push({ valve, to: m[1]?.toLowerCase() === 'open' ? 'open' : 'close' })
  }
  return out
}
export const manifoldKind = (s: Entries): ManifoldKind | null => (s.manifold === 'none' ? null : s.manifold)
export function manifoldFindings(s: Entries): Finding[] {
  const kind = manifoldKind(s)
  if (!kind || s.sequence.trim() === '') return []
  const moves = movesOf(kind, s.sequence)
  const where = ['sequence']
  if (typeof moves === 'string') return [{ code: 'MANIFOLD_MOVE', severity: 'stop', where, says: moves }]
  const v = judgeSequence(manifold(kind, 'in service'), moves)
  const bad = v.at === null ? undefined : moves[v.at]
  return [
    v.rule && bad
      ? {
          code: v.rule,
          severity: 'stop',
          where,
          says: `Move ${(v.at ?? 0) + 1}, ${bad.to} ${bad.valve}: ${RULE_SAYS[v.rule]}`,
        }
      : {
          code: 'MANIFOLD_FINE',
          severity: 'good',
          where,
          says: 'This order keeps all three rules: no flow through, no process to the vent, no one-sided pressure.',
        },
  ]
}
