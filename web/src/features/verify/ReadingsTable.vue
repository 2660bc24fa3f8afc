<script setup lang="ts">
import { sayNumber } from '@calm/core/quantity/round'
import { printedUnit } from '@calm/core/quantity/units'
import type { Column } from '@calm/core/record/kinds/reading-values'
import type { RowValues } from '@calm/core/record/run'
import type { Finding } from '@calm/core/finding'
import type { PlanPoint } from '@calm/core/verify/plan'
import { readColumn } from '@calm/core/verify/read-readings'
import { sayPct, type Judgement } from '@calm/core/verify/verdict'
import { useMediaQuery } from '@vueuse/core'
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue'
import type { ReadingColumn } from './phases.ts'
import type { ReadingNote } from './reading-notes.ts'
import ReadingCell from './ReadingCell.vue'
import ReadingNotes from './ReadingNotes.vue'
import ReadNow from './ReadNow.vue'
import { useCells } from './use-cells.ts'
import { vKeyScroll } from '../../ui/key-scroll.ts'

/**
 * Readings typed one after the other: Enter goes to the next, a pasted column fills downwards. On a small screen the
 * row to read now stands first and large.
 */
const {
  plan,
  rows,
  record,
  columns,
  applied,
  judgement,
  doubts,
  notes,
  loop,
  mayConfirm,
  readonly,
  draftKey,
  label,
} = defineProps<{
  plan: readonly PlanPoint[]
  rows: Readonly<Record<number, RowValues>>
  /** Puts a row into the record; false where it could not be taken. */
  record: (index: number, values: RowValues) => boolean
  columns: readonly ReadingColumn[]
  /** What to apply at a level, as a suggestion. */
  applied: (level_pct: number) => number
  judgement: Judgement | null
  /** What is asked about a point: values that look like a slip. */
  doubts: Readonly<Record<number, readonly Finding[]>>
  /** What was noted at each reading. */
  notes: Readonly<Record<number, readonly ReadingNote[]>>
  /** The loop, for pictures of its notes. */
  loop: string
  /** Who works here may say that a doubted value was read so. */
  mayConfirm: boolean
  readonly: boolean
  draftKey: string
  label: string
}>()
const emit = defineEmits<{
  confirm: [index: number, columns: Column[]]
}>()
const columnsOf = (d: Finding): Column[] => columns.map((c) => c.id).filter((id) => d.where.includes(id))

const cells = useCells(
  { plan: () => plan, rows: () => rows, columns: () => columns, readonly: () => readonly, draftKey },
  (index, values) => record(index, values),
)
const { wrong, commitAll } = cells
defineExpose({ commitAll, wrong })
// Rows left unfinished by a closed lid go into the record as soon as the table is back.
watch(() => draftKey, commitAll, { immediate: true })

const root = useTemplateRef<HTMLElement>('root')
const told = ref<string | null>(null)
const narrow = useMediaQuery('(max-width: 900px)')
/** The row that stands above the table, large: in the table its values are only shown. */
const isApart = (p: PlanPoint) => narrow.value && cells.now.value?.index === p.index

/** Which cell an event came from: its row and column. */
function placeOf(event: Event): { row: number; column: number } | null {
  const cell = event.target instanceof HTMLElement ? event.target.dataset['cell'] : undefined
  if (cell === undefined) return null
  const [index, id] = cell.split('/')
  return {
    row: plan.findIndex((p) => p.index === Number(index)),
    column: columns.findIndex((c) => c.id === id),
  }
}
const cellAt = (row: number, column: number) =>
  root.value?.querySelector<HTMLInputElement>(`[data-cell="${plan[row]?.index}/${columns[column]?.id}"]`)

function onLeave(event: FocusEvent): void {
  const at = placeOf(event)
  const index = at && plan[at.row]?.index
  const to = event.relatedTarget instanceof HTMLElement ? event.relatedTarget : null
  if (index == null || to?.dataset['point'] === String(index)) return
  // A dialog that opens of itself may come in the middle of a number: half of one is no reading.
  if (to?.closest('[role="dialog"]')) return
  cells.commit(index)
}
async function move(row: number, column: number, by: 1 | -1): Promise<void> {
  const next = row * columns.length + column + by
  const [toRow, toColumn] = [Math.floor(next / columns.length), (next + columns.length) % columns.length]
  // The next row may be the one that stands apart only when this one is stored.
  if (toRow !== row) cells.commit(plan[row]?.index ?? 0)
  await nextTick()
  const cell = cellAt(toRow, toColumn)
  cell?.focus()
  cell?.select()
}
function onKey(event: KeyboardEvent): void {
  const at = placeOf(event)
  if (!at) return
  if (event.key === 'Enter') {
    event.preventDefault()
    void move(at.row, at.column, event.shiftKey ? -1 : 1)
  } else if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
    event.preventDefault()
    cellAt(at.row + (event.key === 'ArrowDown' ? 1 : -1), at.column)?.focus()
  }
}
function onPaste(event: ClipboardEvent): void {
  const at = placeOf(event)
  const text = event.clipboardData?.getData('text') ?? ''
  if (!at || !/[\n\t]/.test(text.trim()) || readonly) return
  event.preventDefault()
  const lines = text.replace(/\r/g, '').replace(/\n+$/, '').split('\n')
  const width = Math.max(...lines.map((l) => l.split('\t').length))
  for (let k = 0; k < width; k++) {
    const c = columns[at.column + k]
    if (!c) break
    const read = readColumn(lines.map((l) => l.split('\t')[k] ?? '').join('\n'))
    if (read.says !== null) {
      told.value = `Nothing was pasted. ${read.says}`
      return
    }
    read.values.forEach((v, i) => {
      const point = plan[at.row + i]
      if (point && v) cells.type(point.index, c.id, v.typed)
    })
  }
  commitAll()
  const over = lines.length - (plan.length - at.row)
  told.value = over > 0 ? `${over} lines more than the plan has points were left out.` : null
}

/** The standard gives another quantity than the loop's: what to set stands in a column of its own. */
const setsOther = computed(() => columns[0]?.standsFor !== undefined)
const errorAt = (index: number) => judgement?.points.find((p) => p.index === index) ?? null
</script>

<template>
  <div ref="root" class="stack" @input="told = null" @focusout="onLeave" @keydown="onKey" @paste="onPaste">
    <ReadNow v-if="narrow" :cells="cells" :plan="plan" :columns="columns" :applied="applied" :label="label" />
    <div v-key-scroll class="scroll">
      <table :aria-label="label">
        <thead>
          <tr>
            <th scope="col">
              Point<br v-if="setsOther" /><span v-if="setsOther"
                >set this, <span class="quiet mono">{{ printedUnit(columns[0]?.unit ?? '') }}</span></span
              >
            </th>
            <th v-for="c in columns" :key="c.id" scope="col">
              {{ c.title }}<br /><span class="quiet mono">{{ printedUnit(c.unit) }}</span>
            </th>
            <th scope="col" class="num">Error<br /><span class="quiet mono">% of span</span></th>
          </tr>
        </thead>
        <tbody>
          <template v-for="p in plan" :key="p.index">
            <tr :class="{ here: isApart(p) }">
              <th scope="row">
                <span class="mono">{{ p.index + 1 }}</span>
                <span class="small quiet"
                  >{{ p.direction === 'up' ? 'rising' : 'falling' }}<br v-if="!setsOther" />
                  {{ sayNumber(p.level_pct, 4) }} %<template v-if="setsOther"
                    ><br /><span class="mono set">{{ sayNumber(applied(p.level_pct), 6) }}</span></template
                  ></span
                >
              </th>
              <td v-for="c in columns" :key="c.id" :class="{ num: isApart(p) }">
                <span v-if="isApart(p)" class="mono">{{ cells.textOf(p.index, c.id) || '…' }}</span>
                <ReadingCell
                  v-else
                  :cells="cells"
                  :point="p"
                  :column="c"
                  :label="label"
                  :suggested="applied(p.level_pct)"
                  :readonly="readonly"
                />
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
            <tr v-if="(notes[p.index] ?? []).length > 0">
              <td :colspan="columns.length + 2" class="noted">
                <ReadingNotes :notes="notes[p.index] ?? []" :loop="loop" />
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
  padding: 0 2px;
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
.set {
  color: var(--accent);
  font-size: var(--size-m);
}
.here {
  background: var(--surface);
}
.num {
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
.noted {
  padding: 6px 8px;
  white-space: normal;
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
