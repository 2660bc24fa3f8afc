import { settings } from '@calm/contract/api/addresses'
import type { Clock } from '../clock.ts'
import type { Database } from '../db/connection.ts'
import { bind, type Bound } from '../http/endpoint.ts'
import { notAllowed } from '../http/problems.ts'
import { rulesRevisions } from './revisions.ts'
import {
  changeLogo,
  changeRules,
  keepPreferences,
  plantLogo,
  plantRules,
  preferencesOf,
  restoreRules,
} from './store.ts'

/** By these work is judged: whoever does it or reviews it does not decide them. */
const OF_ADMINISTRATORS = ['byKind', 'decision', 'signing', 'gates', 'retention_years'] as const

/** What a plant decided once, and how each person wants the screens. */
export const settingsHandlers = (db: Database, clock: Clock): Bound[] => [
  bind(settings.rules, () => plantRules(db)),
  bind(settings.changeRules, ({ body, person }) => {
    if (person.role !== 'administrator' && OF_ADMINISTRATORS.some((rule) => body[rule] !== undefined))
      throw notAllowed('What is asked of work, and who signs it, is decided by an administrator.')
    return changeRules(db, body, person.id, clock())
  }),
  bind(settings.revisions, () => rulesRevisions(db)),
  bind(settings.restore, ({ body, person }) => restoreRules(db, body, person.id, clock())),
  bind(settings.logo, () => plantLogo(db)),
  bind(settings.changeLogo, ({ body, person }) => changeLogo(db, body, person.id, clock())),
  bind(settings.mine, ({ person }) => preferencesOf(db, person.id)),
  bind(settings.keepMine, ({ person, body }) => keepPreferences(db, person.id, body)),
]
