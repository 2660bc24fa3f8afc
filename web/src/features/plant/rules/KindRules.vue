<script setup lang="ts">
import { FAMILIES } from '@calm/core/family/index'
import { ANY_KIND } from '@calm/core/loop/usual'
import { parseNumber } from '@calm/core/quantity/parse-number'
import { WATER_SAYS, WATERS } from '@calm/core/quantity/water-column'
import { DECISION_RULES, RULE_WORDS } from '@calm/core/verify/decision'
import { ref } from 'vue'
import { useRules, type Rules } from './use-rules.ts'

/** What is usually asked of each kind of meter: a new loop or a row of a list that leaves it out is read by it. */
const { rules, refused, decide, session } = useRules()
const KINDS = [
  { id: ANY_KIND, title: 'Any other kind' },
  ...FAMILIES.map(({ id, title }) => ({ id, title })).sort((a, b) => a.title.localeCompare(b.title)),
]
type OfKind = Rules['byKind'][string]
const NOTHING: OfKind = { tolerance_pct: null, interval_months: null, signatures: null }
const COLUMNS = [
  { part: 'tolerance_pct', title: 'Tolerance, % of span' },
  { part: 'interval_months', title: 'Interval, months' },
  { part: 'signatures', title: 'Signatures' },
] as const
const waters = [
  { value: null, title: 'not said: each unit tells it' },
  ...WATERS.map((value) => ({ value, title: WATER_SAYS[value] })),
]
const decisions = DECISION_RULES.map((value) => ({ value, title: RULE_WORDS[value] }))
/** What is wrong with a figure, at its place; what was typed stays there. */
const wrong = ref<Record<string, string>>({})
async function keep(kind: string, part: keyof OfKind, event: Event): Promise<void> {
  const at = `${kind} ${part}`
  const typed = event.target instanceof HTMLInputElement ? event.target.value : ''
  const read = parseNumber(typed)
  const others = Object.fromEntries(Object.entries(wrong.value).filter(([k]) => k !== at))
  if (read.kind === 'refused') {
    wrong.value = { ...others, [at]: read.says }
    return
  }
  const value = {
    ...NOTHING,
    ...rules.value?.byKind[kind],
    [part]: read.kind === 'empty' ? null : read.value,
  }
  const isEmpty = Object.values(value).every((v) => v === null)
  await decide({ byKind: { [kind]: isEmpty ? null : value } })
  wrong.value = refused.value === null ? others : { ...others, [at]: refused.value }
}
</script>

<template>
  <section v-if="rules" class="stack" aria-label="What is usually asked">
    <h2>What is usually asked</h2>
    <p class="quiet">
      A new loop, or a row of a list, that leaves it out is read by this; loops that are here stay as they
      are.
    </p>
    <div class="scroll">
      <table>
        <thead>
          <tr>
            <th scope="col">Kind of meter</th>
            <th v-for="c in COLUMNS" :key="c.part" scope="col">{{ c.title }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="k in KINDS" :key="k.id">
            <th scope="row">{{ k.title }}</th>
            <td v-for="c in COLUMNS" :key="c.part">
              <v-text-field
                :model-value="rules.byKind[k.id]?.[c.part] ?? ''"
                :aria-label="`${c.title} of ${k.title}`"
                :readonly="!session.isAdministrator"
                :error-messages="wrong[`${k.id} ${c.part}`] ?? []"
                :hide-details="!wrong[`${k.id} ${c.part}`]"
                inputmode="decimal"
                class="mono-field cell"
                @change="keep(k.id, c.part, $event)"
              />
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <div class="stack">
      <v-select
        label="Decision rule where nothing else is agreed"
        :items="decisions"
        :model-value="rules.decision"
        :readonly="!session.isAdministrator"
        hide-details
        @update:model-value="decide({ decision: $event })"
      />
      <v-select
        label="Water columns without a temperature are counted with"
        :items="waters"
        :model-value="rules.water"
        :readonly="!session.mayDecide"
        hide-details
        @update:model-value="decide({ water: $event })"
      />
    </div>
  </section>
</template>

<style scoped>
.scroll {
  overflow-x: auto;
}
table {
  border-collapse: collapse;
  width: 100%;
}
th {
  text-align: left;
  font-weight: 400;
  padding: 2px 8px 2px 0;
}
thead th {
  color: var(--quiet);
}
td {
  padding: 2px 8px 2px 0;
}
.cell {
  min-width: 92px;
}
</style>
