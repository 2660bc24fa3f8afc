import type { z } from 'zod'
import { familyOf } from '../family/index.ts'
import type { SettingGroup } from '../family/family.ts'
import { setUpProblems } from '../family/set-up.ts'
import type { Typed } from '../quantity/setting.ts'
import { SiteFoundShape } from './site-shape.ts'

/** A portable meter is clamped on: its place is described as a clamp-on meter's is. */
export const SURVEY_FAMILY = 'clamp-on'
const clampOn = familyOf(SURVEY_FAMILY)

/** What the tries tell, and what a portable meter has no outputs for. */
const LEFT_OUT: ReadonlySet<string> = new Set(['signal_pct', 'moved_pct', 'speedBy'])
const OF_A_SITE = ['Site', 'Pipe', 'Fluid', 'Place', 'Sensors', 'After start-up']

/** The entries of a site, in the order in which they are found out on the spot. */
export const SITE_GROUPS: readonly SettingGroup[] = (clampOn?.groups ?? [])
  .filter((g) => OF_A_SITE.includes(g.title))
  .map((g) => ({ ...g, settings: g.settings.filter((s) => !LEFT_OUT.has(s.name)) }))
const NAMES: ReadonlySet<string> = new Set(SITE_GROUPS.flatMap((g) => g.settings.map((s) => s.name)))

/** Of some entries those that a site has too. */
export const entriesOfSite = (values: Typed): Typed =>
  Object.fromEntries(Object.entries(values).filter(([name]) => NAMES.has(name)))

/** The same with every entry held against what a clamp-on meter can have. */
export const SiteFound = SiteFoundShape.superRefine((s, ctx) => {
  if (!clampOn) return
  for (const p of setUpProblems(clampOn, s.values))
    ctx.addIssue({ code: 'custom', path: ['values', p.where], message: p.says })
  for (const name of Object.keys(s.values))
    if (!NAMES.has(name) && clampOn.settings.some((x) => x.name === name))
      ctx.addIssue({ code: 'custom', path: ['values', name], message: 'A site has no such entry.' })
  if (String(s.values['site'] ?? '').trim() === '')
    ctx.addIssue({
      code: 'custom',
      path: ['values', 'site'],
      message: 'Give the site the name that it has in the meter.',
    })
})
export type SiteFound = z.output<typeof SiteFound>
