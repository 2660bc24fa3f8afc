<script setup lang="ts">
import { parseNumber } from '@calm/core/quantity/parse-number'
import { parseQuantity } from '@calm/core/quantity/parse-quantity'
import { sayNumber } from '@calm/core/quantity/round'
import { printedUnit } from '@calm/core/quantity/units'
import type { Column, Typed } from '@calm/core/record/kinds/reading-values'
import type { RowValues } from '@calm/core/record/run'
import type { Finding } from '@calm/core/finding'
import type { PlanPoint } from '@calm/core/verify/plan'
import { readColumn } from '@calm/core/verify/read-readings'
import { sayPct, type Judgement } from '@calm/core/verify/verdict'
import { computed, nextTick, reactive, ref, useTemplateRef, watch } from 'vue'

/**
 * Readings typed one after the other: Enter goes to the next, a pasted column fills downwards. What is
 * typed is kept in the browser at every key; a row goes into the record when it is left.
 */
const { plan, rows, columns, applied, judgement, doubts, mayConfirm, readonly, draftKey, label } =
  defineProps<{
    plan: readonly PlanPoint[]
    rows: Readonly<Record<number, RowValues>>
    columns: readonly { readonly id: Column; readonly title: string; readonly unit: string }[]
    /** What to apply at a level, as a suggestion. */
    applied: (level_pct: number) => number
    judgement: Judgement | null
    /** What is asked about a point: values that look like a slip. */
    doubts: Readonly<Record<number, readonly Finding[]>>
    /** Who works here may say that a doubted value was read so. */
    mayConfirm: boolean
    readonly: boolean
    draftKey: string
    label: string
  }>()
const emit = defineEmits<{
  row: [index: number, values: RowValues]
  confirm: [index: number, columns: Column[]]
}>()
const columnsOf = (d: Finding): Column[] => columns.map((c) => c.id).filter((id) => d.where.includes(id))

type Draft = Record<string, string>
const kept = localStorage.getItem(draftKey)
const drafts = reactive<Draft>(kept === null ? {} : (JSON.parse(kept) as Draft))
const cells = useTemplateRef<HTMLInputElement[]>('cells')
const told = ref<string | null>(null)

const key = (index: number, column: Column) => `${index}/${column}`
function keep(): void {
  if (Object.keys(drafts).length === 0) localStorage.removeItem(draftKey)
  else localStorage.setItem(draftKey, JSON.stringify(drafts))
}

function readCell(text: string, unit: string): { value: Typed | null; says: string | null } {
  const parsed = parseQuantity(text, unit)
  if (parsed.kind === 'refused') return { value: null, says: parsed.says }
  const value = parsed.kind === 'empty' ? null : { value: parsed.value, typed: text.trim().slice(0, 40) }
  return { value, says: null }
}

/** What was typed with another unit is shown as the value used, and as typed below it. */
const otherUnit = (typed: Typed | undefined): boolean => {
  const parsed = typed ? parseNumber(typed.typed) : null
  return parsed?.kind === 'number' && parsed.rest !== ''
}
function textOf(index: number, column: Column): string {
  const stored = rows[index]?.[column]
  return (
    drafts[key(index, column)] ??
    (stored && otherUnit(stored) ? sayNumber(stored.value, 7) : (stored?.typed ?? ''))
  )
}
const asTyped = (index: number, column: Column): string | null => {
  const stored = rows[index]?.[column]
  return drafts[key(index, column)] === undefined && stored && otherUnit(stored) ? stored.typed : null
}
const saysOf = (index: number, column: Column, unit: string): string | null => {
  const draft = drafts[key(index, column)]
  return draft === undefined ? null : readCell(draft, unit).says
}
const wrong = computed(() =>
  plan.flatMap((p) =>
    columns.flatMap((c) =>
      saysOf(p.index, c.id, c.unit)
        ? [{ point: p.index, column: c, says: saysOf(p.index, c.id, c.unit) ?? '' }]
        : [],
    ),
  ),
)

function onInput(index: number, column: Column, event: Event): void {
  drafts[key(index, column)] = (event.target as HTMLInputElement).value
  told.value = null
  keep()
}

/** Puts a row into the record; a wrong cell keeps its text and waits to be mended. */
function commit(index: number): void {
  const mine = columns.filter((c) => drafts[key(index, c.id)] !== undefined)
  if (mine.length === 0 || readonly) return
  const values: RowValues = { ...rows[index] }
  for (const c of mine) {
    const read = readCell(drafts[key(index, c.id)] ?? '', c.unit)
    if (read.says !== null) continue
    if (read.value) values[c.id] = read.value
    else delete values[c.id]
    delete drafts[key(index, c.id)]
  }
  keep()
  // A reading without its applied value means the suggested one only if a person says so.
  if (JSON.stringify(values) !== JSON.stringify(rows[index] ?? {})) emit('row', index, values)
}

function commitAll(): void {
  for (const p of plan) commit(p.index)
}
defineExpose({ commitAll, wrong })
// Rows left unfinished by a closed lid go into the record as soon as the table is back.
watch(() => draftKey, commitAll, { immediate: true })

function leaveRow(index: number, event: FocusEvent): void {
  const to = event.relatedTarget
  if (to instanceof HTMLElement && to.dataset['point'] === String(index)) return
  commit(index)
}

const cellAt = (row: number, column: number) => cells.value?.[row * columns.length + column]
function move(row: number, column: number, by: 1 | -1): void {
  const next = row * columns.length + column + by
  const cell = cells.value?.[next]
  if (cell) {
    cell.focus()
    void nextTick(() => cell.select())
  } else commit(plan[row]?.index ?? 0)
}
function onKey(row: number, column: number, event: KeyboardEvent): void {
  if (event.key === 'Enter') {
    event.preventDefault()
    move(row, column, event.shiftKey ? -1 : 1)
  } else if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
    event.preventDefault()
    cellAt(row + (event.key === 'ArrowDown' ? 1 : -1), column)?.focus()
  }
}

function onPaste(row: number, column: number, event: ClipboardEvent): void {
  const text = event.clipboardData?.getData('text') ?? ''
  if (!/[\n\t]/.test(text.trim()) || readonly) return
  event.preventDefault()
  const lines = text.replace(/\r/g, '').replace(/\n+$/, '').split('\n')
  const width = Math.max(...lines.map((l) => l.split('\t').length))
  for (let k = 0; k < width; k++) {
    const c = columns[column + k]
    if (!c) break
    const read = readColumn(lines.map((l) => l.split('\t')[k] ?? '').join('\n'))
    if (read.says !== null) {
      told.value = `Nothing was pasted. ${read.says}`
      return
    }
    read.values.forEach((v, i) => {
      const point = plan[row + i]
      if (point && v) drafts[key(point.index, c.id)] = v.typed
    })
  }
  keep()
  commitAll()
  const over = lines.length - (plan.length - row)
  told.value = over > 0 ? `${over} lines more than the plan has points were left out.` : null
}

const errorAt = (index: number) => judgement?.points.find((p) => p.index === index) ?? null
const suggestion = (p: PlanPoint, column: Column) =>
  column === 'applied' ? sayNumber(applied(p.level_pct), 6) : ''
</script>

<template>
  <div>
    <div class="scroll">
      <table :aria-label="label">
        <thead>
          <tr>
            <th scope="col">Point</th>
            <th v-for="c in columns" :key="c.id" scope="col">
              {{ c.title }}<br /><span class="quiet mono">{{ printedUnit(c.unit) }}</span>
            </th>
            <th scope="col" class="num">Error<br /><span class="quiet mono">% of span</span></th>
          </tr>
        </thead>
        <tbody>
          <template v-for="(p, r) in plan" :key="p.index">
            <tr>
              <th scope="row">
                <span class="mono">{{ p.index + 1 }}</span>
                <span class="small quiet"
                  >{{ p.direction === 'up' ? 'rising' : 'falling' }}<br />{{
                    sayNumber(p.level_pct, 4)
                  }}
                  %</span
                >
              </th>
              <td v-for="(c, k) in columns" :key="c.id">
                <input
                  ref="cells"
                  class="mono"
                  :class="{ applied: c.id === 'applied' }"
                  inputmode="decimal"
                  autocomplete="off"
                  :value="textOf(p.index, c.id)"
                  :placeholder="suggestion(p, c.id)"
                  :readonly="readonly"
                  :data-point="p.index"
                  :aria-label="`${label}, point ${p.index + 1} ${p.direction === 'up' ? 'rising' : 'falling'}, ${c.title} in ${printedUnit(c.unit)}`"
                  :aria-invalid="saysOf(p.index, c.id, c.unit) !== null"
                  @input="onInput(p.index, c.id, $event)"
                  @focusout="leaveRow(p.index, $event)"
                  @keydown="onKey(r, k, $event)"
                  @paste="onPaste(r, k, $event)"
                />
                <div v-if="asTyped(p.index, c.id)" class="small quiet typed">
                  typed {{ asTyped(p.index, c.id) }}
                </div>
              </td>
              <td class="num mono" :class="{ out: errorAt(p.index)?.withinTolerance === false }">
                {{ sayPct(errorAt(p.index)?.loop_pct ?? null) }}
                <span v-if="errorAt(p.index)?.withinTolerance === false" class="out-word">out</span>
              </td>
            </tr>
            <tr v-for="d in doubts[p.index] ?? []" :key="`${p.index}/${d.says}`">
              <td :colspan="columns.length + 2" class="doubt" role="status">
                <div class="ask">
                  <span>{{ d.says }}</span>
                  <v-btn
                    v-if="mayConfirm"
                    variant="text"
                    :aria-label="`Point ${p.index + 1}: it was read so`"
                    @click="emit('confirm', p.index, columnsOf(d))"
                    >It was read so</v-btn
                  >
                </div>
              </td>
            </tr>
            <tr
              v-for="w in wrong.filter((x) => x.point === p.index)"
              :key="`${p.index}/${w.column.id}`"
              class="wrong-row"
            >
              <td :colspan="columns.length + 2" class="wrong" role="alert">
                Point {{ w.point + 1 }}, {{ w.column.title }}: {{ w.says }}
              </td>
            </tr>
          </template>
        </tbody>
      </table>
    </div>
    <p v-if="told" class="told" role="status">{{ told }}</p>
  </div>
</template>

<style scoped>
table {
  border-collapse: collapse;
  width: 100%;
}
th,
td {
  text-align: left;
  padding: 0 4px;
  border-bottom: var(--line) solid var(--hair);
  white-space: nowrap;
}
thead th:nth-child(n + 2) {
  text-align: right;
  padding-right: 8px;
}
thead th {
  font-size: var(--size-s);
  padding-bottom: 6px;
  vertical-align: bottom;
}
tbody th {
  font-weight: 400;
  line-height: 1.2;
}
tbody th > span {
  display: inline-block;
  vertical-align: middle;
}
tbody th .mono {
  min-width: 1.8em;
}
input {
  width: 100%;
  min-width: 64px;
  height: var(--row);
  border: 0;
  border-radius: 0;
  background: transparent;
  color: var(--copper);
  font-size: var(--size-m);
  text-align: right;
  padding: 0 6px;
}
input.applied {
  color: var(--accent);
}
input::placeholder {
  color: var(--quiet);
  opacity: 1;
  font-style: italic;
}
input:not([readonly]) {
  box-shadow: inset 0 calc(-1 * var(--line)) 0 var(--quiet);
}
input[aria-invalid='true'] {
  color: var(--stop);
  box-shadow: inset 0 -2px 0 var(--stop);
}
.num,
.typed {
  text-align: right;
}
.out {
  color: var(--stop);
  font-weight: 600;
}
.out-word {
  font-size: var(--size-s);
  display: block;
  line-height: 1;
}
.doubt {
  color: var(--look);
  background: var(--look-surface);
  padding: 6px 8px;
  white-space: normal;
}
/* Only a row of the table keeps its cells a table's: what stands in it may flow. */
.ask {
  display: flex;
  align-items: center;
  gap: 12px;
}
.ask > span {
  flex: 1;
}
.wrong {
  color: var(--stop);
  padding: 6px 8px;
  white-space: normal;
}
.told {
  padding-top: 6px;
}
</style>
