import { workshop } from '@calm/contract/api/addresses'
import { linkParts } from '@calm/core/device/link-parts'
import { deviceAsked } from '@calm/core/record/plant-log/kinds/plant'
import type { Clock } from '../clock.ts'
import type { Database } from '../db/connection.ts'
import { bind, type Bound } from '../http/endpoint.ts'
import { notFound } from '../http/problems.ts'
import { note } from '../plant-log/note.ts'
import { allSensors } from '../sensors/store.ts'
import { orderTo, portsOf } from './orders.ts'
import { actInWorkshop, lookInWorkshop, sensorStand } from './workshop.ts'

/** Sensors on the link of the workshop. */
export const workshopHandlers = (db: Database, clock: Clock): Bound[] => {
  const named = async (id: string) => {
    const sensor = (await allSensors(db, clock())).find((s) => s.id === id)
    if (!sensor) throw notFound('sensor')
    return sensor
  }
  const noted = async (sensor: string, by: string, command: string, a: { ok: boolean; says: string }) => {
    const { name } = await named(sensor)
    const payload = { tag: name, command, answer: a.says.slice(0, 300), ok: a.ok }
    await note(db, { kind: deviceAsked, payload, by, subject: sensor }, clock())
  }
  const held = (id: string) => sensorStand(id).held(db, clock().getTime(), false)
  return [
    bind(workshop.look, ({ params, query }) =>
      lookInWorkshop(db, params.sensor, clock().getTime(), query.since),
    ),
    bind(workshop.ask, async ({ params, body, person }) => {
      const { answer, device } = await orderTo(db, sensorStand(params.sensor), body, clock().getTime())
      await noted(params.sensor, person.id, body.command.kind, answer)
      return { ok: answer.ok, says: answer.says, device }
    }),
    bind(workshop.ports, async ({ params }) => portsOf((await held(params.sensor)).device)),
    bind(workshop.linkTest, async ({ params, query }) => [
      ...linkParts((await held(params.sensor)).device, query.port),
    ]),
    bind(workshop.act, async ({ params, body, person }) => {
      const answer = await actInWorkshop(db, params.sensor, body, person, clock())
      await noted(params.sensor, person.id, `buffers: ${body.act.kind}`, answer)
      return answer
    }),
  ]
}
