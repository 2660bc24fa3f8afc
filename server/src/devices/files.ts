import type { DeviceMemory } from '@calm/contract/devices'
import { missingLines } from '@calm/core/device/keyed'
import type { DeviceBackup } from '@calm/core/device/configuration'
import { logRows } from '@calm/core/device/log'
import { behaviourOf, settled } from '@calm/core/device/stand-in'
import type { LoopDocument } from '@calm/core/loop/document'
import { factsOf } from '@calm/core/loop/facts'
import { compareReadBack } from '@calm/core/loop/read-back'
import { judgeSetUp } from '@calm/core/loop/set-up-findings'
import { printedUnit } from '@calm/core/quantity/units'
import { stageOf } from '@calm/core/signal/stage'
import { isoInstant } from '../db/time.ts'
import { csvOf } from '../reports/csv.ts'
import type { ServiceFiles } from './link.ts'
import type { Remembered } from './work.ts'

/** Every row says so: a file is read far from the screen that showed it. */
const MARK = 'simulated'

/** Readings that came from a device’s memory, units in the headings; null where none were fetched. */
export function historyCsv({ device, t_s, now, document }: Remembered): string | null {
  const rows = logRows(settled(device, t_s), t_s)
  if (rows.length === 0) return null
  const unit = printedUnit(stageOf(document.path, 'transmitter')?.range.unit ?? '%')
  const titles = (rows[0]?.signals ?? []).map(
    (s) => `${s.title}${s.unit === '' ? '' : ` [${printedUnit(s.unit)}]`}`,
  )
  return csvOf([
    ['time', `${document.tag} [${unit}]`, ...titles, 'source'],
    ...rows.map((r) => [
      isoInstant(new Date(now - (t_s - r.t_s) * 1000)),
      r.PV === null ? '' : Number(r.PV.toPrecision(7)),
      ...r.signals.map((s) => Number(s.value.toPrecision(6))),
      MARK,
    ]),
  ])
}
export const serviceTable = (files: ServiceFiles, which: 'audit' | 'alarms'): unknown[][] =>
  which === 'audit'
    ? [['time by its own clock', 'what was done', 'source'], ...files.audit.map((a) => [a.at, a.says, MARK])]
    : [['came', 'gone', 'alarm', 'source'], ...files.alarms.map((a) => [a.at, a.gone ?? '', a.says, MARK])]

/** The saved sheet against what a device holds, line by line; what the sheet does not have comes last. */
export function memoryAgainstSheet(document: LoopDocument, device: DeviceBackup): DeviceMemory {
  const keyed = device.settings.keyed ?? {}
  const facts = factsOf(document)
  // Defaults that nobody has begun with are no sheet of this loop.
  const sheet = (facts.setUpBegun ? (judgeSetUp(facts)?.sheet ?? []) : []).filter((l) => !l.act)
  const vital = missingLines({}, behaviourOf(document).lost?.(document.setUp?.values ?? {}) ?? null)
  const own = new Set(sheet.map((l) => l.says))
  return [
    ...sheet.map((line) => {
      const holds = keyed[line.says] ?? null
      return {
        says: line.says,
        part: line.part ?? '',
        sheet: line.value,
        holds,
        same: holds !== null && compareReadBack(line, holds) === 'same',
        vital: vital.includes(line.says),
      }
    }),
    ...Object.entries(keyed)
      .filter(([says]) => !own.has(says))
      .map(([says, holds]) => ({ says, part: '', sheet: null, holds, same: false, vital: false })),
  ]
}
