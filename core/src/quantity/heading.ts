import { findUnit } from './units.ts'

/** A heading without its unit, and the unit: "Applied [bar]", "Loop (mA)", "PV in kPa". */
export function partedHeading(heading: string): { readonly name: string; readonly unit: string } {
  const h = heading.trim().replace(/_/g, ' ')
  const m = /^(.+?)\s*(?:\[(.+)\]|\((.+)\)|\bin (\S.*)|,\s*(\S.*)|\/\s+(\S.*))$/.exec(h)
  const unit = (m?.[2] ?? m?.[3] ?? m?.[4] ?? m?.[5] ?? m?.[6] ?? '').trim()
  return m?.[1] !== undefined && findUnit(unit) ? { name: m[1].trim(), unit } : { name: h, unit: '' }
}
