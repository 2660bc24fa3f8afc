import { sign, type KeyObject } from 'node:crypto'
import type { NewEvent } from '@calm/contract/events'
import type { Person } from '@calm/contract/people'
import type { Meaning } from '@calm/core/signing/meanings'
import { statementText } from '@calm/core/record/signing/statement'
import type { Database } from '../db/connection.ts'
import { eventsOfRun } from '../record/events.ts'
import { applyEvent, foldEvents, type AnyRun } from '../record/fold.ts'
import { signedNow } from '../runs/signing.ts'

/** A key that somebody of the demo plant signs with. */
export interface Signer {
  readonly fingerprint: string
  readonly privateKey: KeyObject
}

const MEANS: Readonly<Record<'technician' | 'reviewer', Meaning>> = {
  technician: 'performed',
  reviewer: 'reviewed',
}

/** Events of a past run by one author, signatures made with that author's key over what stands there then. */
export async function signPast(
  db: Database,
  loopId: string,
  past: readonly { readonly event: NewEvent; readonly by: string }[],
  nameOf: (name: string) => Pick<Person, 'id'>,
  signers: ReadonlyMap<string, Signer>,
): Promise<NewEvent[]> {
  const [first] = past
  if (!first) return []
  let run: AnyRun | null = foldEvents(await eventsOfRun(db, first.event.runId), [])
  const events: NewEvent[] = []
  for (const { event, by } of past) {
    const { body, id, at } = event
    const person = nameOf(by).id
    let out = event
    if (body.type === 'signed' && run?.kind === 'verification') {
      const signer = signers.get(by)
      if (!signer) throw new Error(`the demo plant has no key of ${by}`)
      const meaning = MEANS[body.payload.as]
      const of = await signedNow(db, loopId, run)
      const told = { v: 1, loop: loopId, event: id, by: person, meaning, of, at } as const
      const value = sign(null, Buffer.from(statementText(told)), signer.privateKey).toString('hex')
      const signature = { meaning, of, key: signer.fingerprint, value }
      out = { ...event, body: { ...body, payload: { ...body.payload, signature } } }
    }
    const next = applyEvent(run, { ...out.body, by: person, at })
    if (next.kind === 'refused') throw new Error(next.says)
    run = next.next
    events.push(out)
  }
  return events
}
