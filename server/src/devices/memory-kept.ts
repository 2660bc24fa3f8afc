import type { KeepMemory } from '@calm/contract/devices'
import type { Person } from '@calm/contract/people'
import type { SettingsReadBack } from '@calm/contract/read-back'
import { settingsReadBack } from '@calm/core/record/kinds/settings-read-back'
import type { Database } from '../db/connection.ts'
import { conflict } from '../http/problems.ts'
import { loopDetail } from '../loops/store.ts'
import { appendOnce } from '../record/append-once.ts'
import { memoryAgainstSheet } from './files.ts'
import type { DeviceLink } from './link.ts'

/** Longest that a line of the record is. */
const MOST = 80

/** What the device holds, read over its link and held against the saved sheet, into the record under a name. */
export async function keepMemory(
  db: Database,
  link: DeviceLink,
  loopId: string,
  { id, at }: KeepMemory,
  person: Person,
  now: Date,
): Promise<SettingsReadBack> {
  const loop = await loopDetail(db, loopId)
  const device = await link.configuration(loopId, now.getTime())
  if (!device) throw conflict('No link to the device: connect first, then read what it holds.')
  const lines = memoryAgainstSheet(loop.document, device).filter((l) => l.sheet !== null)
  const read = lines.filter((l) => l.holds !== null)
  if (read.length === 0) throw conflict('The device holds no line of the sheet: nothing was read back.')
  const payload: SettingsReadBack = {
    revision: loop.revision,
    lines: read.map((l) => ({
      says: l.says,
      value: l.sheet ?? '',
      read: (l.holds ?? '').slice(0, MOST),
      same: l.same,
    })),
    left: lines.length - read.length,
    // The only devices that are read over a link are stand-ins.
    link: 'simulated',
  }
  await appendOnce(db, loopId, { id, at, type: settingsReadBack.type, payload }, person, now)
  return payload
}
