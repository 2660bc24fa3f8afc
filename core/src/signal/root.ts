import type { Finding } from '../finding.ts'
import { stageOf, type Stage } from './stage.ts'

/** Stages of a path that can take a square root, along the line. */
const TAKERS = ['transmitter', 'controller', 'display'] as const
export type RootTaker = (typeof TAKERS)[number]

/** Who takes the square root, along the line. */
export const rootTakers = (stages: readonly Stage[]): RootTaker[] =>
  TAKERS.filter((kind) => stageOf(stages, kind)?.transfer.kind === 'sqrt')

const RULE = 'Flow is the square root of differential pressure, once.'
const linear = (who: RootTaker) => ({ path: `path.${who}.transfer.kind`, value: 'linear' })

/**
 * The one judgement of the square root; every bench shows this one.
 * @param takers - who takes it
 * @param needed - whether the loop's family needs one; null where nobody has told what the loop is
 */
export function judgeRoot(takers: readonly RootTaker[], needed: boolean | null): Finding | null {
  const [first, ...others] = takers
  if (first !== undefined && others.length > 0)
    return {
      code: 'SQRT_TWICE',
      severity: 'stop',
      where: [first, ...others],
      says: 'The square root is taken twice: half flow would read 71 %. Take it in one place only.',
      evidence: [{ label: 'reading at half flow', value: 100 * Math.SQRT1_2, unit: '%' }],
      fix: { label: `Leave the root to the ${first}`, set: others.map(linear) },
      rule: RULE,
    }
  if (first === undefined)
    return needed
      ? {
          code: 'SQRT_NEVER',
          severity: 'stop',
          where: ['transmitter', 'controller'],
          says: 'Nobody takes the square root: half flow would read 25 %.',
          evidence: [{ label: 'reading at half flow', value: 25, unit: '%' }],
          fix: {
            label: 'Take the root in the transmitter',
            set: [{ path: 'path.transmitter.transfer.kind', value: 'sqrt' }],
          },
          rule: RULE,
        }
      : null
  if (needed)
    return {
      code: 'SQRT_ONCE',
      severity: 'good',
      where: [first],
      says: `The square root is taken exactly once, in the ${first}.`,
      evidence: [{ label: 'taken in the', value: first }],
      rule: RULE,
    }
  return needed === null
    ? {
        code: 'SQRT_NOT_JUDGED',
        severity: 'note',
        where: [first],
        says: `The ${first} takes a square root. Whether this loop needs one is not judged: nobody has told what kind of meter it is.`,
      }
    : {
        code: 'SQRT_UNEXPECTED',
        severity: 'warn',
        where: [first],
        says: 'A square root is set, but this loop has no differential pressure flow element.',
        rule: 'Only differential pressure flow needs a square root.',
      }
}
