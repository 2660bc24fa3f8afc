import { settings } from '@calm/contract/api/addresses'
import type { Database } from '../db/connection.ts'
import { bind, type Bound } from '../http/endpoint.ts'
import { changeRules, keepPreferences, plantRules, preferencesOf } from './store.ts'

/** What a plant decided once, and how each person wants the screens. */
export const settingsHandlers = (db: Database): Bound[] => [
  bind(settings.rules, () => plantRules(db)),
  bind(settings.changeRules, ({ body }) => changeRules(db, body)),
  bind(settings.mine, ({ person }) => preferencesOf(db, person.id)),
  bind(settings.keepMine, ({ person, body }) => keepPreferences(db, person.id, body)),
]
