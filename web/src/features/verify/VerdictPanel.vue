<script setup lang="ts">
import { sayNumber } from '@calm/core/quantity/round'
import type { PartState } from '@calm/core/loop/parts'
import { sayDecision } from '@calm/core/verify/decision'
import { verdictOf, type Judgement } from '@calm/core/verify/verdict'
import { computed } from 'vue'
import { VERDICT_STATE } from '../../ui/verdict.ts'
import StateMark from '../../ui/StateMark.vue'
import { vKeyScroll } from '../../ui/key-scroll.ts'

/** The verdict in a sentence, and where the error comes from. */
const {
  judgement,
  title,
  advice = [],
} = defineProps<{ judgement: Judgement; title: string; advice?: readonly string[] }>()
const verdict = computed(() => verdictOf(judgement))
/** Good is only what was read through; out is out at the first point. */
const state = computed((): PartState => {
  const told = verdict.value ? VERDICT_STATE[verdict.value] : 'look'
  return told === 'good' && judgement.missing.length > 0 ? 'look' : told
})
/** What rounds to nothing has no sign. */
function pct(v: number | null): string {
  const text = v === null ? '' : sayNumber(v, 3)
  return v !== null && v > 0 && text !== '0' ? `+${text}` : text
}
</script>

<template>
  <section class="panel" :aria-label="title">
    <StateMark class="mark" :state="state" :word="title" />
    <p class="sentence">{{ judgement.sentence }}</p>
    <p v-for="question in judgement.open.slice(1)" :key="question" class="advice">Also {{ question }}</p>
    <p v-if="verdict" class="decision">{{ sayDecision(judgement.decision) }}</p>
    <p v-for="line in advice" :key="line" class="advice">{{ line }}</p>
    <div v-key-scroll class="scroll" :aria-label="`${title}: parts of the error`">
      <table class="small">
        <thead>
          <tr>
            <th scope="col">Error, % of span</th>
            <th scope="col">largest</th>
            <th scope="col">zero</th>
            <th scope="col">span</th>
            <th scope="col">linearity</th>
            <th scope="col">hysteresis</th>
          </tr>
        </thead>
        <tbody class="mono">
          <tr v-for="p in judgement.parts" :key="p.kind">
            <th scope="row">{{ p.title }}</th>
            <td>{{ pct(p.largest_pct) }}</td>
            <td>{{ pct(p.components?.zero_pct ?? null) }}</td>
            <td>{{ pct(p.components?.span_pct ?? null) }}</td>
            <td>{{ pct(p.components?.terminalLinearity_pct ?? null) }}</td>
            <td>{{ pct(p.components?.hysteresis_pct ?? null) }}</td>
          </tr>
        </tbody>
      </table>
    </div>
  </section>
</template>

<style scoped>
.panel {
  border-top: var(--line) solid var(--hair);
  padding-top: 12px;
}
.mark {
  font-weight: 600;
}
.sentence {
  font-size: var(--size-l);
  margin: 4px 0 8px;
}
.decision {
  margin: 0 0 8px;
}
.advice {
  border-left: 3px solid var(--accent);
  padding: 2px 12px;
  margin: 0 0 8px;
}
table {
  border-collapse: collapse;
  width: 100%;
}
th,
td {
  text-align: right;
  padding: 5px 6px;
  border-bottom: var(--line) solid var(--hair);
}
th:first-child {
  text-align: left;
}
tbody th {
  font-family: var(--text);
  font-weight: 400;
}
</style>
