import { CATALOGUE } from '@calm/core/catalogue'
import { PART_KINDS } from '@calm/core/part/index'
import { PROCEDURES } from '@calm/core/procedure/catalogue'
import { TOPICS } from '../../features/help/topics.ts'
import { WORDS } from '../../features/help/words.ts'
import type { Entry } from './finder.ts'

const PLACES: readonly Entry[] = [
  { id: 'place loops', sort: 'place', title: 'Loops', hint: 'place', also: 'plant list tags', to: '/loops' },
  {
    id: 'place sums',
    sort: 'place',
    title: 'Quick sums',
    hint: 'place',
    also: 'calculations',
    to: '/quick-sums',
  },
  {
    id: 'place today',
    sort: 'place',
    title: 'Today',
    hint: 'place',
    also: 'plan day shift jobs work order kit pack hand-over roster week',
    to: '/today',
  },
  {
    id: 'place jobs',
    sort: 'place',
    title: 'Jobs',
    hint: 'place',
    also: 'overdue work order to do import',
    to: '/today?view=jobs',
  },
  {
    id: 'place instruments',
    sort: 'place',
    title: 'Instruments',
    hint: 'place',
    also: 'test equipment calibrators certificates',
    to: '/instruments',
  },
  {
    id: 'place sensors',
    sort: 'place',
    title: 'Sensors',
    hint: 'place',
    also: 'stock pairs probes kits serial plate',
    to: '/instruments?view=sensors',
  },
  { id: 'place drift', sort: 'place', title: 'Drift', hint: 'place', also: 'intervals years', to: '/drift' },
  {
    id: 'place logs',
    sort: 'place',
    title: 'Logs',
    hint: 'place',
    also: 'trend history recording samples csv portable',
    to: '/logs',
  },
  {
    id: 'place surveys',
    sort: 'place',
    title: 'Surveys',
    hint: 'place',
    also: 'portable meter sites clamp on optimise position signal',
    to: '/surveys',
  },
  {
    id: 'place import',
    sort: 'place',
    title: 'Import a loop list',
    hint: 'place',
    also: 'csv spreadsheet package',
    to: '/loops/import',
  },
  { id: 'place help', sort: 'place', title: 'Help', hint: 'place', also: 'manual how to', to: '/help' },
  {
    id: 'place keys',
    sort: 'place',
    title: 'Keys',
    hint: 'help',
    also: 'shortcuts keyboard',
    to: '/help/keys',
  },
  {
    id: 'place about',
    sort: 'place',
    title: 'About Calm Loop',
    hint: 'place',
    also: 'version health',
    to: '/about',
  },
]

/** Everything with a name that is not a loop: places, help, procedures, calculations, parts and words. */
export const ENTRIES: readonly Entry[] = [
  ...PLACES,
  ...TOPICS.map((t): Entry => ({
    id: `help ${t.id}`,
    sort: 'place',
    title: `Help: ${t.title}`,
    hint: t.for,
    to: `/help/${t.id}`,
  })),
  ...PROCEDURES.map((p): Entry => ({
    id: `procedure ${p.id}`,
    sort: 'procedure',
    title: p.title,
    hint: 'procedure, on the Trim bench of a loop',
    to: `/help/procedures#${p.id}`,
  })),
  {
    id: 'sum path',
    sort: 'quick sum',
    title: 'Signal path without a loop',
    hint: 'quick sum',
    to: '/quick-sums',
  },
  ...CATALOGUE.map((c): Entry => ({
    id: `sum ${c.name}`,
    sort: 'quick sum',
    title: c.title,
    hint: 'quick sum',
    also: c.name.replace(/[.]/g, ' '),
    to: `/quick-sums/${c.name}`,
  })),
  ...PART_KINDS.map((k): Entry => ({
    id: `part ${k.kind}`,
    sort: 'part',
    title: k.title,
    hint: 'part for a wiring',
    to: '/help/parts',
  })),
  ...WORDS.map((w): Entry => ({
    id: `word ${w.word}`,
    sort: 'word',
    title: w.word,
    hint: w.means,
    ...(w.also === undefined ? {} : { also: w.also }),
    to: '/help/words',
  })),
]
