import { onceByContent } from '../record/once-by-content.ts'
import type { Part, PartState } from './parts.ts'
import { worstOf, type Finding, type Severity } from '../finding.ts'
import { procedureOf } from '../procedure/catalogue.ts'
import { RESULT_STATE, RESULT_WORDS, type Result } from '../procedure/outcome.ts'
import type { ProcedureState } from '../procedure/run.ts'
import { isForeignAuthor } from '../signing/authors.ts'
import { judgeRun, lastPhase } from '../record/judge-run.ts'
import type { Run } from '../record/run.ts'
import { isCompared } from '../scale/audit.ts'
import { auditLoop } from '../scale/audit-loop.ts'
import type { Stage } from '../signal/stage.ts'
import { verdictOf, type VerdictClass } from '../verify/verdict.ts'
import type { LoopDocument } from './document.ts'
import { factsOf, type LoopFacts } from './facts.ts'
import { restsOnAssumption } from './rests-on.ts'
import { judgeSetUp } from './set-up-findings.ts'
import { lineSteps, type LineStep } from './line-steps.ts'
import type { Meant } from '../wire/proof/states.ts'
import { judgeWiring, type WiringVerdict } from '../wire/proof/judge.ts'
import type { Wiring } from '../part/wiring.ts'

/** State of one part of the work, always shown as shape, word and colour. */
/** What a list row and a header show of a loop; always computed, never typed. */
export interface LoopSummary {
  /** What kind of meter it is, by the family's title; null where nobody has told. */
  readonly kind: string | null
  readonly parts: Readonly<Record<Part, PartState>>
  readonly verdict: VerdictClass | null
  /** The device was adjusted after that verification. */
  readonly olderThanTrim?: true
  /** The device lost its memory after that verification: it measures by nothing that was verified. */
  readonly olderThanLoss?: true
  readonly line: readonly LineStep[]
  /** Day of the last closed verification, else what the plant's list told. */
  readonly lastCalibrated: string | null
  /** Why it is due at once, whatever its interval says, and since which day; null where the interval stands. */
  readonly dueNow: DueNow | null
}
export interface DueNow {
  readonly on: string
  readonly why: string
}

const SEVERITY_STATE: Readonly<Record<Severity, PartState>> = {
  stop: 'stop',
  warn: 'look',
  note: 'good',
  good: 'good',
}

/** Where a procedure of a loop stands, what it came to, and whether it came with a package. */
export interface ProcedureStands {
  readonly procedure: string
  readonly startedAt: string
  readonly state: ProcedureState
  /** Null while it is under way. */
  readonly result: Result | null
  readonly foreign: boolean
}
/** By what was read after the last write, never by the last step. */
const stateOf = ({ state, result }: ProcedureStands): PartState =>
  state === 'outOfService' ? 'stop' : result === null ? 'look' : RESULT_STATE[result]
/** What of another kind of judgement stands beside the newest: an old sensor that is out is not mended by a wire. */
const STANDS_ON: ReadonlySet<Result | null> = new Set<Result | null>([
  'out',
  'refused',
  'look',
  'notVerified',
])
/** The newest procedure of each part of the loop that it judges, newest first. */
function standing(procedures: readonly ProcedureStands[]): readonly ProcedureStands[] {
  const newest = [...procedures].sort((a, b) => b.startedAt.localeCompare(a.startedAt))
  // Stopped before anything was read, it judged nothing.
  const judged = newest.filter((p) => p.result !== 'notDone')
  const seen = new Set<string>()
  return (judged.length > 0 ? judged : newest).filter((p) => {
    const judges = procedureOf(p.procedure)?.judges ?? p.procedure
    if (seen.has(judges)) return false
    seen.add(judges)
    return true
  })
}
/**
 * The newest procedure says how it stands; what others judged, of another part of the loop, stands on until that part
 * is judged anew.
 */
function trimState(procedures: readonly ProcedureStands[]): PartState {
  const [first, ...others] = standing(procedures)
  if (!first) return 'notYet'
  const states = [stateOf(first), ...others.filter((p) => STANDS_ON.has(p.result)).map(stateOf)]
  return states.includes('stop')
    ? 'stop'
    : states.includes('look') || (stateOf(first) === 'good' && first.foreign)
      ? 'look'
      : stateOf(first)
}

/** When a verification was last read or signed: what was adjusted after that, it knows nothing of. */
const lastRead = (run: Run): string =>
  [run.startedAt, ...run.adjustments.map((a) => a.at), ...run.signatures.slice(0, 1).map((s) => s.at)]
    .sort()
    .at(-1) ?? run.startedAt

/** What a procedure may leave behind that cannot wait for the interval. */
const CANNOT_WAIT: ReadonlySet<Result | null> = new Set<Result | null>(['out', 'refused', 'notVerified'])
/**
 * What was found out of tolerance, or adjusted and not verified, is due now. A verification that was closed after that
 * and came out in tolerance takes it away.
 * @param verified - the closed verification: when it was read last, on which day, and whether it failed
 */
function dueNow(
  procedures: readonly ProcedureStands[],
  verified: { readonly readAt: string; readonly on: string; readonly failed: boolean } | null,
): DueNow | null {
  const since = verified && !verified.failed ? verified.readAt : ''
  const left = standing(procedures)
    .filter((p) => CANNOT_WAIT.has(p.result) && p.startedAt > since)
    .map((p) => ({ on: p.startedAt.slice(0, 10), why: p.result ? RESULT_WORDS[p.result] : '' }))
  const failed = verified?.failed ? [{ on: verified.on, why: 'out of tolerance' }] : []
  return [...failed, ...left].sort((a, b) => a.on.localeCompare(b.on))[0] ?? null
}

/** Whether the set-up says that the device’s memory is lost. */
export const lostItsMemory = (doc: LoopDocument): boolean => doc.setUp?.values['memoryLost'] === true

function scaleState(doc: LoopDocument, findings: readonly Finding[]): PartState {
  // Ranges that nothing was held against are not found right.
  if (!isCompared(doc.path)) return 'notYet'
  const state = SEVERITY_STATE[worstOf(findings)]
  const isOpen = doc.toKeyIn.length > 0 || doc.unconfirmed.some((f) => f.startsWith('path.'))
  return state === 'good' && isOpen ? 'look' : state
}

/**
 * A set-up that nobody has begun is not judged: what the words of the list made likely is no entry. Good needs a
 * judgement that says so; where nothing complained and nothing was judged either, it stays open.
 */
function setUpState(facts: LoopFacts): PartState {
  const result = facts.setUpBegun ? judgeSetUp(facts) : null
  const findings = result?.findings ?? []
  const state = SEVERITY_STATE[worstOf(findings)]
  if (state !== 'good' || !result) return state === 'good' ? 'notYet' : state
  if (!findings.some((f) => f.severity === 'good')) return 'notYet'
  // Good carries the weakest of what it rests on.
  return restsOnAssumption(facts, result) ? 'look' : 'good'
}

const WIRING_STATE: Readonly<Record<WiringVerdict, PartState>> = {
  proved: 'good',
  'not proved': 'look',
  wrong: 'stop',
}
/** A mark for good stands for a proof: every statement of every part, in every state. */
function wireState(wiring: Wiring | null, meant: Meant): PartState {
  if (!wiring || Object.keys(wiring.wires).length === 0) return 'notYet'
  return WIRING_STATE[judgeWiring(wiring, meant).verdict]
}

/** As many loops as are worked at in a plant at once. */
const KEPT_DOCUMENTS = 200
/** What the document alone says, however often its record is added to: worked out once for as long as it is the same. */
const partsOf = onceByContent(KEPT_DOCUMENTS, (doc: LoopDocument) => {
  const facts = factsOf(doc)
  const audit = auditLoop(doc, facts)
  return {
    kind: facts.family?.title ?? null,
    wire: wireState(doc.wiring, facts),
    setUp: setUpState(facts),
    scale: scaleState(doc, audit),
    audit,
  }
})

/**
 * Everything a list needs to know of a loop.
 * @param run - the loop's newest verification, or null.
 * @param runStages - the signal path of the revision that run was started on.
 * @param procedures - where the loop's guided procedures stand, the newest of each.
 * @param input - how the newest verification of its discrete input came out.
 * @param adjustedAt - when a procedure wrote into the device last
 * @param runDocument - the loop as it was when that verification was begun, where it may have lost its memory since
 */
export function summarise(
  doc: LoopDocument,
  run: Run | null,
  runStages: readonly Stage[],
  procedures: readonly ProcedureStands[] = [],
  input: { readonly passes: boolean; readonly on: string } | null = null,
  adjustedAt: string | null = null,
  runDocument: LoopDocument | null = null,
): LoopSummary {
  const { kind, wire, setUp, scale, audit } = partsOf(doc)
  const judgement = run ? judgeRun(run, runStages, lastPhase(run)) : null
  const open = run !== null && !['ready', 'signed', 'countersigned'].includes(run.state)
  const verdict = verdictOf(judgement)
  const failed = verdict === 'FAIL' || verdict === 'CONDITIONAL_FAIL'
  // What came with a package is somebody's word: nobody here has proved it.
  const foreign = run !== null && isForeignAuthor(run.startedBy)
  const stale = run !== null && adjustedAt !== null && adjustedAt > lastRead(run)
  const lost = run !== null && runDocument !== null && lostItsMemory(doc) && !lostItsMemory(runDocument)
  const trim: PartState =
    procedures.length > 0 ? trimState(procedures) : run && run.adjustments.length > 0 ? 'good' : 'notYet'
  const verify: PartState = !judgement
    ? input === null
      ? 'notYet'
      : input.passes
        ? 'good'
        : 'stop'
    : failed
      ? 'stop'
      : open || foreign || stale || lost || verdict !== 'PASS' || judgement.missing.length > 0
        ? 'look'
        : 'good'
  return {
    kind,
    parts: {
      wire,
      setUp,
      scale,
      trim: trim === 'good' && procedures.length === 0 && foreign ? 'look' : trim,
      verify,
    },
    verdict,
    ...(lost ? { olderThanLoss: true as const } : stale ? { olderThanTrim: true as const } : {}),
    line: lineSteps(judgement, audit),
    dueNow: dueNow(
      procedures,
      run && !open ? { readAt: lastRead(run), on: run.startedAt.slice(0, 10), failed } : null,
    ),
    lastCalibrated: run && !open ? run.startedAt.slice(0, 10) : (input?.on ?? doc.lastCalibrated),
  }
}
