import { proceduresOf } from '../family/procedures.ts'
import { procedureOf } from '../procedure/catalogue.ts'
import { parseNumber } from '../quantity/parse-number.ts'
import { VERIFY, VISIT, type Does } from './does.ts'
import { HandJob } from './entries.ts'

/** Columns of a list of jobs, each by the headings that people give it. */
const HEADINGS = {
  order: ['order', 'work order', 'wo', 'number', 'order number'],
  title: ['title', 'text', 'job', 'what', 'description', 'short text'],
  loop: ['loop', 'tag', 'equipment', 'functional location'],
  area: ['area', 'place', 'location', 'unit'],
  due: ['due', 'due date', 'until', 'latest', 'finish'],
  minutes: ['minutes', 'min', 'duration', 'time (min)', 'work (min)'],
  importance: ['importance', 'priority', 'prio'],
  does: ['done by', 'proved by', 'procedure'],
  why: ['why', 'reason', 'remark', 'note', 'long text'],
} as const
type Column = keyof typeof HEADINGS
const USUAL_MINUTES = 60
const USUAL_IMPORTANCE = 3

export interface ReadJob {
  readonly row: number
  readonly order: string
  readonly job: HandJob
  /** Its row says until when; else it is due on the day of the list. */
  readonly dated: boolean
}
export interface ReadJobs {
  readonly jobs: readonly ReadJob[]
  readonly wrong: readonly { readonly row: number; readonly says: string }[]
}

/** Day as 2026-11-24 out of that, 24.11.2026 or 24/11/2026; null: it is none. What is ambiguous is refused. */
function dayIn(text: string): string | null {
  const iso = /^(\d{4})-(\d{2})-(\d{2})/.exec(text)
  if (iso) return text.slice(0, 10)
  const m = /^(\d{1,2})([./])(\d{1,2})\2(\d{4})$/.exec(text)
  if (!m) return null
  const [a, b] = [Number(m[1]), Number(m[3])]
  // 03/04/2026 is April here and March there.
  if (m[2] === '/' && a <= 12 && b <= 12 && a !== b) return null
  const [day, month] = b > 12 ? [b, a] : [a, b]
  return `${m[4] ?? ''}-${String(month).padStart(2, '0')}-${String(day).padStart(2, '0')}`
}

const VERIFICATION = 'verification'
/** What proves a job, as a list says it. */
export const sayDoes = (does: Does): string =>
  does === null || does === VISIT ? '' : does === VERIFY ? VERIFICATION : (procedureOf(does)?.title ?? does)
/** The same read back, by the procedure's name or its identifier; undefined where the loop has no such thing. */
function doesIn(text: string, family: string | null): string | null | undefined {
  const said = text.toLowerCase()
  if (said === '') return null
  if (said === VERIFICATION || said === VERIFY) return VERIFY
  return proceduresOf(family).find((p) => p.id === said || p.title.toLowerCase() === said)?.id
}

/** A loop that a list may name. */
export interface ListedLoop {
  readonly area: string
  readonly family: string | null
}
/**
 * Jobs out of the rows of a list, its headings first. A row that cannot be read is told with its reason; nothing is
 * dropped in silence.
 * @param loopOf - loops in use by their tags in capitals
 * @param today - what has no day is due then
 */
export function readJobs(
  rows: readonly (readonly string[])[],
  loopOf: ReadonlyMap<string, ListedLoop>,
  today: string,
): ReadJobs {
  const [head = [], ...body] = rows
  const at = new Map<Column, number>()
  head.forEach((h, i) => {
    const name = h.trim().toLowerCase()
    for (const [column, words] of Object.entries(HEADINGS) as [Column, readonly string[]][])
      if (words.includes(name) && !at.has(column)) at.set(column, i)
  })
  if (!at.has('title'))
    return {
      jobs: [],
      wrong: [{ row: 1, says: 'No column is called Title, Text or Job. Name the columns in the first row.' }],
    }
  const jobs: ReadJob[] = []
  const wrong: { row: number; says: string }[] = []
  body.forEach((cells, i) => {
    const row = i + 2
    const of = (c: Column) => (cells[at.get(c) ?? -1] ?? '').trim()
    if (cells.every((c) => c.trim() === '')) return
    const problems: string[] = []
    const whole = (c: 'minutes' | 'importance', usual: number) => {
      if (of(c) === '') return usual
      const n = parseNumber(of(c))
      if (n.kind === 'number' && n.rest === '' && Number.isInteger(n.value)) return n.value
      problems.push(`${c} “${of(c)}” is no whole number.`)
      return usual
    }
    const due = of('due') === '' ? today : dayIn(of('due'))
    if (due === null) problems.push(`due “${of('due')}” is no day. Write it as 2026-11-23.`)
    const loop = of('loop')
    const known = loopOf.get(loop.toUpperCase())
    if (loop !== '' && known === undefined) problems.push(`There is no loop ${loop}.`)
    const does = loop === '' && of('does') === '' ? null : doesIn(of('does'), known?.family ?? null)
    if (of('does') !== '' && loop === '') problems.push('What proves it needs a loop.')
    else if (does === undefined && known)
      problems.push(
        `“${of('does')}” is nothing that is done at ${loop}. Write verification, or one of its procedures.`,
      )
    const told = HandJob.safeParse({
      title: of('title').slice(0, 60),
      loop: loop === '' ? null : loop,
      area: of('area') === '' ? (known?.area ?? '') : of('area'),
      why: of('why'),
      due: due ?? today,
      minutes: whole('minutes', USUAL_MINUTES),
      importance: whole('importance', USUAL_IMPORTANCE),
      ...(does ? { does } : {}),
    })
    if (!told.success) problems.push(...told.error.issues.map((x) => `${x.path.join('.')}: ${x.message}`))
    if (problems.length > 0 || !told.success) wrong.push({ row, says: problems.join(' ') })
    else jobs.push({ row, order: of('order').slice(0, 60), job: told.data, dated: of('due') !== '' })
  })
  return { jobs, wrong }
}
