import { equipment } from '@calm/contract/api/addresses'
import type { Clock } from '../clock.ts'
import type { Database } from '../db/connection.ts'
import { bind, type Bound } from '../http/endpoint.ts'
import { allPeople } from '../people/store.ts'
import { pastOf } from './history.ts'
import { keepPictures, pictureHere, picturesOf } from './pictures.ts'
import { addEquipment, allEquipment, changeEquipment, retireEquipment } from './store.ts'

const dayOf = (clock: Clock) => clock().toISOString().slice(0, 10)

export const equipmentHandlers = (db: Database, clock: Clock): Bound[] => {
  const list = async () => (await allEquipment(db)).map((e) => ({ ...e, valid: e.dueOn >= dayOf(clock) }))
  const nameOf = async () => {
    const names = new Map((await allPeople(db)).map((p) => [p.id, p.shownName]))
    return (by: string | null) => (by === null ? 'the program' : (names.get(by) ?? ''))
  }
  return [
    bind(equipment.list, list),
    bind(equipment.add, async ({ body, person }) => {
      await db.transaction((tx) => addEquipment(tx, body, person.id, clock()))
      return { ...body, valid: body.dueOn >= dayOf(clock), retired: false }
    }),
    bind(equipment.change, async ({ params, body, person }) => {
      await db.transaction((tx) => changeEquipment(tx, params.instrument, body, person.id, clock()))
      return list()
    }),
    bind(equipment.retire, async ({ params, body, person }) => {
      await db.transaction((tx) =>
        retireEquipment(tx, params.instrument, body.retired, body.reason, person.id, clock()),
      )
      return list()
    }),
    bind(equipment.past, async ({ params }) => pastOf(db, params.instrument, await nameOf())),
    bind(equipment.pictures, async ({ params }) => picturesOf(db, params.instrument, await nameOf())),
    bind(equipment.keepPictures, async ({ params, body, person }) => {
      await db.transaction((tx) => keepPictures(tx, params.instrument, body, person.id, clock()))
      return picturesOf(db, params.instrument, await nameOf())
    }),
    bind(equipment.picture, async ({ params, res }) => {
      const { type, data } = await pictureHere(db, params.instrument, params.picture)
      res.set('Cache-Control', 'private, max-age=31536000, immutable').type(type).send(data)
    }),
  ]
}
