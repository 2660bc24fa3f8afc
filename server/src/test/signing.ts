import { sign, type KeyObject } from 'node:crypto'
import type { RunEventBody } from '@calm/core/record/kinds/verification'
import { revisionSaved } from '@calm/core/record/kinds/revision-saved'
import { applyRunEvent, type Run } from '@calm/core/record/run'
import { MEANINGS } from '@calm/core/record/signing/meanings'
import { contentsText, statementText } from '@calm/core/record/signing/statement'
import type { OwnKey, Person } from '@calm/contract/people'
import type { NewEquipment } from '@calm/contract/equipment'
import type TestAgent from 'supertest/lib/agent.js'
import { openKey } from './open-key.ts'
import { sha256 } from '../record/digest.ts'

interface Sent {
  readonly id: string
  readonly runId: string
  readonly at: string
  readonly body: RunEventBody
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
  const all = list as readonly Sent[]
  if (!all.some((e) => e.body.type === 'signed' && !e.body.payload.signature)) return [...list]
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
  const runs = new Map<string, Run | null>()
  const runOf = (id: string): Run | null =>
    runs.get(id) ??
    record
      .filter((e) => e.runId === id)
      .reduce<Run | null>((run, { type, payload, by, at }) => {
        const next = applyRunEvent(run, { body: { type, payload } as RunEventBody, by, at })
        return next.kind === 'run' ? next.run : run
      }, null)
  return all.map((e) => {
    const run = runOf(e.runId)
    let out = e
    if (e.body.type === 'signed' && run && !e.body.payload.signature) {
      const revision = record
        .filter((r) => r.type === revisionSaved.type)
        .map((r) => revisionSaved.payload.parse(r.payload))
        .find((r) => r.number === run.started.revision)
      const instruments = register
        .filter((i) => run.equipment.includes(i.id))
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
      const of = sha256(contentsText(run, { document: revision?.documentHash ?? '', instruments }))
      // What a reviewer's signature means is the first word of its statement, where it is one of the meanings.
      const says = e.body.payload.statement.split(' ')[0] ?? ''
      const meaning =
        e.body.payload.as === 'technician' ? 'performed' : (MEANINGS.find((m) => m === says) ?? 'reviewed')
      const told = { v: 1, loop: loop.id, event: e.id, by: person.id, meaning, of, at: e.at } as const
      const value = sign(null, Buffer.from(statementText(told)), privateKey).toString('hex')
      const signature = { meaning, of, key: key.fingerprint, value } as const
      out = { ...e, body: { ...e.body, payload: { ...e.body.payload, signature } } }
    }
    const next = applyRunEvent(run, { body: out.body, by: person.id, at: e.at })
    runs.set(e.runId, next.kind === 'run' ? next.run : run)
    return out
  })
}
