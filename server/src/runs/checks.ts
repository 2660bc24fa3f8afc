import type { NewEvent } from '@calm/contract/events'
import type { Person } from '@calm/contract/people'
import { contextOf } from '@calm/core/loop/procedure-context'
import { procedureOf } from '@calm/core/procedure/catalogue'
import { USUAL_GATES, wholeGates } from '@calm/core/procedure/gate-numbers'
import { gatesAt, shutGates } from '@calm/core/procedure/engine'
import { sayShut } from '@calm/core/procedure/gates'
import { standingWork } from '@calm/core/procedure/hand-over'
import { RULES, type ProcedureStarted } from '@calm/core/procedure/events'
import { missingInstruments, type NamedInstrument } from '@calm/core/procedure/instruments'
import { knownTo } from '@calm/core/procedure/known-to'
import { contextMadeFor, stepsOf } from '@calm/core/procedure/made-for'
import { rulesAsked } from '@calm/core/procedure/rules-asked'
import { parseQuantity } from '@calm/core/quantity/parse-quantity'
import { sayNumber } from '@calm/core/quantity/round'
import { printedUnit } from '@calm/core/quantity/units'
import { appliedUnit, fromApplied } from '@calm/core/record/applied-law'
import { canonicalJson } from '@calm/core/record/canonical-json'
import { signingProblems } from '@calm/core/record/may-sign'
import { signaturesAsked } from '@calm/core/record/signing/asked'
import type { Run } from '@calm/core/record/run'
import { runDeviations } from '@calm/core/record/run-deviations'
import { returned } from '@calm/core/record/kinds/returned'
import { procedureSigned } from '@calm/core/record/kinds/procedure-signed'
import { signed } from '@calm/core/record/kinds/signed'
import type { ProcedureRun } from '@calm/core/procedure/run'
import type { Signature } from '@calm/core/signing/signature'
import type { RunStartedPayload } from '@calm/core/record/kinds/run-started'
import { and, eq, gt, inArray, lte, max, min, notInArray } from 'drizzle-orm'
import type { Executor } from '../db/connection.ts'
import { ableInstrumentsOn, instrumentsOn, uncoveredOn } from '../equipment/history.ts'
import { equipmentByIds } from '../equipment/store.ts'
import { conflict, HttpProblem, notAllowed } from '../http/problems.ts'
import { documentOf } from '../record/documents.ts'
import type { AnyRun } from '../record/fold.ts'
import { plantRules } from '../settings/store.ts'
import { wrongSignature } from './signature-checks.ts'
import { events, loopRevisions } from '../record/schema.ts'

/** What the server holds against an event before it is folded: the recorded loop and the register, not the client's word. */
export interface Checked {
  readonly event: NewEvent
  /** Place of the event in what was sent. */
  readonly path: string
  readonly loopId: string
  /** Number of the newest revision. */
  readonly revision: number
  readonly now: Date
  readonly person: Person
  /** Another run of the loop as it stands now, with what was sent before this event; null where there is none. */
  readonly runOf: (id: string) => Promise<AnyRun | null>
  /** What was sent after this event, in the same act. */
  readonly after: readonly NewEvent[]
}

const day = (d: Date) => d.toISOString().slice(0, 10)

const wrong = (c: Checked, errors: readonly { path: string; says: string }[]) =>
  new HttpProblem(
    'wrong-values',
    'Some values cannot be used.',
    errors.map((e) => ({ path: `${c.path}.body.payload.${e.path}`, says: e.says })),
    { eventId: c.event.id },
  )

/** Not now, or not so: told at the event. */
const cannot = (c: Checked, says: string) =>
  conflict(says, { errors: [{ path: `${c.path}.body`, says }], eventId: c.event.id })

/** Instruments stand in the plant's own register, else nobody knows what they can. */
async function checkRegister(tx: Executor, c: Checked, ids: readonly string[]): Promise<void> {
  const known = await equipmentByIds(tx, ids)
  const errors = ids.flatMap((id, i) => {
    const e = known.find((k) => k.id === id)
    if (!e) return [{ path: `equipment.${i}`, says: 'This instrument is not in the register.' }]
    if (e.foreign)
      return [
        {
          path: `equipment.${i}`,
          says: `${e.name} came with a package: it is not an instrument of this plant. Add it to the register first.`,
        },
      ]
    if (e.retired)
      return [{ path: `equipment.${i}`, says: `${e.name} is retired: it is used for nothing any more.` }]
    return []
  })
  if (errors.length > 0) throw wrong(c, errors)
}

/** Work is not begun with an instrument whose certificate has ended on one of these days, or had not begun. */
async function checkInDate(
  tx: Executor,
  c: Checked,
  ids: readonly string[],
  days: readonly string[],
): Promise<void> {
  const [bare] = await uncoveredOn(tx, ids, [c.event.at.slice(0, 10), ...days])
  if (!bare) return
  const { instrument: e, day: d } = bare
  throw cannot(
    c,
    e.dueOn < d
      ? `The certificate of ${e.name} ended on ${e.dueOn}. Choose another instrument.`
      : `The certificate of ${e.name} begins on ${e.certifiedOn}. Choose another instrument.`,
  )
}

/** The revision that a run is begun on: one that is there, and no newer one was there when it began. */
async function checkRevision(tx: Executor, c: Checked, revision: number): Promise<void> {
  if (revision > c.revision)
    throw wrong(c, [{ path: 'revision', says: `The loop has ${c.revision} revisions.` }])
  const [later] = await tx
    .select({ number: loopRevisions.number, at: loopRevisions.at })
    .from(loopRevisions)
    .where(
      and(
        eq(loopRevisions.loopId, c.loopId),
        gt(loopRevisions.number, revision),
        lte(loopRevisions.at, new Date(c.event.at)),
      ),
    )
    .limit(1)
  if (later)
    throw wrong(c, [
      {
        path: 'revision',
        says: `Revision ${later.number} was saved before this began. Reload the loop and begin on that one.`,
      },
    ])
}

/** Tolerance, ranges and uncertainty are the recorded ones, or a deviation that is stated with its reason. */
async function checkStarted(tx: Executor, c: Checked, started: RunStartedPayload): Promise<void> {
  await checkRevision(tx, c, started.revision)
  await checkRegister(tx, c, started.equipment)
  if (started.U_pct > 0 && started.equipment.length === 0)
    throw wrong(c, [
      {
        path: 'U_pct',
        says: 'An uncertainty belongs to the instruments it was reckoned for, and none is named. Name them, or state none.',
      },
    ])
  // Readings that waited for a network are taken as of their day; the signature holds them to the server's clock too.
  await checkInDate(tx, c, started.equipment, [c.event.at.slice(0, 10)])
  if (started.deviation) return
  const document = await documentOf(tx, c.loopId, started.revision)
  const told = runDeviations(
    started,
    document,
    await ableInstrumentsOn(tx, started.equipment, c.event.at.slice(0, 10)),
  )
  if (told.length > 0)
    throw wrong(
      c,
      told.map(({ path, says }) => ({
        path,
        says: `${says} To verify otherwise than recorded, state the deviation with its reason.`,
      })),
    )
}

/** Rounding on the way from what was set to what it stands for, share of the span. */
const SAME_APPLIED = 1e-6

/** What a setting of the standard stands for is the law's that was agreed, not the sender's word. */
function checkApplied(c: Checked, before: AnyRun | null): void {
  const { body } = c.event
  if (body.type !== 'reading.recorded' || before?.kind !== 'verification') return
  const { applies, inputRange } = before.run.started
  const applied = body.payload.values.applied
  if (!applies || !applied) return
  const unit = appliedUnit(applies)
  const set = parseQuantity(applied.typed, unit)
  const meant = set.kind === 'value' ? fromApplied(applies, set.value, inputRange) : null
  const span = Math.abs(inputRange.high - inputRange.low)
  if (meant === null || Math.abs(meant - applied.value) > SAME_APPLIED * span)
    throw wrong(c, [
      {
        path: 'values.applied.value',
        says:
          meant === null
            ? `“${applied.typed}” is no setting in ${printedUnit(unit)} that stands for a value of this sensor.`
            : `${applied.typed} stands for ${sayNumber(meant, 7)} ${printedUnit(inputRange.unit)}, not for ${sayNumber(applied.value, 7)}.`,
      },
    ])
}

/** Handing over and beginning are one act: no loop is left open with nobody at work. */
function checkHandedOver(c: Checked): void {
  const { body, runId } = c.event
  if (body.type !== 'procedure.handedOver') return
  const begun = c.after.some(
    (e) =>
      e.runId === body.payload.run &&
      e.body.type === 'procedure.started' &&
      e.body.payload.procedure === body.payload.to &&
      e.body.payload.after?.run === runId,
  )
  if (!begun) throw cannot(c, 'The procedure that goes on has to be begun in the same act.')
}

/** What a procedure goes on from is what the record says: handed to it, by who goes on, with what was done. */
async function checkAfter(c: Checked): Promise<void> {
  const { body, runId } = c.event
  if (body.type !== 'procedure.started' || !body.payload.after) return
  const { after, procedure, way, withDevice } = body.payload
  const says = (text: string) => wrong(c, [{ path: 'after', says: text }])
  const before = await c.runOf(after.run)
  if (before?.kind !== 'procedure') throw says('There is no such procedure at this loop.')
  const { run } = before
  if (run.state !== 'handedOver' || run.handed?.run !== runId || run.handed.to !== procedure)
    throw says('That procedure was not handed over to this one.')
  if (run.runner !== c.person.id) throw says('Who goes on is who handed it over.')
  if ((run.started.way ?? 'inService') !== (way ?? 'inService') || run.started.withDevice !== withDevice)
    throw says('It goes on in the same way, with the same readings.')
  if (run.fixedCurrent !== after.held) throw says('Whether the output holds a current is not as it is.')
  if (canonicalJson(standingWork(run)) !== canonicalJson(after.did))
    throw says('That is not what was done before: call the operators and isolate anew.')
}

/** Rounding on the way. */
const SAME_U = 1e-6
/** How well the readings are known is the register's to say: the gates go by it. */
function checkKnownTo(c: Checked, started: ProcedureStarted, able: readonly NamedInstrument[]): void {
  if (!started.knownTo) return
  const register = started.withDevice ? null : knownTo(started.context, able)
  for (const of of ['applied', 'current'] as const) {
    const told = started.knownTo[of]
    const is = register?.[of]
    if (told !== undefined && (is === undefined || Math.abs(told - is) > SAME_U * is))
      throw wrong(c, [
        {
          path: `knownTo.${of}`,
          says:
            is === undefined
              ? 'None of the instruments named states an uncertainty for that.'
              : `By the register it is ${sayNumber(is, 4)}, not ${sayNumber(told, 4)}.`,
        },
      ])
  }
}

/** What a reading has to be before it counts is decided by the plant, not by who begins. */
async function checkGateNumbers(tx: Executor, c: Checked, { gates }: ProcedureStarted) {
  const [told, rules] = [wholeGates(gates), wholeGates((await plantRules(tx)).gates)]
  for (const of of Object.keys(USUAL_GATES) as (keyof typeof USUAL_GATES)[])
    if (told[of] !== rules[of])
      throw wrong(c, [
        {
          path: `gates.${of}`,
          says: `The plant asks for ${sayNumber(rules[of])}, not for ${sayNumber(told[of])}. Reload the page.`,
        },
      ])
}

async function checkProcedure(tx: Executor, c: Checked): Promise<void> {
  const { body } = c.event
  if (body.type !== 'procedure.started') return
  await checkAfter(c)
  await checkRevision(tx, c, body.payload.revision)
  await checkRegister(tx, c, body.payload.equipment)
  const context = contextOf(await documentOf(tx, c.loopId, body.payload.revision))
  if (canonicalJson(context) !== canonicalJson(body.payload.context))
    throw wrong(c, [
      {
        path: 'context',
        says: `Range, limits and tolerance are not those of revision ${body.payload.revision}. Reload the loop.`,
      },
    ])
  const { withDevice, withoutInstrument = '', procedure: id, rules } = body.payload
  if (rules === undefined)
    throw wrong(c, [{ path: 'rules', says: `A procedure is begun with its gates: rules ${RULES}.` }])
  const procedure = procedureOf(id)
  const asNow = procedure ? stepsOf(procedure, { ...body.payload, rules: RULES }) : []
  if (rulesAsked(asNow, withDevice) > rules)
    throw wrong(c, [
      {
        path: 'rules',
        says: `This procedure has gates now that it was begun without: rules ${RULES}. Reload the page.`,
      },
    ])
  const needs = procedure?.needs?.(contextMadeFor(body.payload)) ?? []
  const able = await ableInstrumentsOn(tx, body.payload.equipment, c.event.at.slice(0, 10))
  checkKnownTo(c, body.payload, able)
  await checkGateNumbers(tx, c, body.payload)
  // Over the link of a stand-in the tool is simulated as well.
  if (!withDevice && withoutInstrument === '') {
    const missing = missingInstruments(needs, able)
    if (missing.length > 0)
      throw wrong(c, [
        {
          path: 'equipment',
          says: `${missing.join(' ')} Name one that covers it, or say why it is done without.`,
        },
      ])
  }
  await checkInDate(tx, c, body.payload.equipment, [c.event.at.slice(0, 10), day(c.now)])
}

/** A certificate may end while a procedure goes on: no reading and no write by it without a reason and a name. */
async function checkStep(tx: Executor, c: Checked, before: AnyRun | null): Promise<void> {
  const { body } = c.event
  if (body.type !== 'procedure.step' || before?.kind !== 'procedure') return
  const { run } = before
  const step = run.left[0]
  if (run.started.rules === undefined || run.started.withDevice || step?.id !== body.payload.step) return
  // By the field's clock and by the server's: neither alone can be set back.
  const at = [c.event.at, c.now.toISOString()].sort().at(-1) ?? c.event.at
  const instruments = await instrumentsOn(tx, run.started.equipment, at.slice(0, 10))
  const gates = gatesAt(run, step, body.payload, at, instruments).filter((g) => g.id === 'equipment')
  const shut = shutGates(gates, body.payload)
  if (shut.length > 0) throw cannot(c, sayShut(shut))
}

/** Days on which a run was at work, by the field's clock and by the server's: neither alone can be set back. */
async function daysOf(tx: Executor, c: Checked): Promise<string[]> {
  const [r] = await tx
    .select({
      first: min(events.at),
      firstHere: min(events.recordedAt),
      last: max(events.at),
      lastHere: max(events.recordedAt),
    })
    .from(events)
    .where(and(eq(events.runId, c.event.runId), inArray(events.type, ['run.started', 'reading.recorded'])))
  // What is sent together with its beginning was recorded just now.
  return [r?.first, r?.firstHere, r?.last, r?.lastHere, ...(r?.first ? [] : [c.now])].flatMap((d) =>
    d ? [day(d)] : [],
  )
}

async function checkInstruments(
  tx: Executor,
  c: Checked,
  ids: readonly string[],
  began: string,
): Promise<void> {
  const [bare] = await uncoveredOn(tx, ids, [began.slice(0, 10), ...(await daysOf(tx, c))])
  if (!bare) return
  const { instrument: e, day: d } = bare
  throw cannot(
    c,
    e.dueOn < d
      ? `${e.name} had no valid certificate on ${d}: it ended on ${e.dueOn}. Repeat the readings with a valid instrument.`
      : `${e.name} had no valid certificate on ${d}: it begins on ${e.certifiedOn}. Repeat the readings with a valid instrument.`,
  )
}

/** Who may sign as what, what, and with which equipment. */
async function checkSignature(tx: Executor, c: Checked, any: AnyRun | null): Promise<void> {
  const { body } = c.event
  if (body.type !== 'signed' && body.type !== 'procedure.signed' && body.type !== 'returned') return
  const asReviewer = body.type === 'returned' || body.payload.as === 'reviewer'
  if (asReviewer && c.person.role !== 'reviewer')
    throw notAllowed('Only a reviewer may countersign or return a record.', { eventId: c.event.id })
  if (body.type !== 'returned' && body.payload.statement.trim() === '')
    throw wrong(c, [
      { path: 'statement', says: 'Say what is signed: a signature without a statement says nothing.' },
    ])
  // What belongs to a run of the other kind is told so by the fold.
  if (!any || (any.kind === 'procedure') !== (body.type === 'procedure.signed')) return
  if (asReviewer) await checkReviewer(tx, c, any)
  // A signature that cannot come now is told so by the fold, whatever else it lacks.
  if (body.type !== 'returned' && !isOpenTo(any, asReviewer)) return
  if (!asReviewer && any.kind === 'verification') await checkSignable(tx, c, any.run)
  const misfit = await wrongSignature(tx, c, any)
  if (misfit) throw wrong(c, [misfit])
}

/** Giving it back, and signing it, is no work on it. */
const LOOKED = [signed.type, procedureSigned.type, returned.type]
const UNDER_WAY: readonly ProcedureRun['state'][] = ['running', 'aborting']

/** Whether a run waits for the first signature, or for one more. */
function isOpenTo(any: AnyRun, asReviewer: boolean): boolean {
  if (any.kind === 'procedure' && UNDER_WAY.includes(any.run.state)) return false
  if (any.kind === 'verification' && !asReviewer) return any.run.state === 'ready'
  return asReviewer === signaturesOf(any).length > 0
}
const signaturesOf = ({ run }: AnyRun): readonly Signature[] => run.signatures ?? []

/** Who is far enough from the work to review it, and whether the plant asks for one more signature, by its rules. */
async function checkReviewer(tx: Executor, c: Checked, any: AnyRun): Promise<void> {
  const rules = await plantRules(tx)
  const { family } = await documentOf(tx, c.loopId, any.run.started.revision)
  const there = signaturesOf(any).length
  if (there > 1 && there >= signaturesAsked(rules, family))
    throw cannot(c, 'This record is signed and reviewed already; the plant asks for no more signatures.')
  if (rules.signing.apart === 'signed') return
  const [worked] = await tx
    .select({ id: events.id })
    .from(events)
    .where(and(eq(events.runId, c.event.runId), eq(events.by, c.person.id), notInArray(events.type, LOOKED)))
    .limit(1)
  if (worked)
    throw notAllowed('You worked on this record: by the rules of this plant somebody else reviews it.', {
      eventId: c.event.id,
    })
}

/** A record is signed as done only when nothing in it is open, and with equipment that was in date. */
async function checkSignable(tx: Executor, c: Checked, run: Run): Promise<void> {
  const { path } = await documentOf(tx, c.loopId, run.started.revision)
  const [problem] = signingProblems(run, path)
  if (problem) throw cannot(c, problem.says)
  await checkInstruments(tx, c, run.equipment, run.startedAt)
}

/** Everything that an event is held against. @throws HttpProblem with the place in what was sent */
export async function checkEvent(tx: Executor, c: Checked, before: AnyRun | null): Promise<void> {
  const { body } = c.event
  if (body.type === 'run.started' && before === null) await checkStarted(tx, c, body.payload)
  if (body.type === 'equipment.named') await checkRegister(tx, c, body.payload.equipment)
  checkHandedOver(c)
  checkApplied(c, before)
  if (before === null) await checkProcedure(tx, c)
  await checkStep(tx, c, before)
  await checkSignature(tx, c, before)
}
