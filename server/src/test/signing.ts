import { sign, type KeyObject } from 'node:crypto'
import { revisionSaved } from '@calm/core/record/kinds/revision-saved'
import type { Signing } from '@calm/core/signing/signing'
import { MEANINGS } from '@calm/core/signing/meanings'
import { statementText } from '@calm/core/record/signing/statement'
import type { NewEvent } from '@calm/contract/events'
import type { OwnKey, Person } from '@calm/contract/people'
import type { NewEquipment } from '@calm/contract/equipment'
import type TestAgent from 'supertest/lib/agent.js'
import { openKey } from './open-key.ts'
import { contentsOf, instrumentsOfRun } from '../record/contents.ts'
import { applyEvent, type AnyRun } from '../record/fold.ts'

/** What an event signs, where the signature itself is still to be made. */
const bare = ({ type, payload }: { type: string; payload: unknown }): Signing | null => {
  if (type !== 'signed' && type !== 'procedure.signed') return null
  const signing = payload as Signing
  return signing.signature ? null : signing
}
const opened = new Map<string, KeyObject>()
const json = async <T>(agent: TestAgent, url: string): Promise<T | null> => {
  const res = await agent.get(url)
  return res.status === 200 ? (res.body as T) : null
}

/**
 * Signatures as a page makes them: with the person's own key, over the run as it stands then. What cannot be signed
 * goes out unsigned, and is for the server to refuse.
 */
export async function signedAsPageDoes(
  agent: TestAgent,
  list: readonly unknown[],
  tag: string,
): Promise<unknown[]> {
  const all = list as readonly NewEvent[]
  if (!all.some(({ body }) => bare(body))) return [...list]
  const { person } = (await json<{ person: Person }>(agent, '/api/session')) ?? { person: null }
  const { key } = (await json<{ key: OwnKey | null }>(agent, '/api/session/key')) ?? { key: null }
  const loop = await json<{ id: string }>(agent, `/api/loops/${tag}`)
  if (!person || !key || !loop) return [...list]
  const privateKey = opened.get(key.fingerprint) ?? openKey(key, 'salt-and-water', person.id)
  opened.set(key.fingerprint, privateKey)
  const record =
    (await json<{ type: string; payload: unknown; runId: string; by: string; at: string }[]>(
      agent,
      `/api/loops/${tag}/events`,
    )) ?? []
  const register = (await json<NewEquipment[]>(agent, '/api/equipment')) ?? []
  const runs = new Map<string, AnyRun | null>()
  const after = (any: AnyRun | null, e: Parameters<typeof applyEvent>[1]): AnyRun | null => {
    const next = applyEvent(any, e)
    return next.kind === 'next' ? next.next : any
  }
  const runOf = (id: string): AnyRun | null =>
    runs.get(id) ?? record.filter((e) => e.runId === id).reduce<AnyRun | null>(after, null)
  return all.map((e) => {
    const any = runOf(e.runId)
    let out: unknown = e
    let { payload } = e.body as { payload: unknown }
    const signing = bare(e.body)
    if (any && signing) {
      const revision = record
        .filter((r) => r.type === revisionSaved.type)
        .map((r) => revisionSaved.payload.parse(r.payload))
        .find((r) => r.number === any.run.started.revision)
      const instruments = register
        .filter((i) => instrumentsOfRun(any).includes(i.id))
        .map(
          ({ id, name, serial, range, uncertainty, drift, resolution, certificate, certifiedOn, dueOn }) => ({
            id,
            name,
            serial,
            range,
            uncertainty,
            drift,
            resolution,
            certificate,
            certifiedOn,
            dueOn,
          }),
        )
      const of = contentsOf(any, { document: revision?.documentHash ?? '', instruments })
      // What a reviewer's signature means is the first word of its statement, where it is one of the meanings.
      const says = signing.statement.split(' ')[0] ?? ''
      const meaning =
        signing.as === 'technician' ? 'performed' : (MEANINGS.find((m) => m === says) ?? 'reviewed')
      const told = { v: 1, loop: loop.id, event: e.id, by: person.id, meaning, of, at: e.at } as const
      const value = sign(null, Buffer.from(statementText(told)), privateKey).toString('hex')
      const signature = { meaning, of, key: key.fingerprint, value } as const
      payload = { ...signing, signature }
      out = { ...e, body: { type: e.body.type, payload } }
    }
    runs.set(e.runId, after(any, { type: e.body.type, payload, by: person.id, at: e.at }))
    return out
  })
}
