<script setup lang="ts">
import type { Family, SetUpResult, SheetLine } from '@calm/core/family/family'
import type { Rests } from '@calm/core/loop/rests-on'
import { doubtOf, sayDoubt, STORE, toldValue, typedFor } from '@calm/core/loop/sheet-told'
import { loops, urlOf } from '@calm/contract/api/addresses'
import { compareReadBack, type ReadBack } from '@calm/core/loop/read-back'
import { sheetUnitsOf, unitChoices } from '@calm/core/loop/sheet-units'
import { printedUnit } from '@calm/core/quantity/units'
import { useLocalStorage } from '@vueuse/core'
import { mdiArrowDown, mdiArrowUp, mdiDragVertical } from '@mdi/js'
import { computed, shallowRef, useTemplateRef } from 'vue'
import { call, sayProblem } from '../../api/call.ts'
import { plantTime } from '../../api/clock.ts'
import { useSession } from '../../api/session-store.ts'
import StateMark from '../../ui/StateMark.vue'
import { sayInstant } from '../../ui/dates.ts'
import { saveCsv } from '../../ui/save-csv.ts'
import { saveFile } from '../../ui/save-file.ts'
import { vKeyScroll } from '../../ui/key-scroll.ts'
import { useSheetOrder } from './use-sheet-order.ts'

/** The values in the order they are keyed in, the store step last; and what to bring. */
const {
  family,
  result,
  rests,
  own,
  units,
  loopUnit,
  device,
  asTyped,
  loopId,
  tag,
  service,
  saved,
  readonly = false,
} = defineProps<{
  loopId: string
  readonly?: boolean
  family: Family
  result: SetUpResult
  /** The sheet in the units of its set-up, and those in which its device asks instead. */
  own: readonly SheetLine[]
  units: Readonly<Record<string, string>>
  /** Of the loop’s range: the sheet follows it until somebody says otherwise. */
  loopUnit: string | null
  /** How the plant calls the device; empty where all of this kind ask alike. */
  device: string
  /** What people typed, by the paths of the fields. */
  asTyped: Readonly<Record<string, string>>
  /** What each line rests on; null where nothing is known of it. */
  rests: Rests | null
  tag: string
  service: string
  /** The revision that it is of, with its day and who saved it; null while changes are not saved. */
  saved: { readonly revision: number; readonly at: string; readonly by: string } | null
}>()
const emit = defineEmits<{ units: [chosen: Record<string, string>]; device: [name: string] }>()
const body = useTemplateRef<HTMLElement>('body')
const {
  lines,
  devices,
  ordering,
  drawn,
  begin,
  end,
  keep,
  move,
  says: orderSays,
} = useSheetOrder(
  () => result.sheet,
  () => family.id,
  () => device,
  body,
)
const choices = computed(() => unitChoices(own))
const said = computed(() => sheetUnitsOf(loopUnit, units))
function choose(unit: string, to: string): void {
  emit('units', { ...units, [unit]: to })
}
/** What the device shows, as this person types it; kept in the browser until it is recorded under their name. */
const read = useLocalStorage<Record<string, string>>(
  `calm-read-back/${useSession().person?.id ?? ''}/${loopId}`,
  {},
  { writeDefaults: false },
)
const typed = computed(() => lines.value.filter((l) => (read.value[l.says] ?? '').trim() !== ''))
const toldOf = (l: SheetLine): ReadBack | null => {
  const text = (read.value[l.says] ?? '').trim()
  return text === '' ? null : compareReadBack(l, text)
}
const differing = computed(() => typed.value.filter((l) => toldOf(l) === 'differs').length)
const says = shallowRef<string | null>(null)
const busy = shallowRef(false)
/** One identifier a record: sent twice it stands there once. */
let id = crypto.randomUUID()
async function record(): Promise<void> {
  if (!saved || busy.value) return
  busy.value = true
  try {
    await call(
      loops.keepReadBack,
      { loop: loopId },
      {
        id,
        at: plantTime(),
        revision: saved.revision,
        lines: typed.value.map((l) => ({ says: l.says, read: read.value[l.says] ?? '' })),
      },
    )
    id = crypto.randomUUID()
    says.value = `${typed.value.length} of ${lines.value.length} lines are in the record.`
    read.value = {}
  } catch (error) {
    says.value = sayProblem(error)
  } finally {
    busy.value = false
  }
}
const printedAt = sayInstant(new Date().toISOString())
const doubts = (l: SheetLine) => doubtOf(rests, l)
const stops = computed(() => result.findings.filter((f) => f.severity === 'stop'))
function csv(): void {
  const rows = [
    ['tag', 'step', 'part', 'setting', 'value', 'as typed', 'take care', 'not a fact'],
    ...lines.value.map((l, i) => [
      tag,
      String(i + 1),
      l.part ?? '',
      l.says,
      toldValue(l, doubts(l)),
      typedFor(l, asTyped) ?? '',
      l.trap ?? '',
      sayDoubt(doubts(l)),
    ]),
    [tag, String(lines.value.length + 1), '', STORE, '', '', '', ''],
  ]
  void saveCsv(`${tag}-settings.csv`, rows)
}
/** The same for a program: what each value rests on goes with it. */
function json(): void {
  const sheet = {
    tag,
    family: family.id,
    revision: saved?.revision ?? null,
    lines: lines.value.map((l) => ({
      part: l.part ?? null,
      setting: l.says,
      value: toldValue(l, doubts(l)),
      asTyped: typedFor(l, asTyped),
      takeCare: l.trap ?? null,
      ...doubts(l),
    })),
    stops: stops.value.map((f) => f.says),
  }
  saveFile(`${tag}-settings.json`, 'application/json', `${JSON.stringify(sheet, null, 2)}\n`)
}
const print = () => window.print()
</script>

<template>
  <section class="stack" aria-label="Settings sheet">
    <div class="row">
      <h2>
        Settings sheet of <span class="mono">{{ tag }}</span>
      </h2>
      <v-btn class="no-print" @click="csv">Settings (CSV)</v-btn>
      <v-btn class="no-print" variant="text" @click="json">JSON</v-btn>
      <v-btn v-if="saved" class="no-print" variant="text" :href="urlOf(loops.settingsSheet, { loop: loopId })"
        >PDF</v-btn
      >
      <v-btn class="no-print" variant="text" @click="print">Print</v-btn>
      <v-btn v-if="!readonly && ordering === null" class="no-print" variant="text" @click="begin"
        >Change the order</v-btn
      >
    </div>
    <div
      v-if="choices.length > 0 && !readonly"
      class="row no-print units"
      role="group"
      aria-label="Units of the device"
    >
      <span class="quiet">The device asks in</span>
      <v-select
        v-for="c in choices"
        :key="c.unit"
        :model-value="said[c.unit] ?? c.unit"
        :items="[c.unit, ...c.others].map((u) => ({ value: u, title: printedUnit(u) }))"
        :aria-label="`Unit instead of ${printedUnit(c.unit)}`"
        hide-details
        @update:model-value="choose(c.unit, $event)"
      />
    </div>
    <div v-if="!readonly" class="row no-print device">
      <v-text-field
        :model-value="device"
        label="Kind of device"
        messages="where several of one kind of meter ask in different orders"
        list="devices-of-plant"
        maxlength="40"
        autocomplete="off"
        @update:model-value="emit('device', $event.trim())"
      />
      <datalist id="devices-of-plant">
        <option v-for="d in devices" :key="d" :value="d" />
      </datalist>
    </div>
    <div v-if="ordering !== null" class="row no-print ordering" role="status">
      <span>Put the lines as the device asks for them: drag them, or move them by their arrows.</span>
      <v-btn color="primary" variant="flat" @click="keep(false)">{{
        device === '' ? 'Keep it for this plant' : `Keep it for ${device}`
      }}</v-btn>
      <v-btn variant="outlined" @click="keep(true)">As it was first</v-btn>
      <v-btn variant="text" @click="end">Leave it</v-btn>
    </div>
    <p>
      {{ service }}<span v-if="device !== ''" class="print-only">, {{ device }}</span>
    </p>
    <p v-if="saved" class="small quiet">
      Revision {{ saved.revision }}, {{ sayInstant(saved.at) }}, {{ saved.by }}. Printed {{ printedAt }}.
    </p>
    <p v-else class="not-saved">
      Not saved: these values are on no revision. Save before you take the sheet along.
    </p>
    <p v-for="f in stops" :key="f.code" class="row"><StateMark state="stop" word="Stop" /> {{ f.says }}</p>
    <p v-if="orderSays" class="not-saved" role="alert">{{ orderSays }}</p>
    <div v-key-scroll class="scroll" aria-label="Settings, scrolls sideways">
      <table class="sheet">
        <thead>
          <tr>
            <th scope="col">Step</th>
            <th scope="col" class="setting">Setting</th>
            <th scope="col" class="value">Value</th>
            <th scope="col" class="blank keyed">Keyed in</th>
            <th scope="col" class="blank">Read back</th>
          </tr>
        </thead>
        <tbody ref="body" :key="drawn">
          <template v-for="(l, i) in lines" :key="l.says">
            <tr v-if="ordering === null && l.part && l.part !== lines[i - 1]?.part" class="heading">
              <th scope="rowgroup" colspan="5">{{ l.part }}</th>
            </tr>
            <tr class="line">
              <td class="mono">
                {{ i + 1 }}
                <span v-if="ordering !== null" class="moves">
                  <v-icon class="grip" :icon="mdiDragVertical" aria-hidden="true" />
                  <v-btn
                    :icon="mdiArrowUp"
                    variant="text"
                    :disabled="i === 0"
                    :aria-label="`${l.says}: earlier`"
                    @click="move(i, i - 1)"
                  />
                  <v-btn
                    :icon="mdiArrowDown"
                    variant="text"
                    :disabled="i === lines.length - 1"
                    :aria-label="`${l.says}: later`"
                    @click="move(i, i + 1)"
                  />
                </span>
              </td>
              <th scope="row">
                {{ l.says }}
                <div v-if="l.trap" class="small quiet">{{ l.trap }}</div>
              </th>
              <td class="value">
                <span class="mono" :class="{ assumed: doubts(l).assumed.length > 0 }">{{
                  toldValue(l, doubts(l))
                }}</span>
                <div v-if="typedFor(l, asTyped)" class="small quiet">typed {{ typedFor(l, asTyped) }}</div>
                <div v-if="sayDoubt(doubts(l))" class="small doubt">{{ sayDoubt(doubts(l)) }}</div>
              </td>
              <td class="blank keyed"></td>
              <td class="blank">
                <div v-if="saved && !readonly" class="read no-print">
                  <input
                    v-model="read[l.says]"
                    class="mono"
                    autocomplete="off"
                    maxlength="80"
                    :aria-label="`Read back: ${l.says}`"
                    :aria-invalid="toldOf(l) === 'differs'"
                  />
                  <StateMark v-if="toldOf(l) === 'same'" state="good" word="same" />
                  <StateMark v-else-if="toldOf(l) === 'differs'" state="stop" word="differs" />
                </div>
              </td>
            </tr>
          </template>
          <tr>
            <td class="mono">{{ lines.length + 1 }}</td>
            <th scope="row" colspan="2">{{ STORE }}</th>
            <td class="blank keyed"></td>
            <td class="blank"></td>
          </tr>
        </tbody>
      </table>
    </div>
    <div v-if="saved && !readonly" class="row no-print">
      <span>
        {{ typed.length }} of {{ lines.length }} read back{{
          differing > 0 ? `, ${differing} ${differing === 1 ? 'differs' : 'differ'}` : ''
        }}
      </span>
      <v-btn variant="outlined" :loading="busy" :disabled="typed.length === 0" @click="record"
        >Record what was read back</v-btn
      >
      <span v-if="says" role="status">{{ says }}</span>
    </div>
    <p class="print-only">
      Keyed in by: ____________________ &nbsp; Read back by: ____________________ &nbsp; Date: ____________
    </p>
    <h3>To bring</h3>
    <ul>
      <li v-for="k in family.needs.kit" :key="k">{{ k }}</li>
    </ul>
    <h3>Cautions</h3>
    <ul>
      <li v-for="c in family.needs.cautions" :key="c">{{ c }}</li>
      <li>Local code, the site’s permits and the device’s manual come first.</li>
    </ul>
  </section>
</template>

<style scoped>
.sheet {
  border-collapse: collapse;
  width: 100%;
  max-width: 900px;
}
.sheet th,
.sheet td {
  text-align: left;
  font-weight: 400;
  padding: 8px;
  border-bottom: var(--line) solid var(--hair);
}
.units > * {
  flex: 0 1 auto;
}
.device > * {
  flex: 0 1 420px;
}
.ordering {
  padding: 8px 12px;
  border: var(--line) dashed var(--accent);
  border-radius: var(--corner);
}
.moves {
  display: inline-flex;
  align-items: center;
}
.grip {
  min-width: 48px;
  min-height: 48px;
  cursor: grab;
  touch-action: none;
}
.sheet .heading th {
  font-weight: 600;
  padding-top: 16px;
}
.sheet .setting {
  width: 42%;
}
.sheet .value {
  text-align: right;
}
.sheet .mono {
  white-space: nowrap;
}
.sheet .assumed {
  color: transparent;
  -webkit-text-stroke: 0.7px var(--ink);
}
.read {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 8px;
  align-items: center;
}
.read input {
  width: 14ch;
  height: var(--row);
  border: 0;
  border-bottom: var(--line) solid var(--quiet);
  background: transparent;
  color: var(--copper);
  padding: 0 4px;
}
.read input[aria-invalid='true'] {
  border-bottom-color: var(--stop);
}
.doubt {
  color: var(--look);
}
.sheet .blank {
  min-width: 90px;
  border-left: var(--line) solid var(--hair);
}
/* On a phone the pen’s column gives its room to what is read back. */
@media screen and (max-width: 900px) {
  .sheet .keyed {
    display: none;
  }
}
.not-saved {
  padding: 8px 12px;
  background: var(--look-surface);
  border-radius: var(--corner);
}
</style>
