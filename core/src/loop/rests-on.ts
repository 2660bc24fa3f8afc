import type { SetUpResult } from '../family/family.ts'
import { settingProblem, type Setting, type SettingValue } from '../quantity/setting.ts'
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
    case 'choice':
      return setting.options.map((o) => o.value).filter((x) => x !== value)
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
})

/**
 * What each result rests on: found by giving each doubtful entry another value and looking what changes, so that no
 * family can forget to say it.
 */
export function restsOn(facts: LoopFacts, result: SetUpResult): Rests {
  const { family } = facts
  const rows = new Map<string, RestsOn>()
  const sheet = new Map<string, RestsOn>()
  if (!family) return { rows, sheet, assumed: [] }
  const stopped = new Set(result.findings.filter((f) => f.severity === 'stop').flatMap((f) => f.where))
  // What cannot be is as if nobody had entered it: what would follow from the usual value is not known.
  const refused = family.settings.filter((s) => facts.entries[s.name] === 'refused')
  const values = {
    ...facts.values,
    ...Object.fromEntries(refused.map((s) => [s.name, s.standard])),
  }
  const before = linesOf((refused.length > 0 ? judgeSetUp({ ...facts, values }) : null) ?? result)
  const assumed: Setting[] = []
  for (const setting of family.settings) {
    const state = facts.entries[setting.name]
    const isStopped = stopped.has(setting.name)
    if (state === undefined || (state === 'typed' && !isStopped)) continue
    // Left empty is no assumption: nothing stands there.
    if (state === 'assumed' && isLeftEmpty(setting, facts.values[setting.name])) continue
    const value = values[setting.name] ?? setting.standard
    const doubt = (kept: Map<string, RestsOn>, key: string) => {
      const now = kept.get(key) ?? NOTHING_DOUBTED
      kept.set(key, {
        assumed: state === 'assumed' ? [...now.assumed, setting.title] : now.assumed,
        refused: state === 'refused' ? [...now.refused, setting.title] : now.refused,
        stopped: isStopped ? [...now.stopped, setting.title] : now.stopped,
      })
    }
    const changed = { rows: new Set<string>(), sheet: new Set<string>() }
    for (const other of nudged(setting, value)) {
      const trial = judgeSetUp({ ...facts, values: { ...values, [setting.name]: other } })
      if (!trial || trial.rows.length === 0) continue
      const after = linesOf(trial)
      for (const kind of ['rows', 'sheet'] as const)
        for (const [key, says] of before[kind]) if (after[kind].get(key) !== says) changed[kind].add(key)
      // One other value is enough of a number; a choice may change with one and not with another.
      if (setting.kind === 'number') break
    }
    for (const key of changed.rows) doubt(rows, key)
    for (const key of changed.sheet) doubt(sheet, key)
    if (state === 'assumed' && changed.rows.size + changed.sheet.size > 0) assumed.push(setting)
  }
  return { rows, sheet, assumed }
}
