import type { Person } from '@calm/contract/people'
import type { Sensor } from '@calm/contract/sensors'
import type { Workshop, WorkshopAct, WorkshopAnswer } from '@calm/contract/workshop'
import type { DeviceCommand } from '@calm/core/device/command'
import { signalTrends } from '@calm/core/device/signal-trend'
import {
  samplesOf,
  settled,
  signalsAt,
  standardShows,
  standIn,
  type StandIn,
} from '@calm/core/device/stand-in'
import { benchOutcome, sensorAfter, type BenchOutcome } from '@calm/core/family/ph/bench-calibration'
import {
  beakerMoves,
  linkedCheck,
  linkedWaits,
  shownOver,
  type LinkedBeaker,
  type LinkedReading,
} from '@calm/core/family/ph/linked-bench'
import { bufferByPH } from '@calm/core/family/ph/buffer-check'
import { bufferPH } from '@calm/core/family/ph/buffers'
import type { SensorDescription } from '@calm/core/sensor/sensor'
import { Generator } from '@calm/core/statistics/generator'
import { transmitter } from '@calm/core/transmitter/transmitter'
import { eq } from 'drizzle-orm'
import type { Database, Executor } from '../db/connection.ts'
import { HttpProblem, notFound } from '../http/problems.ts'
import { sensorStandIns } from '../sensors/schema.ts'
import { allSensors, saveSensorIn } from '../sensors/store.ts'
import { carryOut, type Held, type Stand } from './orders.ts'
import { seedOf } from './seed.ts'
import { view } from './view.ts'

const [LOW_PH, HIGH_PH] = [0, 14]
/** A window that opens begins with the last half minute. */
const FIRST_S = 25
const MOST_BEAKERS = 5
const SAMPLES_A_SECOND = 4

/** A stand-in of a pH sensor of the demo plant, with errors of its own that nobody is told. */
export function phStandIn(sensorId: string): StandIn {
  const seed = seedOf(sensorId)
  const g = new Generator(seed)
  const span = HIGH_PH - LOW_PH
  const device = standIn(
    seed,
    transmitter(
      { LSL: LOW_PH, USL: HIGH_PH, kind: 'gauge' },
      { z: span * 0.008 * (g.uniform() - 0.5), g: 0.01 * (g.uniform() - 0.5) },
      LOW_PH,
      HIGH_PH,
    ),
    { family: 'ph', unit: 'pH', wear: 0.5 * g.uniform(), process: 7 },
  )
  return device
}
/** Hangs a stand-in of a pH sensor on the link of the workshop. */
export async function hangOnLink(tx: Executor, sensorId: string, now: Date): Promise<void> {
  await tx
    .insert(sensorStandIns)
    .values({ sensorId, state: phStandIn(sensorId), since: now })
    .onConflictDoNothing()
}

interface OnLink extends Held {
  readonly beakers: readonly LinkedReading[]
  readonly written: boolean
}
async function onLink(tx: Executor, sensorId: string, now: number, lock: boolean): Promise<OnLink> {
  const query = tx.select().from(sensorStandIns).where(eq(sensorStandIns.sensorId, sensorId))
  const [row] = await (lock ? query.for('update') : query)
  if (!row)
    throw new HttpProblem(
      'no-device',
      'This sensor is a real one: no stand-in hangs on the link. Its readings are typed from the bench.',
    )
  const { state: device, since, beakers, written } = row
  return { device, t_s: ((now - since.getTime()) / 1000) * device.speed, beakers, written }
}
type Kept = Partial<{
  readonly state: StandIn
  readonly since: Date
  readonly beakers: readonly LinkedReading[]
  readonly written: boolean
}>
async function keep(tx: Executor, sensorId: string, change: Kept): Promise<void> {
  await tx.update(sensorStandIns).set(change).where(eq(sensorStandIns.sensorId, sensorId))
}
/** The stand-in of a sensor on the link of the workshop. */
export const sensorStand = (sensorId: string): Stand => ({
  held: (tx, now, lock) => onLink(tx, sensorId, now, lock),
  keep: (tx, change) => keep(tx, sensorId, change),
})

const told = (h: OnLink, since_s = h.t_s - FIRST_S): Workshop => ({
  device: view(h, since_s),
  beakers: [...h.beakers],
  written: h.written,
})
export const lookInWorkshop = async (db: Database, sensorId: string, now: number, since_s?: number) =>
  told(await onLink(db, sensorId, now, false), since_s)

/** What it shows in its bottle; null while it does not answer. */
function beakerOf({ device: held, t_s }: Held): LinkedBeaker | null {
  const device = settled(held, t_s)
  if (!device.connected || !device.powered) return null
  const trends = signalTrends(device, t_s)
  const [mV, t] = [trends['electrode_mV'], trends['medium_C']]
  if (!mV || !t) return null
  const n = Math.max(1, Math.floor(mV.over_s * SAMPLES_A_SECOND))
  const pv = shownOver(samplesOf(device, t_s, n), mV.over_s)
  return pv && { standsIn: standardShows(device, t_s), mV, t, pv }
}

/** An act that does not go, in a sentence; nothing is changed. */
class Waits extends Error {}

async function order(
  tx: Executor,
  stand: Stand,
  before: Held,
  id: string,
  command: DeviceCommand,
): Promise<Held> {
  const { device, answer } = await carryOut(tx, stand, before, { id, command })
  if (!answer.ok) throw new Waits(answer.says)
  return { device, t_s: before.t_s }
}

const glassOf = ({ device, t_s }: Held) =>
  signalsAt(settled(device, t_s), t_s).find((s) => s.name === 'glass_Mohm')?.value ?? 0
function outcomeOf(h: OnLink): BenchOutcome {
  const outcome = benchOutcome(h.beakers, glassOf(h))
  if (!outcome) throw new Waits('Take a bottle first.')
  if (outcome.result === 'rejected') throw new Waits(outcome.says.join(' '))
  return outcome
}

/** A sensor's data after what was written into it was proved in a bottle. */
function calibrated(sensor: Sensor, o: BenchOutcome, glass_Mohm: number, now: Date): SensorDescription {
  const today = now.toISOString().slice(0, 10)
  const { description } = sensor
  const values = sensorAfter(description.values, o, description.certifiedOn, today)
  const { dueOn } = description
  return {
    ...description,
    values: { ...(values as SensorDescription['values']), glass_Mohm: Math.round(glass_Mohm) },
    state: 'shelf',
    certifiedOn: today,
    dueOn: dueOn !== null && dueOn > today ? dueOn : null,
  }
}

interface At {
  readonly tx: Executor
  readonly sensor: Sensor
  readonly before: OnLink
  readonly id: string
  readonly person: Person
  readonly now: Date
}

async function take({ tx, sensor, before, id }: At, buffer: number): Promise<string> {
  if (before.written) throw new Waits('They are written into it: check it in one of the bottles.')
  if (before.beakers.length >= MOST_BEAKERS) throw new Waits(`${MOST_BEAKERS} buffers are the most.`)
  const seen = beakerOf(before)
  const waits = seen ? linkedWaits(buffer, seen, before.beakers) : 'No link: connect first.'
  if (waits !== null || !seen) throw new Waits(waits ?? '')
  const reading = { buffer, mV: seen.mV.value, t: seen.t.value, pv: seen.pv.value }
  // The act is remembered by the device, so that a second send is known.
  const { state } = remembered(before, id)
  await keep(tx, sensor.id, { state, beakers: [...before.beakers, reading] })
  return `Bottle ${before.beakers.length + 1} is taken.`
}
const remembered = ({ device }: Held, id: string) => ({
  state: { ...device, recent: [...device.recent, id] },
})

/** What it holds of the bottles, against what was sent: read back from the device itself. */
async function write({ tx, sensor, before, id }: At): Promise<string> {
  if (before.written) throw new Waits('They are written into it: check it in one of the bottles.')
  outcomeOf(before)
  const stand = sensorStand(sensor.id)
  const points = before.beakers.flatMap((r) => {
    const named = bufferByPH(r.buffer)
    const applied = named && bufferPH(named, r.t)
    return applied === null ? [] : [{ applied, pv: r.pv }]
  })
  const kept = await order(tx, stand, before, `${id}/kept`, { kind: 'markAsFound' })
  const adjusted = await order(tx, stand, kept, `${id}/written`, {
    kind: 'adjust',
    adjustment: { kind: 'points', points },
  })
  const stored = await order(tx, stand, adjusted, id, { kind: 'store' })
  const same =
    JSON.stringify(stored.device.stored.state) ===
    JSON.stringify({ ...stored.device.transmitter.state, fixed_mA: null })
  if (!same) throw new Waits('Read back it holds something else: nothing is written.')
  await keep(tx, sensor.id, { written: true })
  return 'Written, stored and read back. Now check it in one of the bottles.'
}

async function check({ tx, sensor, before, id, person, now }: At, buffer: number): Promise<string> {
  if (!before.written) throw new Waits('Nothing is written into it yet.')
  const seen = beakerOf(before)
  const waits = seen ? beakerMoves(seen) : 'No link: connect first.'
  if (waits !== null || !seen) throw new Waits(waits ?? '')
  const outcome = outcomeOf(before)
  const { good, says } = linkedCheck(buffer, seen)
  const stand = sensorStand(sensor.id)
  if (!good) {
    await order(tx, stand, before, id, { kind: 'revert' })
    await keep(tx, sensor.id, { written: false })
    throw new Failed(`${says} What was found is put back into the sensor: read the bottles again.`)
  }
  const { state } = remembered(before, id)
  await keep(tx, sensor.id, { state, beakers: [], written: false })
  const description = calibrated(sensor, outcome, glassOf(before), now)
  const reason =
    `Calibrated over the link of the stand-in (simulated). ${outcome.says[0] ?? ''} ${says}`.slice(0, 200)
  await saveSensorIn(tx, sensor.id, { base: sensor.revision, description, reason }, person, now)
  return `${outcome.says.join(' ')} ${says} Its data are kept with the day: onto the shelf, moist and capped.`
}
/** It was done, and found to be bad: what was changed by that stays. */
class Failed extends Error {}

async function again({ tx, sensor, before, id }: At): Promise<string> {
  const stand = sensorStand(sensor.id)
  // What was written and never proved is not left in it.
  if (before.written) await order(tx, stand, before, id, { kind: 'revert' })
  await keep(tx, sensor.id, { beakers: [], written: false })
  return 'From the first bottle again.'
}

function acted(at: At, act: WorkshopAct['act']): Promise<string> {
  switch (act.kind) {
    case 'take':
      return take(at, act.buffer)
    case 'write':
      return write(at)
    case 'check':
      return check(at, act.buffer)
    case 'again':
      return again(at)
  }
}

/** One act at the bench: device, bottles and the sensor's data change together, or not at all. */
export async function actInWorkshop(
  db: Database,
  sensorId: string,
  { id, act }: WorkshopAct,
  person: Person,
  now: Date,
): Promise<WorkshopAnswer> {
  const answer = await db
    .transaction(async (tx) => {
      const before = await onLink(tx, sensorId, now.getTime(), true)
      if (before.device.recent.includes(id)) return { ok: true, says: 'Done already.' }
      const sensor = (await allSensors(tx, now)).find((s) => s.id === sensorId)
      if (!sensor) throw notFound('sensor')
      try {
        return { ok: true, says: await acted({ tx, sensor, before, id, person, now }, act) }
      } catch (error) {
        if (error instanceof Failed) return { ok: false, says: error.message }
        throw error
      }
    })
    .catch((error: unknown) => {
      if (error instanceof Waits) return { ok: false, says: error.message }
      throw error
    })
  return { ...answer, workshop: await lookInWorkshop(db, sensorId, now.getTime()) }
}
