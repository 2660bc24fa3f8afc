/**
 * Where everything is asked for: method and path by resource. What each takes and gives is told by the same name in
 * `api.ts`; this file holds texts only, so that a page that asks for something loads no schema for it.
 */
export const session = {
  demo: 'GET /api/session/demo',
  one: 'GET /api/session',
  provider: 'GET /api/session/provider',
  toProvider: 'GET /api/session/provider/go',
  fromProvider: 'GET /api/session/provider/back',
  signIn: 'POST /api/session',
  signOut: 'DELETE /api/session',
  signOutEverywhere: 'DELETE /api/session/everywhere',
  open: 'GET /api/session/open',
  endOpen: 'DELETE /api/session/open/:session',
  changePassword: 'PUT /api/session/password',
  key: 'GET /api/session/key',
  beginKey: 'PUT /api/session/key',
  wrapKey: 'PUT /api/session/key/password',
  factor: 'GET /api/session/second-factor',
  offerFactor: 'POST /api/session/second-factor',
  confirmFactor: 'PUT /api/session/second-factor',
  endFactor: 'POST /api/session/second-factor/end',
  noteFailure: 'POST /api/session/key/failures',
} as const

export const system = {
  health: 'GET /api/health',
  about: 'GET /api/about',
  description: 'GET /api/openapi.json',
  live: 'GET /api/live',
} as const

export const people = {
  list: 'GET /api/people',
  first: 'POST /api/people/first',
  register: 'GET /api/people/register',
  invite: 'POST /api/people',
  change: 'PUT /api/people/:person',
  changeState: 'PUT /api/people/:person/state',
  resetPassword: 'POST /api/people/:person/password-reset',
  endKey: 'POST /api/people/:person/key-end',
  endSessions: 'POST /api/people/:person/sessions-end',
  invitation: 'GET /api/invitations/:token',
  takeInvitation: 'POST /api/invitations/:token',
} as const

export const plantLog = {
  page: 'GET /api/log',
  table: 'GET /api/log.csv',
  review: 'POST /api/log/reviews',
  head: 'GET /api/log/head',
  heads: 'GET /api/log/heads.jsonl',
  grown: 'POST /api/log/grown',
} as const

export const programs = {
  tokens: 'GET /api/tokens',
  makeToken: 'POST /api/tokens',
  endToken: 'DELETE /api/tokens/:token',
  webhooks: 'GET /api/webhooks',
  beginWebhook: 'POST /api/webhooks',
  endWebhook: 'DELETE /api/webhooks/:webhook',
  views: 'GET /api/views',
  calendar: 'GET /api/calendar.ics',
} as const

export const equipment = {
  list: 'GET /api/equipment',
  add: 'POST /api/equipment',
  change: 'PUT /api/equipment/:instrument',
  retire: 'PUT /api/equipment/:instrument/retired',
  past: 'GET /api/equipment/:instrument/past',
  pictures: 'GET /api/equipment/:instrument/pictures',
  keepPictures: 'POST /api/equipment/:instrument/pictures',
  picture: 'GET /api/equipment/:instrument/pictures/:picture',
} as const

export const ownParts = {
  list: 'GET /api/own-parts',
  take: 'POST /api/own-parts',
  letGo: 'DELETE /api/own-parts/:title',
} as const

export const sensors = {
  list: 'GET /api/sensors',
  save: 'PUT /api/sensors/:sensor',
  revisions: 'GET /api/sensors/:sensor/revisions',
} as const

/** A pH sensor on the link of the workshop, without a loop. */
export const workshop = {
  look: 'GET /api/sensors/:sensor/device',
  ask: 'POST /api/sensors/:sensor/device/commands',
  ports: 'GET /api/sensors/:sensor/device/ports',
  linkTest: 'GET /api/sensors/:sensor/device/link',
  act: 'POST /api/sensors/:sensor/device/beakers',
} as const

export const loops = {
  list: 'GET /api/loops',
  add: 'POST /api/loops',
  one: 'GET /api/loops/:loop',
  labels: 'GET /api/loop-labels.pdf',
  several: 'POST /api/loops/several',
  archive: 'POST /api/loops/:loop/archive',
  bringBack: 'POST /api/loops/:loop/bring-back',
  save: 'PUT /api/loops/:loop/document',
  revisions: 'GET /api/loops/:loop/revisions',
  events: 'GET /api/loops/:loop/events',
  record: 'POST /api/loops/:loop/events',
  runs: 'GET /api/loops/:loop/runs',
  proof: 'GET /api/loops/:loop/chain',
  wiring: 'GET /api/loops/:loop/wiring.svg',
  wiringPaper: 'GET /api/loops/:loop/wiring.pdf',
  settingsSheet: 'GET /api/loops/:loop/settings-sheet.pdf',
  pocketCard: 'GET /api/loops/:loop/pocket-card.pdf',
  pocketCardTable: 'GET /api/loops/:loop/pocket-card.csv',
  drift: 'GET /api/loops/:loop/drift',
  diagnose: 'POST /api/loops/:loop/diagnoses',
  keepNote: 'POST /api/loops/:loop/notes',
  picture: 'GET /api/loops/:loop/pictures/:picture',
  keepSum: 'POST /api/loops/:loop/sums',
  keepReadings: 'POST /api/loops/:loop/circuit-readings',
  keepReadBack: 'POST /api/loops/:loop/read-backs',
} as const

export const plant = {
  drift: 'GET /api/drift',
  enterPast: 'POST /api/past-certificates',
  proof: 'GET /api/chain',
} as const

export const settings = {
  rules: 'GET /api/plant/rules',
  changeRules: 'PUT /api/plant/rules',
  revisions: 'GET /api/plant/rules/revisions',
  restore: 'POST /api/plant/rules/restore',
  logo: 'GET /api/plant/logo',
  changeLogo: 'PUT /api/plant/logo',
  mine: 'GET /api/preferences',
  keepMine: 'PUT /api/preferences',
} as const

export const runs = {
  waiting: 'GET /api/waiting-signatures',
  one: 'GET /api/runs/:run',
  readings: 'GET /api/runs/:run/readings.csv',
  certificate: 'GET /api/runs/:run/certificate.pdf',
  signing: 'GET /api/runs/:run/signing',
} as const

export const comparisons = {
  list: 'GET /api/loops/:loop/comparisons',
  keep: 'POST /api/loops/:loop/comparisons',
} as const

export const inputs = {
  look: 'GET /api/loops/:loop/input',
  verify: 'POST /api/loops/:loop/input/verifications',
} as const

export const devices = {
  look: 'GET /api/loops/:loop/device',
  ask: 'POST /api/loops/:loop/device/commands',
  backup: 'GET /api/loops/:loop/device/backup',
  ports: 'GET /api/loops/:loop/device/ports',
  linkTest: 'GET /api/loops/:loop/device/link',
  memory: 'GET /api/loops/:loop/device/memory',
  keepMemory: 'POST /api/loops/:loop/device/memory',
  history: 'GET /api/loops/:loop/device/history.csv',
  service: 'GET /api/loops/:loop/device/service.csv',
  compare: 'POST /api/loops/:loop/device/differences',
  configurations: 'GET /api/loops/:loop/configurations',
  keep: 'POST /api/loops/:loop/configurations',
  differences: 'GET /api/loops/:loop/configurations/:id/differences',
} as const

export const packages = {
  make: 'GET /api/loops/:loop/package.zip',
  take: 'POST /api/packages',
} as const

export const loopList = {
  preview: 'POST /api/loop-list/preview',
  import: 'POST /api/loop-list/import',
  held: 'GET /api/loop-list/held',
  mend: 'PUT /api/loop-list/held/:row',
  letGo: 'DELETE /api/loop-list/held/:row',
  imports: 'GET /api/loop-list/imports',
  undo: 'POST /api/loop-list/imports/:import/undo',
  export: 'GET /api/loop-list.csv',
  exportSheet: 'GET /api/loop-list.xlsx',
} as const

export const logs = {
  list: 'GET /api/logs',
  begin: 'POST /api/loops/:loop/logs',
  one: 'GET /api/loops/:loop/logs/:log',
  piece: 'POST /api/loops/:loop/logs/:log/pieces',
  keep: 'POST /api/loops/:loop/logs/:log/keep',
  giveUp: 'DELETE /api/loops/:loop/logs/:log',
  view: 'GET /api/loops/:loop/logs/:log/view',
  judgement: 'GET /api/loops/:loop/logs/:log/judgement',
  compare: 'GET /api/loops/:loop/logs/:log/comparison',
  samples: 'GET /api/loops/:loop/logs/:log/samples.csv',
  parts: 'GET /api/loops/:loop/logs/:log/samples.zip',
  report: 'GET /api/loops/:loop/logs/:log/report.pdf',
  plot: 'GET /api/loops/:loop/logs/:log/plot.svg',
} as const

export const surveys = {
  list: 'GET /api/surveys',
  one: 'GET /api/surveys/:survey',
  report: 'GET /api/surveys/:survey/report.pdf',
  keepSite: 'POST /api/loops/:loop/survey-sites',
  logOfSite: 'GET /api/loops/:loop/logs/:log/of-site',
} as const

export const today = {
  jobs: 'GET /api/today/jobs',
  addJob: 'POST /api/today/jobs',
  changeJob: 'PUT /api/today/jobs/:job',
  letGo: 'POST /api/today/jobs/:job/let-go',
  importJobs: 'POST /api/today/jobs/import',
  jobsTable: 'GET /api/today/jobs.csv',
  plan: 'GET /api/today/plan',
  makePlan: 'POST /api/today/plan',
  place: 'PUT /api/today/plan/placing',
  undo: 'POST /api/today/plan/undo',
  mark: 'POST /api/today/marks',
  pack: 'PUT /api/today/packed',
  presence: 'PUT /api/today/presence',
  note: 'POST /api/today/notes',
  plant: 'GET /api/today/plant',
  changePlant: 'PUT /api/today/plant',
  daySheet: 'GET /api/today/day-sheet.pdf',
  calendar: 'GET /api/today/plan.ics',
} as const

export const calculations = { list: 'GET /api/calc', compute: 'POST /api/calc/:name' } as const

/** By resource and by what is done: together the name of each in the description, `loops.save`. */
export const ADDRESSES = {
  session,
  system,
  people,
  plantLog,
  programs,
  equipment,
  ownParts,
  sensors,
  settings,
  loops,
  plant,
  runs,
  comparisons,
  inputs,
  devices,
  workshop,
  packages,
  loopList,
  logs,
  surveys,
  today,
  calculations,
} as const

type Texts<T> = T extends string ? T : { [K in keyof T]: Texts<T[K]> }[keyof T]
export type Address = Texts<typeof ADDRESSES>

/** Names in a path that stand for something: `:loop`. */
export type PathNames<A extends string> = A extends `${string}/:${infer Rest}`
  ? | (Rest extends `${infer Name}/${string}` ? Name : Rest)
    | PathNames<Rest extends `${string}/${infer R}` ? `/${R}` : ''>
  : never

export type Method = 'GET' | 'POST' | 'PUT' | 'DELETE'

/** An address in its two parts. */
export function partsOf(address: Address): { readonly method: Method; readonly path: string } {
  const [method, path] = address.split(' ', 2)
  return { method: method as Method, path: path ?? '' }
}

type Told = string | number | boolean | readonly (string | number)[] | undefined

/**
 * The path to ask for: names in it are filled in, all others become its query, lists with commas.
 * @throws Error where a name of the path is missing: a fault of ours
 */
export function urlOf(address: Address, named: Readonly<Record<string, Told>>): string {
  const inPath = new Set<string>()
  const path = partsOf(address).path.replace(/:(\w+)/g, (_, name: string) => {
    const value = named[name]
    if (typeof value !== 'string' || value === '') throw new Error(`${address}: ${name} is missing`)
    inPath.add(name)
    return encodeURIComponent(value)
  })
  const query = Object.entries(named).flatMap(([name, value]) =>
    inPath.has(name) || value === undefined ? [] : [`${name}=${encodeURIComponent(String(value))}`],
  )
  return query.length === 0 ? path : `${path}?${query.join('&')}`
}
