import type { Finding } from '../finding.ts'
import type { SetUpResult } from '../family/family.ts'
import { labelOf, settingProblem, type Setting, type SettingValue, type Typed } from '../quantity/setting.ts'
import type { LoopFacts } from './facts.ts'
import { judgeSetUp } from './set-up-findings.ts'

/** What a result or a line of the sheet rests on. */
export interface RestsOn {
  /** Titles of entries that nobody typed or confirmed. */
  readonly assumed: readonly string[]
  /** Titles of entries that cannot be: the value is not known. */
  readonly refused: readonly string[]
  /** Titles of entries that a judgement stops. */
  readonly stopped: readonly string[]
}
export const NOTHING_DOUBTED: RestsOn = { assumed: [], refused: [], stopped: [] }
export interface Rests {
  /** By the label of the row, and by the words of the sheet’s line. */
  readonly rows: ReadonlyMap<string, RestsOn>
  readonly sheet: ReadonlyMap<string, RestsOn>
  /** By the code of a finding that says “good”. */
  readonly good: ReadonlyMap<string, RestsOn>
  /** Entries that nobody confirmed and that something rests on. */
  readonly assumed: readonly Setting[]
}

/** Other values that the entry could have, so near that the set-up stays possible. */
function nudged(setting: Setting, value: SettingValue): SettingValue[] {
  return others(setting, value).filter((x) => settingProblem(setting, x) === null)
}
function others(setting: Setting, value: SettingValue): SettingValue[] {
  switch (setting.kind) {
    case 'number': {
      if (typeof value !== 'number') return []
      const step = Math.max(Math.abs(value) * 0.01, 1e-6 * (setting.max - setting.min))
      return [value + step, value - step]
    }
    case 'choice': {
      // The first, the last and one between tell of a long list as much as all of them.
      const all = setting.options.map((o) => o.value).filter((x) => x !== value)
      return all.length <= 3
        ? all
        : [all[0], all[Math.floor(all.length / 2)], all.at(-1)].filter((x) => x !== undefined)
    }
    case 'flag':
      return [value !== true]
    case 'text': {
      const n = typeof value === 'string' && value.trim() !== '' ? Number(value) : NaN
      return [Number.isFinite(n) ? String(n * 1.01) : `${String(value)}1`]
    }
    case 'table':
      return []
  }
}
const isLeftEmpty = (setting: Setting, value: SettingValue | undefined): boolean =>
  (setting.kind === 'text' || setting.kind === 'table') && (value ?? setting.standard).toString() === ''
const linesOf = (r: SetUpResult) => ({
  rows: new Map(r.rows.map((x) => [x.label, String(x.value)])),
  sheet: new Map(r.sheet.map((x) => [x.says, x.value])),
  good: new Map(
    r.findings
      .filter((f) => f.severity === 'good')
      .map((f) => [f.code, `${f.says} ${JSON.stringify(f.evidence ?? [])}`]),
  ),
})

type Lines = ReturnType<typeof linesOf>

/** A set-up as it is tried out: its values, and what follows from them. */
interface Tried {
  readonly facts: LoopFacts
  readonly values: Typed
  readonly before: Lines
}
function triedOf(facts: LoopFacts, result: SetUpResult): Tried {
  // What cannot be is as if nobody had entered it: what would follow from the usual value is not known.
  const refused = (facts.family?.settings ?? []).filter((s) => facts.entries[s.name] === 'refused')
  const values = { ...facts.values, ...Object.fromEntries(refused.map((s) => [s.name, s.standard])) }
  const before = linesOf((refused.length > 0 ? judgeSetUp({ ...facts, values }) : null) ?? result)
  return { facts, values, before }
}

/** What changes when an entry gets another value: labels of rows, and words of lines of the sheet. */
function changedBy({ facts, values, before }: Tried, setting: Setting) {
  const changed = { rows: new Set<string>(), sheet: new Set<string>(), good: new Set<string>() }
  for (const other of nudged(setting, values[setting.name] ?? setting.standard)) {
    const trial = judgeSetUp({ ...facts, values: { ...values, [setting.name]: other } })
    if (!trial || trial.rows.length === 0) continue
    const after = linesOf(trial)
    for (const kind of ['rows', 'sheet', 'good'] as const)
      for (const [key, says] of before[kind]) if (after[kind].get(key) !== says) changed[kind].add(key)
    // One other value is enough of a number; a choice may change with one and not with another.
    if (setting.kind === 'number') break
  }
  return changed
}
/** Whether nobody typed or confirmed an entry that has a value. Left empty is no assumption: nothing stands there. */
const isAssumed = (facts: LoopFacts, setting: Setting): boolean =>
  facts.entries[setting.name] === 'assumed' && !isLeftEmpty(setting, facts.values[setting.name])

/** Whether anything rests on an entry that nobody confirmed: the first that is found is enough. */
export function restsOnAssumption(facts: LoopFacts, result: SetUpResult): boolean {
  const tried = triedOf(facts, result)
  return (facts.family?.settings ?? []).some((setting) => {
    if (!isAssumed(facts, setting)) return false
    const { rows, sheet } = changedBy(tried, setting)
    return rows.size + sheet.size > 0
  })
}

/**
 * What each result rests on: found by giving each doubtful entry another value and looking what changes, so that no
 * family can forget to say it.
 */
export function restsOn(facts: LoopFacts, result: SetUpResult): Rests {
  const rows = new Map<string, RestsOn>()
  const sheet = new Map<string, RestsOn>()
  const good = new Map<string, RestsOn>()
  const stopped = new Set(result.findings.filter((f) => f.severity === 'stop').flatMap((f) => f.where))
  const tried = triedOf(facts, result)
  const assumed: Setting[] = []
  for (const setting of facts.family?.settings ?? []) {
    const isStopped = stopped.has(setting.name)
    const isRefused = facts.entries[setting.name] === 'refused'
    const untold = isAssumed(facts, setting)
    if (!isStopped && !isRefused && !untold) continue
    if (facts.entries[setting.name] === undefined) continue
    const { label } = labelOf(setting.title)
    const doubt = (kept: Map<string, RestsOn>, key: string) => {
      const now = kept.get(key) ?? NOTHING_DOUBTED
      kept.set(key, {
        assumed: untold ? [...now.assumed, label] : now.assumed,
        refused: isRefused ? [...now.refused, label] : now.refused,
        stopped: isStopped ? [...now.stopped, label] : now.stopped,
      })
    }
    const changed = changedBy(tried, setting)
    for (const key of changed.rows) doubt(rows, key)
    for (const key of changed.sheet) doubt(sheet, key)
    // A judgement rests on the entries that it names, too: one percent more need not turn it over.
    const named = result.findings.filter((f) => f.severity === 'good' && f.where.includes(setting.name))
    for (const key of new Set([...changed.good, ...named.map((f) => f.code)])) doubt(good, key)
    if (untold && changed.rows.size + changed.sheet.size > 0) assumed.push(setting)
  }
  return { rows, sheet, good, assumed }
}

const FEW = 3
const sayFew = (titles: readonly string[]): string => {
  const more = titles.length - FEW
  const named = titles.slice(0, FEW).map((t) => `“${t}”`)
  return more > 0 ? `${named.join(', ')} and ${more} more` : named.join(', ')
}
/**
 * Findings as they may be said: what rests on entries that nobody confirmed, or that cannot be, is not called good; a
 * stop that names such an entry says so, for then it may be that one that is wrong.
 * @param rests - null while it is not known yet: until then nothing is good
 */
export const provedFindings = (findings: readonly Finding[], rests: Rests | null): Finding[] =>
  findings.map((f) => {
    if (f.severity === 'stop' && rests) {
      const untold = rests.assumed.filter((s) => f.where.includes(s.name)).map((s) => labelOf(s.title).label)
      return untold.length > 0
        ? { ...f, says: `${f.says} Only assumed here: ${sayFew(untold)}; confirm it or type what it is.` }
        : f
    }
    if (f.severity !== 'good') return f
    if (!rests) return { ...f, severity: 'note' }
    const on = rests.good.get(f.code)
    const doubted = [...(on?.assumed ?? []), ...(on?.refused ?? [])]
    return doubted.length === 0
      ? f
      : {
          ...f,
          severity: 'note',
          says: `${f.says} Not proved: it rests on ${sayFew(doubted)}, which nobody confirmed.`,
        }
  })
