import {
  comparisons,
  devices,
  equipment,
  loopList,
  logs,
  loops,
  ownParts,
  packages,
  people,
  programs,
  plant,
  runs,
  sensors,
  workshop,
  settings,
  surveys,
  today,
  type Address,
} from './addresses.ts'

/** What can change, as every window is told of it. */
export type What =
  | 'list'
  | 'revision'
  | 'run'
  | 'events'
  | 'held'
  | 'equipment'
  | 'own parts'
  | 'sensors'
  | 'rules'
  | 'people'
  | 'programs'
  | 'logs'
  | 'today'
  | 'working'

/** What changed; of which loop, where it is of one. */
export interface News {
  readonly what: What
  readonly loopId?: string
  readonly tag?: string
  /** The window whose own doing it was: it knows already. */
  readonly window?: string
  /** How far the server is with what that window asked for. */
  readonly progress?: Progress
}
export interface Progress {
  readonly done: number
  readonly of: number
}

/** Which window a request comes from. */
export const WINDOW_HEADER = 'x-calm-window'

const OF_RECORD = ['revision', 'run', 'events'] as const

/** What was read at an address is no longer so when one of these changed. */
export const HEARS: Readonly<Partial<Record<Address, readonly What[]>>> = {
  [loops.list]: ['list', ...OF_RECORD],
  [loops.one]: OF_RECORD,
  [loops.revisions]: ['revision', 'events'],
  [loops.events]: OF_RECORD,
  [loops.runs]: ['run', 'events'],
  [loops.drift]: OF_RECORD,
  [runs.one]: ['run', 'events'],
  [runs.waiting]: ['list', 'rules', 'people', ...OF_RECORD],
  [plant.drift]: ['list', ...OF_RECORD],
  [comparisons.list]: ['events'],
  [logs.list]: ['logs', 'events', 'list'],
  [logs.one]: ['logs'],
  [surveys.list]: ['events', 'list'],
  [surveys.one]: ['events', 'list'],
  [devices.configurations]: ['events'],
  [today.jobs]: ['today', 'list', 'equipment', ...OF_RECORD],
  [today.plan]: ['today', 'list', 'equipment', 'people', ...OF_RECORD],
  [today.plant]: ['today'],
  [equipment.list]: ['equipment'],
  [equipment.past]: ['equipment'],
  [equipment.pictures]: ['equipment'],
  [ownParts.list]: ['own parts'],
  [sensors.list]: ['sensors', 'list', 'revision'],
  [sensors.revisions]: ['sensors'],
  [settings.rules]: ['rules'],
  [programs.tokens]: ['programs'],
  [programs.webhooks]: ['programs'],
  [settings.revisions]: ['rules'],
  [settings.logo]: ['rules'],
  [people.list]: ['people'],
  [people.register]: ['people'],
  [loopList.held]: ['held', 'list'],
  [loopList.imports]: ['held', 'list'],
}

/** What a write answers is what a look at this address would: it need not be asked for. */
export const ANSWERS: Readonly<Partial<Record<Address, Address>>> = {
  [loops.save]: loops.one,
  [settings.changeRules]: settings.rules,
  [settings.restore]: settings.rules,
  [settings.changeLogo]: settings.logo,
  [settings.keepMine]: settings.mine,
  [programs.endToken]: programs.tokens,
  [programs.endWebhook]: programs.webhooks,
}

/** What a page changed by asking for this: it looks again without being told. */
export const CHANGES: Readonly<Partial<Record<Address, What>>> = {
  [loops.add]: 'list',
  [loops.save]: 'revision',
  [loops.record]: 'events',
  [loops.diagnose]: 'events',
  [loops.keepSum]: 'events',
  [loops.keepNote]: 'events',
  [loops.keepReadings]: 'events',
  [loops.keepReadBack]: 'events',
  [comparisons.keep]: 'events',
  [logs.begin]: 'logs',
  [logs.piece]: 'logs',
  [logs.keep]: 'events',
  [surveys.keepSite]: 'events',
  [logs.giveUp]: 'logs',
  [plant.enterPast]: 'events',
  [devices.keep]: 'events',
  [devices.keepMemory]: 'events',
  [packages.take]: 'list',
  [loopList.import]: 'held',
  [loopList.undo]: 'list',
  [loops.several]: 'list',
  [loops.archive]: 'list',
  [loops.bringBack]: 'list',
  [loopList.mend]: 'held',
  [loopList.letGo]: 'held',
  [today.addJob]: 'today',
  [today.changeJob]: 'today',
  [today.letGo]: 'today',
  [today.importJobs]: 'today',
  [today.makePlan]: 'today',
  [today.place]: 'today',
  [today.undo]: 'today',
  [today.mark]: 'today',
  [today.pack]: 'today',
  [today.presence]: 'today',
  [today.note]: 'today',
  [today.changePlant]: 'today',
  [equipment.add]: 'equipment',
  [equipment.change]: 'equipment',
  [equipment.retire]: 'equipment',
  [equipment.keepPictures]: 'equipment',
  [sensors.save]: 'sensors',
  [workshop.act]: 'sensors',
  [settings.changeRules]: 'rules',
  [settings.restore]: 'rules',
  [programs.makeToken]: 'programs',
  [programs.endToken]: 'programs',
  [programs.beginWebhook]: 'programs',
  [programs.endWebhook]: 'programs',
  [settings.changeLogo]: 'rules',
  [people.invite]: 'people',
  [people.change]: 'people',
  [people.changeState]: 'people',
  [people.resetPassword]: 'people',
  [people.endKey]: 'people',
  [people.endSessions]: 'people',
  [ownParts.take]: 'own parts',
  [ownParts.letGo]: 'own parts',
}
