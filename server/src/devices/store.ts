import type { DeviceOrder, DeviceView } from '@calm/contract/devices'
import type { DeviceCommand } from '@calm/core/device/command'
import { alarmsNow } from '@calm/core/device/alarms'
import { command, type Answer } from '@calm/core/device/commands'
import { backup, configurationChanges } from '@calm/core/device/configuration'
import { afterLoss, keyedFrom } from '@calm/core/device/keyed'
import { linkParts, PORTS } from '@calm/core/device/link-parts'
import { rowsGot } from '@calm/core/device/log'
import { signalTrends } from '@calm/core/device/signal-trend'
import { totalsAt } from '@calm/core/device/totals'
import {
  alertsOf,
  behaviourOf,
  isStored,
  movedAt_s,
  relaysAt,
  samplesOf,
  settled,
  signalsAt,
  standardShows,
  standIn,
  taskAt,
  toolOfDevice,
  type DeviceSettings,
  type StandIn,
} from '@calm/core/device/stand-in'
import { METERS } from '@calm/core/device/tools/meter'
import { transmitter } from '@calm/core/transmitter/transmitter'
import type { LoopDocument } from '@calm/core/loop/document'
import { factsOf } from '@calm/core/loop/facts'
import { contextOf } from '@calm/core/loop/procedure-context'
import { judgeSetUp } from '@calm/core/loop/set-up-findings'
import { stageOf } from '@calm/core/signal/stage'
import { Generator } from '@calm/core/statistics/generator'
import { eq } from 'drizzle-orm'
import type { Database, Executor } from '../db/connection.ts'
import { isoInstant } from '../db/time.ts'
import { HttpProblem } from '../http/problems.ts'
import { newestDocument } from '../record/documents.ts'
import { loops } from '../record/schema.ts'
import { resultOf } from '../work/result.ts'
import type { DeviceLink } from './link.ts'
import { sayValue } from './say-value.ts'
import { standIns } from './schema.ts'
import { historyFile } from './work.ts'

/** As long as the slowest window that a gate looks at. */
const SAMPLES = 460
/** A window that opens begins with the last half minute and gathers the rest itself. */
const FIRST_S = 25
/** With an answer comes what was just now; the rest is on screen. */
const ANSWER_S = 10

/** A number of its own for every loop, the same after every restart. */
export function seedOf(loopId: string): number {
  return Number.parseInt(loopId.replaceAll('-', '').slice(0, 8), 16) % 1_000_000
}

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

interface Held {
  readonly device: StandIn
  readonly t_s: number
}
async function held(tx: Executor, loopId: string, now: number, lock: boolean): Promise<Held> {
  const [loop] = await tx.select({ demo: loops.demo }).from(loops).where(eq(loops.id, loopId))
  if (!loop?.demo)
    throw new HttpProblem(
      'no-device',
      'This loop is a real one: no stand-in stands on it. Its readings are typed from the device itself.',
    )
  const query = tx.select().from(standIns).where(eq(standIns.loopId, loopId))
  const [row] = await (lock ? query.for('update') : query)
  const document = await newestDocument(tx, loopId)
  if (row)
    return {
      // What it is and what it was told stands in the document, and nowhere a second time.
      device: { ...row.state, family: document.family, told: document.setUp?.values ?? {} },
      t_s: ((now - row.since.getTime()) / 1000) * row.state.speed,
    }
  const device = made(loopId, document)
  if (!device)
    throw new HttpProblem('no-device', 'This loop switches; it has no transmitter that could be read.')
  await tx
    .insert(standIns)
    .values({ loopId, state: device, since: new Date(now) })
    .onConflictDoNothing()
  return held(tx, loopId, now, lock)
}

const ALARMS_SHOWN = 20
const sayTrim = (x: readonly number[] | undefined) => (x ?? []).map((n) => n.toPrecision(6)).join(' and ')
/** What it was told otherwise since its last check; null where that is not known. */
function changedSinceCheck(d: StandIn): DeviceView['changedSinceCheck'] {
  const then = d.checks.at(-1)?.told
  if (!then) return null
  const now = backup(d, 'backup')
  const trims = (['sensor', 'output'] as const).map((which) => ({
    key: `${which}Trim`,
    from: sayTrim(then.trims?.[which]),
    to: sayTrim(now.trims?.[which]),
  }))
  return [
    ...configurationChanges(then, now).map(({ key, from, to }) => ({
      key,
      from: sayValue(from),
      to: sayValue(to),
    })),
    ...trims.filter((t) => t.from !== t.to),
  ]
}
function clampedOf(d: StandIn): DeviceView['clamped'] {
  const { startUp } = behaviourOf(d)
  return startUp
    ? { moves: startUp.moves, off_mm: d.place_mm, most_mm: startUp.most_mm, started: d.started }
    : null
}

/** @param since_s - samples after this device time are enough: what is on screen already need not come again */
function view({ device: held, t_s }: Held, since_s = -Infinity): DeviceView {
  const device = settled(held, t_s)
  const task = taskAt(device, t_s)
  const state = device.transmitter.state
  const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b)
  const settingsWait = !same(device.working, device.applied)
    ? 'apply'
    : !same(device.applied, device.stored.settings)
      ? 'store'
      : 'none'
  const seen = device.connected && device.powered
  const trends = seen ? signalTrends(device, t_s) : {}
  return {
    t_s,
    speed: device.speed,
    powered: device.powered,
    connected: device.connected,
    unlocked: device.unlocked,
    port: device.port,
    standard: device.standard,
    movedAt_s: movedAt_s(device),
    fixed_mA: state.fixed_mA,
    stored: isStored(device),
    settingsWait,
    range: seen ? { LRV: state.LRV, URV: state.URV } : null,
    settings: seen ? { ...device.applied } : null,
    task: task && {
      kind: task.kind,
      progress: (t_s - task.from_s) / task.takes_s,
      left_s: Math.ceil((task.from_s + task.takes_s - t_s) / device.speed),
    },
    family: behaviourOf(device).title,
    tool: toolOfDevice(device).title,
    standardShows: standardShows(device, t_s),
    meter: METERS[device.meter].title,
    signals: seen
      ? signalsAt(device, t_s).map((s) => {
          const of = (c: (typeof device.checks)[number] | undefined) =>
            c?.signals.find((x) => x.name === s.name)?.value ?? null
          const trend = trends[s.name]
          return {
            ...s,
            checked: of(device.checks.at(-1)),
            reference: of(device.checks[0]),
            ...(trend ? { trend } : {}),
          }
        })
      : [],
    checks: device.checks.length,
    changedSinceCheck: changedSinceCheck(device),
    alerts: seen ? alertsOf(device, t_s).map((a) => a.says) : [],
    alarms: alarmsNow(held, t_s)
      .slice(-ALARMS_SHOWN)
      .map(({ says, at_s, gone_s }) => ({ says, at_s, gone_s })),
    totals: [...totalsAt(device, t_s)],
    clamped: clampedOf(device),
    sourced_mA: device.sourced_mA,
    download: device.download && {
      every_s: device.download.every_s,
      rows: device.download.rows,
      got: rowsGot(device, t_s),
    },
    remembers: 1 + signalsAt(device, t_s).filter((s) => !s.held).length,
    relays: relaysAt(device, t_s),
    history: { ...device.history },
    samples: samplesOf(device, t_s, Math.max(0, Math.min(SAMPLES, Math.floor((t_s - since_s) * 4)))),
    audit: [...device.audit],
  }
}

/** Lets the device's time run faster, for practice; its clock goes on from where it is. */
async function paced(tx: Executor, loopId: string, before: Held, speed: number, now: number) {
  const device = { ...before.device, speed }
  const since = new Date(now - (before.t_s / speed) * 1000)
  await tx.update(standIns).set({ state: device, since }).where(eq(standIns.loopId, loopId))
  const says = speed === 1 ? 'Time runs as it does.' : `Time runs ${speed} times as fast.`
  return { answer: { ok: true, says } as const, device: view({ device, t_s: before.t_s }) }
}

/** Carries out a command; a second send of the same one changes nothing. */
async function commandDevice(
  db: Database,
  loopId: string,
  order: DeviceOrder,
  now: number,
): Promise<{ answer: Answer; device: DeviceView }> {
  return db.transaction(async (tx) => {
    const before = await held(tx, loopId, now, true)
    const { id, command: asked } = order
    if (asked.kind === 'speed') return paced(tx, loopId, before, asked.factor, now)
    const part = ofProcedures(asked, before.device)
    if (part !== null)
      return { answer: { ok: false, says: part }, device: view(before, before.t_s - ANSWER_S) }
    const { device, answer } = await carryOut(tx, loopId, before, { id, command: asked })
    return { answer, device: view({ device, t_s: before.t_s }, before.t_s - ANSWER_S) }
  })
}

async function carryOut(
  tx: Executor,
  loopId: string,
  before: Held,
  order: { readonly id: string; readonly command: DeviceCommand },
) {
  const done = command(before.device, before.t_s, order.command, order.id)
  await tx.update(standIns).set({ state: done.device }).where(eq(standIns.loopId, loopId))
  return done
}

/** Why a command is not given outside a procedure, or null: what adjusts a device stands in the record. */
function ofProcedures(asked: DeviceOrder['command'], { own, applied }: StandIn): string | null {
  switch (asked.kind) {
    case 'keyIn': {
      // A constant that it measures by is not changed under a verdict that was given with it.
      const changed = Object.entries(asked.lines).find(
        ([line, value]) => own.includes(line) && (applied.keyed[line] ?? value) !== value,
      )
      return changed
        ? `${changed[0]} is a constant that it measures by, and it holds ${applied.keyed[changed[0]] ?? ''}. Changing it is a step of the procedure for a lost memory, where it is read back, zeroed and compared.`
        : null
    }
    case 'adjust':
    case 'revert':
    case 'markAsFound':
    case 'healthCheck':
      return 'This is a step of a procedure, so that it stands in the record: begin one.'
    default:
      return null
  }
}

/** The stand-ins in the database as links. */
export const standInLink = (db: Database): DeviceLink => ({
  look: async (loopId, now, since_s) => {
    const device = await held(db, loopId, now, false)
    return view(device, since_s ?? device.t_s - FIRST_S)
  },
  ask: (loopId, order, now) => commandDevice(db, loopId, order, now),
  lookIn: async (tx, loopId, now) => view(await held(tx, loopId, now, true)),
  async askIn(tx, loopId, order, now) {
    const { answer } = await carryOut(tx, loopId, await held(tx, loopId, now, true), order)
    return { answer }
  },
  async configuration(loopId, now) {
    const { device } = await held(db, loopId, now, false)
    return device.connected && device.powered ? backup(device, 'backup') : null
  },
  async ports(loopId, now) {
    const { device } = await held(db, loopId, now, false)
    return PORTS.map((name) => ({ name, adaptor: name === device.port }))
  },
  async linkTest(loopId, port, now) {
    return [...linkParts((await held(db, loopId, now, false)).device, port)]
  },
  async history(loopId, now, pool, gone) {
    const { device, t_s } = await held(db, loopId, now, false)
    const document = await newestDocument(db, loopId)
    return resultOf(await pool.run(historyFile, { device, t_s, now, document }, { signal: gone }))
  },
  async service(loopId, now) {
    const { device, t_s } = await held(db, loopId, now, false)
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
  backup: async (loopId, kind, now) => backup((await held(db, loopId, now, false)).device, kind),
})
