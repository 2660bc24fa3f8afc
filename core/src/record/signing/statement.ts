import { canonicalJson } from '../canonical-json.ts'
import type { Run } from '../run.ts'
import type { ProcedureRun } from '../../procedure/run.ts'
import type { Meaning } from '../../signing/meanings.ts'

/** What somebody signs: which event of which loop, as whom, what it means, over what, and when. */
export interface SignedStatement {
  readonly v: 1
  readonly loop: string
  readonly event: string
  readonly by: string
  readonly meaning: Meaning
  /** SHA-256 of what is signed. */
  readonly of: string
  readonly at: string
}

/** The text whose bytes are signed. */
export const statementText = ({ v, loop, event, by, meaning, of, at }: SignedStatement): string =>
  `calm-loop signature v1\n${canonicalJson({ v, loop, event, by, meaning, of, at })}`

/** What stands around a run when it is signed. */
export interface SignedAround {
  /** SHA-256 of the document of the revision that it was begun on. */
  readonly document: string
  /** The instruments as the register has them, with their certificates. */
  readonly instruments: readonly unknown[]
}

/**
 * The text whose SHA-256 is signed: the whole run as its events tell it, the document it was begun on, and the
 * instruments with their certificates. A reading, a limit or a certificate that is another one later gives another.
 */
export const contentsText = (run: Run, { document, instruments }: SignedAround): string =>
  // In an order of their own: no database's collation decides what is signed.
  canonicalJson({ v: 1, run, document, instruments: instruments.map(canonicalJson).sort() })

/**
 * The same of a procedure: how it was begun, each step with what was read, typed, chosen and passed over, by whom and
 * when, how it ended, and the signatures before this one.
 */
export const procedureContentsText = (run: ProcedureRun, { document, instruments }: SignedAround): string => {
  const { started, startedBy, startedAt, runner, state, handed, abort, done, signatures = [] } = run
  const steps = done.map(({ step, ...d }) => ({ ...d, step: step.id }))
  return canonicalJson({
    v: 1,
    procedure: { started, startedBy, startedAt, runner, state, handed, abort, steps, signatures },
    document,
    instruments: instruments.map(canonicalJson).sort(),
  })
}
