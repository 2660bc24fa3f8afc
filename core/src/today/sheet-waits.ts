import type { SheetLine } from '../family/family.ts'
import { compareReadBack } from '../loop/read-back.ts'

/** What somebody saw of a device, line by line. */
interface SeenSheet {
  /** YYYY-MM-DD. */
  readonly on: string
  readonly lines: readonly { readonly says: string; readonly read: string; readonly same: boolean }[]
}
/** What is known of a settings sheet and of the device that was told by it. */
export interface SheetKnown {
  /** Of the set-up as it is saved. */
  readonly lines: readonly SheetLine[]
  /** Of the revision that was read back first: what was never read is known by it alone. */
  readonly before: readonly SheetLine[]
  /** Every time that somebody looked, the newest last: a line counts as it was seen last, whichever time that was. */
  readonly readBacks: readonly SeenSheet[]
  /** Day on which the set-up became what it is. */
  readonly changedOn: string
}

const NAMED = 3
function named(lines: readonly string[]): string {
  const more = lines.length - NAMED
  const first = lines.slice(0, NAMED).map((l) => `“${l}”`)
  return more > 0 ? `${first.join(', ')} and ${more} more` : first.join(', ')
}

/**
 * Why a device has to be read back, since when: it showed something else than its sheet, or the sheet changed since. The
 * same value in another unit is no change, and neither is one that the device showed already.
 * @returns null where nothing speaks for it. A device that nobody ever read back is not judged: its sheet may have been
 * written down from it
 */
export function sheetWaits(k: SheetKnown): { readonly why: string; readonly since: string } | null {
  const seen = new Map(
    k.readBacks.flatMap(({ on, lines }) => lines.map((l) => [l.says, { ...l, on }] as const)),
  )
  const before = new Map(k.before.map((l) => [l.says, l.value]))
  // What is done with a device, and not kept in it, cannot be read back.
  const kept = k.lines.filter((l) => l.act !== true)
  const isOther = (l: SheetLine, than: string | undefined) =>
    than === undefined || compareReadBack(l, than) === 'differs'
  const off = kept.flatMap((l) => {
    const s = seen.get(l.says)
    return s && !s.same && isOther(l, s.read) ? [s] : []
  })
  const changed = kept.filter((l) => {
    const s = seen.get(l.says)
    return s ? s.same && isOther(l, s.read) : isOther(l, before.get(l.says))
  })
  if (off.length + changed.length === 0) return null
  const days = [...new Set(off.map((s) => s.on))].sort()
  const last = k.readBacks.at(-1)?.on ?? ''
  const says = [
    ...days.map(
      (on) =>
        `Its device showed another ${named(off.filter((s) => s.on === on).map((s) => s.says))} on ${on}.`,
    ),
    ...(changed.length > 0
      ? [`Changed since it was read back on ${last}: ${named(changed.map((l) => l.says))}.`]
      : []),
  ]
  return { why: says.join(' '), since: days[0] ?? k.changedOn }
}
