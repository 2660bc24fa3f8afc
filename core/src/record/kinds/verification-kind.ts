import type { z } from 'zod'
import { refused, type Refused } from '../../refused.ts'
import type { Run } from '../run.ts'
import type { FoldedKind, Happened } from './kind.ts'

type Folded = { readonly kind: 'run'; readonly run: Run } | Refused

/** A kind of a verification that has begun: it changes something of it, or cannot come now. */
export function defineRunKind<T extends string, P extends z.ZodType>(kind: {
  readonly type: T
  readonly payload: P
  readonly title: string
  readonly says: (payload: z.output<P>) => string
  readonly change: (run: Run, e: Happened<z.output<P>>) => Partial<Run> | Refused
}): FoldedKind<T, P, Run> {
  const { change, ...rest } = kind
  return {
    ...rest,
    of: 'verification',
    fold(run, e): Folded {
      if (!run) return refused('The run has not begun.')
      const next = change(run, e)
      return isSaidNo(next) ? next : { kind: 'run', run: { ...run, ...next } }
    },
  }
}

const isSaidNo = (x: Partial<Run> | Refused): x is Refused => 'kind' in x

/** A signed record stands as it is. */
export const isSigned = (run: Run): boolean => run.state === 'signed' || run.state === 'countersigned'
