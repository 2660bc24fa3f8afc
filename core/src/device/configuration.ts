import type { DeviceSettings, StandIn } from './stand-in.ts'

/** A configuration as it is backed up; a copy for another device leaves the characterization out. */
export interface DeviceBackup {
  readonly kind: 'backup' | 'copy'
  readonly LRV: number
  readonly URV: number
  readonly settings: Partial<DeviceSettings>
  /** Told in a backup, never written by loading one: trims are made with a standard. */
  readonly trims?: { readonly sensor: number[]; readonly output: number[] } | undefined
}
/** What belongs to this device on this link and is not copied to others. */
export function backup(d: StandIn, kind: DeviceBackup['kind']): DeviceBackup {
  const { characterization, address, keyed, ...others } = d.applied
  const { LRV, URV, a, b, alpha, beta4 } = d.transmitter.state
  const forOthers = Object.fromEntries(Object.entries(keyed).filter(([line]) => !d.own.includes(line)))
  if (kind === 'copy') return { kind, LRV, URV, settings: { ...others, keyed: forOthers } }
  return {
    kind,
    LRV,
    URV,
    settings: { ...others, address, characterization, keyed },
    trims: { sensor: [a, b], output: [beta4, alpha] },
  }
}

export interface ConfigurationChange {
  readonly key: string
  readonly from: unknown
  readonly to: unknown
}
/** Every setting by its name, the lines of the sheet among them. */
function flat({ LRV, URV, settings }: DeviceBackup): Readonly<Record<string, unknown>> {
  const { keyed, ...others } = settings
  return { LRV, URV, ...others, ...keyed }
}
/** What is different in `wanted`; what it does not hold is not compared. */
export function configurationChanges(now: DeviceBackup, wanted: DeviceBackup): ConfigurationChange[] {
  const [a, b] = [flat(now), flat(wanted)]
  return Object.keys(b)
    .filter((k) => b[k] !== undefined && b[k] !== a[k])
    .map((key) => ({ key, from: a[key], to: b[key] }))
}
/** What loading a backup would overwrite, and whether it holds what belongs to another sensor. */
export function loadDifferences(now: DeviceBackup, b: DeviceBackup) {
  const changed = configurationChanges(now, b)
  return { changed, otherSensor: changed.some((c) => c.key === 'characterization') }
}
