import { contentsText, procedureContentsText, type SignedAround } from '@calm/core/record/signing/statement'
import { sha256 } from './digest.ts'
import type { AnyRun } from './fold.ts'

/** The hash of what is signed of a run of either kind. */
export const contentsOf = (any: AnyRun, around: SignedAround): string =>
  sha256(any.kind === 'verification' ? contentsText(any.run, around) : procedureContentsText(any.run, around))

/** The instruments that a run was done with, by identifier. */
export const instrumentsOfRun = (any: AnyRun): readonly string[] =>
  any.kind === 'verification' ? any.run.equipment : any.run.started.equipment
