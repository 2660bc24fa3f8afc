import { z } from 'zod'
import { ChangeRules, Logo, PlantRules, Preferences, RestoreRules, RulesRevision } from '../settings.ts'
import { settings } from './addresses.ts'
import { EVERYONE, WORKERS, type Endpoint } from './endpoint.ts'

export const settingsApi = {
  [settings.rules]: {
    says: 'What this plant has decided once for all its loops',
    allow: EVERYONE,
    answer: PlantRules,
  },
  [settings.changeRules]: {
    says: 'Decide one of them anew; the others stay',
    allow: ['administrator', ...WORKERS],
    body: ChangeRules,
    answer: PlantRules,
  },
  [settings.revisions]: {
    says: 'Every decision about the rules, the newest first',
    allow: EVERYONE,
    answer: z.array(RulesRevision),
  },
  [settings.restore]: {
    says: 'Decide all of them as they were after an earlier decision; it is a decision of its own',
    allow: ['administrator'],
    body: RestoreRules,
    answer: PlantRules,
  },
  [settings.logo]: { says: 'The picture at the head of papers', allow: EVERYONE, answer: Logo },
  [settings.changeLogo]: {
    says: 'Another picture for the head of papers, or none',
    allow: ['administrator', ...WORKERS],
    body: Logo,
    answer: Logo,
  },
  [settings.mine]: {
    says: 'How the one who is signed in wants the screens',
    allow: EVERYONE,
    answer: Preferences,
  },
  [settings.keepMine]: {
    says: 'Keep how the screens are wanted',
    allow: EVERYONE,
    body: Preferences,
    answer: Preferences,
  },
} as const satisfies Readonly<Record<string, Endpoint>>
