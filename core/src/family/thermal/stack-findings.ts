import type { Finding } from '../../finding.ts'
import { sayNumber } from '../../quantity/round.ts'
import { RETRACTOR_KPA, type Inserted } from './insertion.ts'
import type { Entries } from './settings.ts'
import { stemMarks, type StemMarks } from './stack.ts'

/** The marks, where the stack was told piece by piece; from one length nobody knows where the valve is. */
export const marksOf = (s: Entries, i: Inserted): StemMarks | null =>
  s.stackBy === 'pieces' ? stemMarks(s, i.mark_mm, s.head_mm) : null

const RULE = `retractor or restraint above about ${sayNumber(RETRACTOR_KPA / 100)} bar gauge; typical`
/** What holds the stem against what pushes it out. */
function restraint(s: Entries, i: Inserted, marks: StemMarks | null): Finding {
  const force = `${sayNumber(s.gauge_kPa / 100, 3)} bar pushes with ${sayNumber(i.force_N, 3)} N`
  const at = (code: string, severity: Finding['severity'], where: string, says: string): Finding => ({
    code,
    severity,
    where: [where],
    says,
    rule: RULE,
  })
  if (s.restraint === 'none')
    return i.needsRetractor
      ? at(
          'RETRACTOR',
          'warn',
          'restraint',
          `The probe can shoot out: ${force}. Use a retractor or a restraint cable; stand out of its line.`,
        )
      : at(
          'FORCE',
          'note',
          'gauge_kPa',
          `The probe can shoot out: ${force}; hold it until the ferrule bites.`,
        )
  if (s.rated_N === 0)
    return at(
      'RESTRAINT_NOT_TOLD',
      'warn',
      'rated_N',
      `Not judged: ${force}, and nobody entered what holds it. Read it off its plate; half as much again as the force is the least.`,
    )
  if (s.rated_N < i.force_N * 1.5)
    return at(
      'RESTRAINT_WEAK',
      'stop',
      'rated_N',
      `${force}, and what holds it is good for ${sayNumber(s.rated_N)} N: half as much again as the force is the least.`,
    )
  if (s.restraint === 'retractor' && (!marks || s.stroke_mm === 0))
    return at(
      'TRAVEL_NOT_JUDGED',
      'note',
      'stroke_mm',
      `It holds the ${sayNumber(i.force_N, 3)} N. Not judged: whether its travel reaches from “inserted” to “clear”. Enter the travel, and the stack piece by piece.`,
    )
  if (s.restraint === 'retractor' && marks && s.stroke_mm < marks.travel_mm)
    return at(
      'RETRACTOR_SHORT',
      'stop',
      'stroke_mm',
      `From the mark “inserted” to “clear” are ${sayNumber(marks.travel_mm, 4)} mm and the retractor travels ${sayNumber(s.stroke_mm)} mm: the valve could not be closed.`,
    )
  return at(
    'RESTRAINT_HOLDS',
    'good',
    'rated_N',
    `${force}; what holds it is good for ${sayNumber(s.rated_N)} N. Nobody stands in its line.`,
  )
}

export function stackFindings(s: Entries, i: Inserted): Finding[] {
  const marks = marksOf(s, i)
  return [
    restraint(s, i, marks),
    ...(marks?.problem
      ? [
          {
            code: marks.problem.code,
            severity: 'stop' as const,
            where: [marks.problem.where],
            says: marks.problem.says,
          },
        ]
      : []),
    ...(marks && !marks.problem && marks.room_mm < 2
      ? [
          {
            code: 'VALVE_TIGHT',
            severity: 'warn' as const,
            where: ['valveBore_mm'],
            says: `The probe passes the valve with ${sayNumber(marks.room_mm, 2)} mm of room: any offset of the nipples catches it.`,
          },
        ]
      : []),
    ...(marks
      ? []
      : [
          {
            code: 'CLEAR_NOT_KNOWN',
            severity: 'note' as const,
            where: ['stackBy'],
            says: 'Not judged: whether the probe passes the valve and where it is clear of it. Enter the stack piece by piece before it is put in or drawn under pressure.',
          },
        ]),
  ]
}
