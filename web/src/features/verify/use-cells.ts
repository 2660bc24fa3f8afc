import { parseNumber } from '@calm/core/quantity/parse-number'
import { parseQuantity } from '@calm/core/quantity/parse-quantity'
import { printedUnit } from '@calm/core/quantity/units'
import { sayNumber } from '@calm/core/quantity/round'
import type { Column, Typed } from '@calm/core/record/kinds/reading-values'
import type { RowValues } from '@calm/core/record/run'
import type { PlanPoint } from '@calm/core/verify/plan'
import { computed, reactive, toValue, type MaybeRefOrGetter } from 'vue'
import { setting, type ReadingColumn } from './phases.ts'

type Rows = Readonly<Record<number, RowValues>>

type Read = { readonly value: Typed | null; readonly says: string | null }
function readCell(text: string, column: ReadingColumn): Read {
  const parsed = parseQuantity(text, column.unit)
  if (parsed.kind === 'refused') return { value: null, says: parsed.says }
  if (parsed.kind === 'empty') return { value: null, says: null }
  const value = setting({ value: parsed.value, typed: text.trim().slice(0, 40) }, column)
  return value
    ? { value, says: null }
    : {
        value: null,
        says: `${sayNumber(parsed.value, 6)} ${printedUnit(column.unit)} stands for no value of this sensor.`,
      }
}
/** What was typed with another unit is shown as the value used, and as typed below it. */
const otherUnit = (typed: Typed | undefined): boolean => {
  const parsed = typed ? parseNumber(typed.typed) : null
  return parsed?.kind === 'number' && parsed.rest !== ''
}

/**
 * The cells of a table of readings: what is typed is kept in the browser at every key, and a row goes into the record
 * when it is left.
 */
export function useCells(
  at: {
    readonly plan: MaybeRefOrGetter<readonly PlanPoint[]>
    readonly rows: MaybeRefOrGetter<Rows>
    readonly columns: MaybeRefOrGetter<readonly ReadingColumn[]>
    readonly readonly: MaybeRefOrGetter<boolean>
    readonly draftKey: string
  },
  record: (index: number, values: RowValues) => boolean,
) {
  const kept = localStorage.getItem(at.draftKey)
  const drafts = reactive<Record<string, string>>(
    kept === null ? {} : (JSON.parse(kept) as Record<string, string>),
  )
  const key = (index: number, column: Column) => `${index}/${column}`
  function keep(): void {
    if (Object.keys(drafts).length === 0) localStorage.removeItem(at.draftKey)
    else localStorage.setItem(at.draftKey, JSON.stringify(drafts))
  }
  const stored = (index: number, column: Column) => toValue(at.rows)[index]?.[column]

  function textOf(index: number, column: Column): string {
    const s = stored(index, column)
    const draft = drafts[key(index, column)]
    if (draft !== undefined || !s) return draft ?? ''
    if (standsFor(column)) return setOf(s)
    return otherUnit(s) ? sayNumber(s.value, 7) : s.typed
  }
  const standsFor = (column: Column) => toValue(at.columns).find((c) => c.id === column)?.standsFor
  /** The number that was set, without its unit: that stands in the heading. */
  const setOf = (s: Typed): string => s.typed.split(' ')[0] ?? s.typed
  /** What stands below a cell: what was typed in another unit, or what a setting stands for. */
  function below(index: number, column: Column): string | null {
    const s = stored(index, column)
    if (drafts[key(index, column)] !== undefined || !s) return null
    const meant = standsFor(column)
    if (meant) return `${sayNumber(s.value, 6)} ${printedUnit(meant.unit)}`
    return otherUnit(s) ? `typed ${s.typed}` : null
  }
  function saysOf(index: number, column: ReadingColumn): string | null {
    const draft = drafts[key(index, column.id)]
    return draft === undefined ? null : readCell(draft, column).says
  }
  const wrong = computed(() =>
    toValue(at.plan).flatMap((p) =>
      toValue(at.columns).flatMap((column) => {
        const says = saysOf(p.index, column)
        return says === null ? [] : [{ point: p.index, column, says }]
      }),
    ),
  )
  /** The first row in which something was not read yet; null when all is. */
  const now = computed(() =>
    toValue(at.readonly)
      ? null
      : (toValue(at.plan).find((p) => toValue(at.columns).some((c) => stored(p.index, c.id) === undefined)) ??
        null),
  )

  function type(index: number, column: Column, text: string): void {
    drafts[key(index, column)] = text
    keep()
  }
  /** Puts a row into the record; a wrong cell keeps its text and waits to be mended. */
  function commit(index: number): void {
    const mine = toValue(at.columns).filter((c) => drafts[key(index, c.id)] !== undefined)
    if (mine.length === 0 || toValue(at.readonly)) return
    const before = toValue(at.rows)[index]
    const values: RowValues = { ...before }
    const used: string[] = []
    for (const c of mine) {
      const read = readCell(drafts[key(index, c.id)] ?? '', c)
      if (read.says !== null) continue
      if (read.value) values[c.id] = read.value
      else delete values[c.id]
      used.push(key(index, c.id))
    }
    // A reading without its applied value means the suggested one only if a person says so.
    const isNew = JSON.stringify(values) !== JSON.stringify(before ?? {})
    // What was typed goes only once the record has it.
    if (isNew && !record(index, values)) return
    for (const k of used) delete drafts[k]
    keep()
  }
  function commitAll(): void {
    for (const p of toValue(at.plan)) commit(p.index)
  }
  return { textOf, below, saysOf, wrong, now, type, commit, commitAll }
}
export type Cells = ReturnType<typeof useCells>
