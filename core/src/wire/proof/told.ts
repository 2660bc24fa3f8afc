import type { Evidence, Finding } from '../../finding.ts'
import { sayNumber } from '../../quantity/round.ts'
import type { BenchState, Energised } from '../../part/energise.ts'
import { knownParts, type Wiring } from '../../part/wiring.ts'
import { evidenceAt } from '../explain.ts'
import type { Culprit } from './culprit.ts'
import type { Statement, WiringJudgement } from './judge.ts'

/** More rows of one trouble tell no more. */
const MOST_ROWS = 3
/** Statements of what a part needs to live. */
const HUNGRY = ['SUPPLIED', 'LIFTED']
const RULE = 'every part’s own statement, held against the solved circuit in every state'

const count = (n: number, one: string, many: string) => `${n} ${n === 1 ? one : many}`
const sentence = (text: string) => `${text.charAt(0).toUpperCase()}${text.slice(1)}.`

/** What is proved, and by how much. */
function proved(w: Wiring, e: Energised, j: WiringJudgement): Finding {
  const parts = knownParts(w)
  const senders = parts.filter((p) => p.kind.duty === 'transmitter')
  const tx = senders[0]
  const receivers = parts.filter((p) => typeof e.values[`pct(${p.id})`] === 'number')
  const inputs = parts.filter((p) => p.kind.duty === 'input')
  const says =
    receivers.length > 0 && senders.length > 1
      ? `The wiring is right: each of ${senders.length} transmitters is read by its own receiver, whatever the others send.`
      : receivers.length > 0 && tx
        ? `The wiring is right: ${tx.id} holds ${sayNumber(e.live.get(tx.id)?.current_mA ?? 0, 4)} mA and ${receivers
            .map((r) => `${r.id} reads ${sayNumber(Number(e.values[`pct(${r.id})`]), 4)} %`)
            .join(', ')}.`
        : inputs.length > 0
          ? `The wiring is right: ${inputs.map((i) => `${i.id} is ${String(e.values[`bit(${i.id})`])}`).join(', ')}.`
          : 'The wiring is right: every part does its work.'
  const evidence: Evidence[] = [
    {
      label: 'proved',
      value: `${count(j.statements.length, 'statement', 'statements')} in ${count(j.states.length, 'state', 'states')}`,
    },
    ...(senders.length > 1 ? inputs : [tx, ...receivers, ...inputs]).flatMap((p) => evidenceAt(p, e)),
  ]
  return { code: 'WIRING_RIGHT', severity: 'good', where: [], says, evidence, rule: RULE }
}

/** A statement that does not hold: what should be, and what is there instead. */
function unheld(s: Statement): Finding {
  const found: Evidence[] =
    s.failed === null
      ? []
      : [
          { label: 'state', value: s.failed.state },
          ...(s.failed.instead === null ? [] : [{ label: 'there is', value: s.failed.instead }]),
        ]
  return {
    code: s.code,
    severity: s.weight === 'stop' ? 'stop' : 'warn',
    where: [s.part],
    says: `Not so: ${s.says}.`,
    evidence: found,
    rule: RULE,
  }
}

/** The one thing that, put right, makes everything hold. */
function culprit(c: Culprit, j: WiringJudgement): Finding {
  const first = j.statements.find((s) => !s.held)
  return {
    code: 'CULPRIT',
    severity: 'stop',
    where: [...(c.wire === undefined ? [] : [c.wire]), ...(c.part === undefined ? [] : [c.part])],
    says: c.mendsAll ? c.says : `${c.says} It is not the only thing: put it right, and look again.`,
    evidence: first
      ? [
          { label: 'it explains', value: sentence(first.says).slice(0, -1) },
          ...(first.failed?.instead == null ? [] : [{ label: 'there is', value: first.failed.instead }]),
        ]
      : [],
    rule: c.mendsAll
      ? 'of all single changes the one after which every statement holds in every state'
      : 'no single change fixes everything; this one comes nearest to the usual wiring, with the fewest statements failing',
  }
}

/**
 * The judgement in findings, beside what the circuit tells in the state on the bench.
 * @param here - what `explain` says of that state
 * @param found - the culprit, where one was searched for and found
 */
export function tellJudgement(
  w: Wiring,
  state: BenchState,
  e: Energised,
  j: WiringJudgement,
  here: readonly Finding[],
  found: Culprit | null,
): Finding[] {
  if (Object.keys(w.wires).length === 0 || state.faults.length > 0) return [...here]
  const rest = here.filter((f) => f.severity === 'note' || !state.power)
  // A fuse that has blown on the bench is no matter of the wiring, and still nobody says “right” beside it.
  const isTroubled = here.some((f) => f.severity === 'stop' || f.severity === 'warn')
  if (j.verdict === 'proved') return state.power && !isTroubled ? [proved(w, e, j), ...here] : [...here]
  const told = state.power ? here.filter((f) => f.severity !== 'note') : []
  const elsewhere = j.complaints.filter((f) => !told.some((h) => h.code === f.code))
  const complained = new Set([...told, ...elsewhere].flatMap((f) => f.where))
  // One cause, one row: the whole list of what does not hold stands below.
  const isTold = found !== null || [...told, ...elsewhere].some((f) => f.severity === 'stop')
  // What a part does not get explains what it does not do, where no wire is to blame.
  const hungry = found === null ? j.statements.filter((s) => !s.held && HUNGRY.includes(s.code)) : []
  const failed = j.statements.filter(
    (s) => !s.held && !complained.has(s.part) && !hungry.includes(s) && (s.weight === 'look' || !isTold),
  )
  const out: Finding[] = [
    ...(found ? [culprit(found, j)] : []),
    ...hungry.slice(0, 1).map(unheld),
    ...told,
    ...elsewhere,
    ...failed.slice(0, MOST_ROWS).map(unheld),
  ]
  if (out.length === 0)
    out.push({
      code: 'NOTHING_ARRIVES',
      severity: 'note',
      where: [],
      says: 'Not proved: nothing here reads a current, a bit or a line, so nothing can be held against it.',
    })
  return [...out, ...rest]
}
