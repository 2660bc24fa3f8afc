import { randomUUID } from 'node:crypto'
import type { DeviceView } from '@calm/contract/devices'
import { GATE_IDS } from '@calm/core/procedure/gate'
import { PASSCODE } from '@calm/core/device/commands'
import type { DeviceCommand } from '@calm/core/device/command'
import { answerTo, ProcedureClient } from './procedure-client.ts'

const PROCEDURE = 'field-zero'
/** As a stand-in lets time run, so that a pump's stroke is over before it is asked for the next. */
const TIMES = 60

export interface AtDevice {
  /** Writes that stand in the record and at the device, and kills in which they were not the same. */
  readonly writes: number
  readonly torn: number
  readonly resent: number
}

/**
 * Zero trims over the link of a stand-in while the server is killed at random moments: what the device did stands in
 * the record, and what stands there the device did, once.
 * @param kill - ends the server some time after it is called, and is done when another one answers
 */
export async function killsAtDevice(
  client: ProcedureClient,
  loop: { readonly tag: string; readonly id: string },
  kills: number,
  kill: (work: () => Promise<void>) => Promise<void>,
): Promise<AtDevice> {
  const device = async () => (await client.ask<DeviceView>('GET', `/api/loops/${loop.id}/device`)).body
  const ask = (command: DeviceCommand | { kind: 'speed'; factor: number }) =>
    client.ask('POST', `/api/loops/${loop.id}/device/commands`, { id: randomUUID(), command })
  const ready = async () => {
    const view = await device()
    if (!view.connected) await ask({ kind: 'connect', port: view.port })
    if (!view.unlocked) await ask({ kind: 'unlock', passcode: PASSCODE })
    if (view.speed !== TIMES) await ask({ kind: 'speed', factor: TIMES })
  }
  await ready()
  const trimsBefore = (await device()).history.trims
  const runs = [await client.begin(loop.tag, PROCEDURE, true)]
  let open: { id: string; body: ReturnType<typeof answerTo> } | null = null
  const over = { gates: [...GATE_IDS], reason: 'the server is killed under it: nobody waits' }
  const step = async (runId: string): Promise<boolean> => {
    const next = (await client.run(runId))?.left[0]
    if (!next) return false
    const body = answerTo(next)
    if (body.type === 'procedure.step' && (next.gates ?? []).length > 0) body.payload.overruled = over
    if (body.type === 'procedure.step' && next.id === 'decide') body.payload.choice = 'adjust'
    open = { id: randomUUID(), body }
    const status = await client.send(loop.tag, runId, body, open.id)
    if (status !== 200) throw new Error(`a step at the device answered ${status}: ${next.title}`)
    open = null
    return true
  }
  const written = async () => {
    let count = 0
    for (const id of runs)
      count += ((await client.run(id))?.done ?? []).filter((d) => d.step.kind === 'write').length
    return count
  }
  let [torn, resent] = [0, 0]
  const goOn = async () => {
    if (!(await step(runs.at(-1) ?? ''))) runs.push(await client.begin(loop.tag, PROCEDURE, true))
  }
  const isBeforeWrite = async () => (await client.run(runs.at(-1) ?? ''))?.left[0]?.kind === 'write'
  for (let i = 0; i < kills; i++) {
    // Killed at the act that counts: on the long way to it a kill would hardly ever meet one.
    while (!(await isBeforeWrite())) await goOn()
    await kill(async () => {
      for (;;) await goOn()
    })
    if ((await written()) !== (await device()).history.trims - trimsBefore) torn++
    if (open) {
      // Its answer was not heard: the same one again, whether or not it is there.
      const { id, body } = open
      const status = await client.send(loop.tag, runs.at(-1) ?? '', body, id)
      if (status === 200) resent++
      open = null
      if ((await written()) !== (await device()).history.trims - trimsBefore) torn++
    }
    await ready()
  }
  return { writes: await written(), torn, resent }
}
