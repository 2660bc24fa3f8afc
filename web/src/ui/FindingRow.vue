<script setup lang="ts">
import type { Finding } from '@calm/core/finding'
import { sayNumber } from '@calm/core/quantity/round'
import { computed } from 'vue'
import StateMark from './StateMark.vue'

/** One judgement: shape, sentence, the numbers behind it, and the fix as a text button. */
const { finding, act = undefined } = defineProps<{
  finding: Finding
  /** What mends it, where that is not a change of fields. */
  act?: string | undefined
}>()
const emit = defineEmits<{ fix: [finding: Finding] }>()
const STATE = { stop: 'stop', warn: 'look', note: 'notYet', good: 'good' } as const
/** A solver’s residue is no reading. */
const NOTHING = 5e-4
const WORD = { stop: 'Stop', warn: 'Look', note: 'Note', good: 'Good' } as const
const evidence = computed(() =>
  (finding.evidence ?? []).map((e) => ({
    label: e.label,
    value: `${typeof e.value === 'number' ? sayNumber(Math.abs(e.value) < NOTHING ? 0 : e.value, 4) : e.value}${e.unit ? ` ${e.unit}` : ''}`,
  })),
)
</script>

<template>
  <div class="finding" :class="finding.severity">
    <StateMark :state="STATE[finding.severity]" :word="WORD[finding.severity]" />
    <div class="body">
      <p>{{ finding.says }}</p>
      <dl v-if="evidence.length > 0" class="mono small">
        <div v-for="e in evidence" :key="e.label">
          <dt class="quiet">{{ e.label }}</dt>
          <dd :class="{ words: e.value.length > 24 }">{{ e.value }}</dd>
        </div>
      </dl>
      <p v-if="finding.rule" class="quiet small">Rule: {{ finding.rule }}</p>
      <v-btn v-if="act ?? finding.fix" variant="text" class="fix" @click="emit('fix', finding)">{{
        act ?? finding.fix?.label
      }}</v-btn>
    </div>
  </div>
</template>

<style scoped>
.finding {
  display: grid;
  grid-template-columns: 76px minmax(0, 1fr);
  gap: 8px;
  align-items: start;
  padding: 10px 12px;
  border-radius: var(--corner);
  border: var(--line) solid var(--hair);
}
.stop {
  background: var(--stop-surface);
}
.warn {
  background: var(--look-surface);
}
dl {
  margin: 4px 0;
}
/* A long name gives way: its number goes to the next line, whole. */
dl div {
  display: flex;
  flex-wrap: wrap;
  gap: 0 12px;
}
dd {
  white-space: nowrap;
}
/* A sentence is no number. */
dd.words {
  white-space: normal;
  overflow-wrap: anywhere;
}
.fix {
  color: var(--accent);
  text-decoration: underline;
  padding: 0;
  white-space: normal;
  height: auto;
  min-height: var(--row);
  text-align: left;
}
</style>
