import { alarmsNow } from '@calm/core/device/alarms'
import { backup } from '@calm/core/device/configuration'
import { afterLoss, keyedFrom } from '@calm/core/device/keyed'
import { linkParts } from '@calm/core/device/link-parts'
import { behaviourOf, standIn, type DeviceSettings, type StandIn } from '@calm/core/device/stand-in'
import { transmitter } from '@calm/core/transmitter/transmitter'
import type { LoopDocument } from '@calm/core/loop/document'
import { factsOf } from '@calm/core/loop/facts'
import { contextOf } from '@calm/core/loop/procedure-context'
import { judgeSetUp } from '@calm/core/loop/set-up-findings'
import { stageOf } from '@calm/core/signal/stage'
import { Generator } from '@calm/core/statistics/generator'
import { and, eq, sql } from 'drizzle-orm'
import type { Database, Executor } from '../db/connection.ts'
import { isoInstant } from '../db/time.ts'
import { prepared } from '../db/prepared.ts'
import { HttpProblem, notFound } from '../http/problems.ts'
import { documentUnlessSeen, newestDocument, withDocument } from '../record/documents.ts'
import { loopRevisions, loops } from '../record/schema.ts'
import { resultOf } from '../work/result.ts'
import type { DeviceLink } from './link.ts'
import { carryOut, orderTo, portsOf, type Held, type Stand } from './orders.ts'
import { standIns } from './schema.ts'
import { seedOf } from './seed.ts'
import { view } from './view.ts'
import { historyFile } from './work.ts'

/** A window that opens begins with the last half minute and gathers the rest itself. */
const FIRST_S = 25

/** A stand-in for a loop's device, with errors of its own that nobody is told. */
function made(loopId: string, document: LoopDocument): StandIn | null {
  const stage = stageOf(document.path, 'transmitter')
  if (!stage) return null
  const seed = seedOf(loopId)
  const g = new Generator(seed)
  const context = contextOf(document)
  if (!context) return null
  const { low, high, unit } = stage.range
  const span = Math.abs(high - low)
  const behaviour = behaviourOf(document)
  const device = standIn(
    seed,
    transmitter(
      {
        LSL: context.limits.low,
        USL: context.limits.high,
        kind: context.kind,
        transfer: stage.transfer,
      },
      {
        z: span * behaviour.zeroShare * (0.4 + 0.6 * g.uniform()) * (g.uniform() < 0.5 ? -1 : 1),
        g: 0.003 * (g.uniform() - 0.5),
        zo: 0.02 * (g.uniform() - 0.5),
        go: 0.002 * (g.uniform() - 0.5),
      },
      low,
      high,
    ),
    {
      family: document.family,
      told: document.setUp?.values ?? {},
      unit,
      wear: 0.3 * g.uniform(),
      // Where a contact really acts is off by its own.
      relays: document.trips.map((plan) => ({ plan, off: 0.002 * span * (g.uniform() - 0.5) })),
    },
  )
  // It was set up by the sheet of its loop; what its memory has lost is not in it.
  const facts = factsOf(document)
  const sheet = facts.setUpBegun ? (judgeSetUp(facts)?.sheet ?? []) : []
  const settings: DeviceSettings = {
    ...device.applied,
    ...(facts.entries['damping_s'] === 'typed' ? { damping_s: facts.damping_s } : {}),
    keyed: afterLoss(keyedFrom(sheet), behaviour.lost?.(device.told) ?? null),
  }
  return {
    ...device,
    applied: settings,
    working: settings,
    stored: { ...device.stored, settings },
    own: sheet.filter((l) => l.exact).map((l) => l.says),
  }
}

/** The stand-in on a loop; a real loop has none. */
export const loopStand = (loopId: string): Stand => ({
  async held(tx, now, lock) {
    if (lock)
      await tx
        .select({ is: sql`1` })
        .from(standIns)
        .where(eq(standIns.loopId, loopId))
        .for('update')
    return heldOf(tx, loopId, now)
  },
  async keep(tx, change) {
    await tx.update(standIns).set(change).where(eq(standIns.loopId, loopId))
  },
})
/** What a look needs in one statement: a hundred windows look once a second each. */
const lookedAt = prepared('looked_at', (db) =>
  db
    .select({
      ...{ demo: loops.demo, ...documentUnlessSeen },
      ...{ state: standIns.state, since: standIns.since },
    })
    .from(loops)
    .innerJoin(
      loopRevisions,
      and(eq(loopRevisions.loopId, loops.id), eq(loopRevisions.number, loops.revision)),
    )
    .leftJoin(standIns, eq(standIns.loopId, loops.id))
    .where(eq(loops.id, sql.placeholder('loopId'))),
)
async function heldOf(tx: Executor, loopId: string, now: number): Promise<Held> {
  const found = await withDocument(tx, loopId, (seen) => lookedAt(tx, { loopId, seen }))
  const [row] = found?.rows ?? []
  if (!found || !row) throw notFound('loop')
  const { demo, state, since } = row
  if (!demo)
    throw new HttpProblem(
      'no-device',
      'This loop is a real one: no stand-in stands on it. Its readings are typed from the device itself.',
    )
  const { document } = found
  if (state && since)
    return {
      // What it is and what it was told stands in the document, and nowhere a second time.
      device: { ...state, family: document.family, told: document.setUp?.values ?? {} },
      t_s: ((now - since.getTime()) / 1000) * state.speed,
    }
  const device = made(loopId, document)
  if (!device)
    throw new HttpProblem('no-device', 'This loop switches; it has no transmitter that could be read.')
  await tx
    .insert(standIns)
    .values({ loopId, state: device, since: new Date(now) })
    .onConflictDoNothing()
  return heldOf(tx, loopId, now)
}

/** The stand-ins in the database as links. */
export const standInLink = (db: Database): DeviceLink => ({
  look: async (loopId, now, since_s) => {
    const device = await heldOf(db, loopId, now)
    return view(device, since_s ?? device.t_s - FIRST_S)
  },
  ask: (loopId, order, now) => orderTo(db, loopStand(loopId), order, now),
  lookIn: async (tx, loopId, now) => view(await loopStand(loopId).held(tx, now, true)),
  async askIn(tx, loopId, order, now) {
    const { answer } = await carryOut(
      tx,
      loopStand(loopId),
      await loopStand(loopId).held(tx, now, true),
      order,
    )
    return { answer }
  },
  async configuration(loopId, now) {
    const { device } = await loopStand(loopId).held(db, now, false)
    return device.connected && device.powered ? backup(device, 'backup') : null
  },
  async ports(loopId, now) {
    const { device } = await loopStand(loopId).held(db, now, false)
    return portsOf(device)
  },
  async linkTest(loopId, port, now) {
    return [...linkParts((await loopStand(loopId).held(db, now, false)).device, port)]
  },
  async history(loopId, now, pool, gone) {
    const { device, t_s } = await loopStand(loopId).held(db, now, false)
    const document = await newestDocument(db, loopId)
    return resultOf(await pool.run(historyFile, { device, t_s, now, document }, { signal: gone }))
  },
  async service(loopId, now) {
    const { device, t_s } = await loopStand(loopId).held(db, now, false)
    const clock = (then_s: number) => isoInstant(new Date(now - (t_s - then_s) * 1000))
    return {
      audit: device.audit.map((a) => ({ at: clock(a.at_s), says: a.says })),
      alarms: alarmsNow(device, t_s).map((a) => ({
        at: clock(a.at_s),
        gone: a.gone_s === null ? null : clock(a.gone_s),
        says: a.says,
      })),
    }
  },
  backup: async (loopId, kind, now) => backup((await loopStand(loopId).held(db, now, false)).device, kind),
})
