import type { DeviceView } from '@calm/contract/devices'
import { alarmsNow } from '@calm/core/device/alarms'
import { backup, configurationChanges } from '@calm/core/device/configuration'
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
  taskAt,
  toolOfDevice,
  type StandIn,
} from '@calm/core/device/stand-in'
import { METERS } from '@calm/core/device/tools/meter'
import { sayValue } from './say-value.ts'

/** As long as the slowest window that a gate looks at. */
const SAMPLES = 460
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
export function view(
  { device: held, t_s }: { readonly device: StandIn; readonly t_s: number },
  since_s = -Infinity,
): DeviceView {
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
