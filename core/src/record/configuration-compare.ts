import type { DeviceBackup } from '../device/configuration.ts'
import { factsOf } from '../loop/facts.ts'
import type { LoopDocument } from '../loop/document.ts'
import { stageOf } from '../signal/stage.ts'
import { configurationDifference } from '../verify/reference-check.ts'

/** A configuration by the names that tell what a setting touches. The address is the link's, not the measurement's. */
function byTouch(b: DeviceBackup): Readonly<Record<string, unknown>> {
  const { damping_s, alarm, descriptor, characterization, keyed } = b.settings
  return {
    lrv: b.LRV,
    urv: b.URV,
    sensorTrim: b.trims?.sensor,
    outputTrim: b.trims?.output,
    damping: damping_s,
    alarmDirection: alarm,
    descriptor,
    kFactor: characterization,
    // A line of the sheet by its own name: what nobody sorted counts as touching the measurement.
    ...keyed,
  }
}
/** Whether results under two configurations can be compared. */
export const comparable = (before: DeviceBackup, after: DeviceBackup) =>
  configurationDifference(byTouch(before), byTouch(after))

/** What a loop's documents say of its device's configuration; null for a loop without a range. */
export function documentedConfiguration(document: LoopDocument): DeviceBackup | null {
  const transmitter = stageOf(document.path, 'transmitter')
  if (!transmitter) return null
  const { damping_s, entries } = factsOf(document)
  return {
    kind: 'copy',
    LRV: transmitter.range.low,
    URV: transmitter.range.high,
    // A damping that nobody told is no document of it.
    settings: entries['damping_s'] === 'typed' ? { damping_s } : {},
  }
}
