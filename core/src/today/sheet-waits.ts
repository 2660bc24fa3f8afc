import type { SheetLine } from '../family/family.ts'
import { compareReadBack } from '../loop/read-back.ts'

/** What is known of a settings sheet and of the device that was told by it. */
export interface SheetKnown {
  /** Of the set-up as it is saved. */
  readonly lines: readonly SheetLine[]
  /** Of the revision that was read back last. */
  readonly before: readonly SheetLine[]
  /** The last time that somebody looked what the device shows. */
  readonly readBack: {
    /** YYYY-MM-DD. */
    readonly on: string
    readonly lines: readonly { readonly says: string; readonly read: string; readonly same: boolean }[]
  }
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
  const shown = new Map(k.readBack.lines.map((l) => [l.says, l]))
  const before = new Map(k.before.map((l) => [l.says, l.value]))
  // What is done with a device, and not kept in it, cannot be read back.
  const kept = k.lines.filter((l) => l.act !== true)
  const isShown = (l: SheetLine) => {
    const s = shown.get(l.says)
    return s !== undefined && compareReadBack(l, s.read) === 'same'
  }
  const off = kept.filter((l) => shown.get(l.says)?.same === false && !isShown(l)).map((l) => l.says)
  const changed = kept
    .filter((l) => {
      const was = before.get(l.says)
      return (was === undefined || compareReadBack(l, was) === 'differs') && !isShown(l)
    })
    .map((l) => l.says)
    .filter((says) => !off.includes(says))
  if (off.length + changed.length === 0) return null
  const { on } = k.readBack
  const says = [
    ...(off.length > 0 ? [`Its device showed another ${named(off)} on ${on}.`] : []),
    ...(changed.length > 0 ? [`Changed since it was read back on ${on}: ${named(changed)}.`] : []),
  ]
  return { why: says.join(' '), since: off.length > 0 ? on : k.changedOn }
}
