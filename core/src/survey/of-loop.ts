import { factsOf, type FactsOf } from '../loop/facts.ts'
import type { Typed } from '../quantity/setting.ts'
import { entriesOfSite, SURVEY_FAMILY } from './site.ts'

/** Entries that somebody made or confirmed in the set-up of a clamp-on meter: a site on its pipe starts from them. */
export function entriesOfLoop(document: FactsOf): Typed | null {
  const { family, values, entries } = factsOf(document)
  if (family?.id !== SURVEY_FAMILY) return null
  return entriesOfSite(
    Object.fromEntries(Object.entries(values).filter(([name]) => entries[name] === 'typed')),
  )
}
