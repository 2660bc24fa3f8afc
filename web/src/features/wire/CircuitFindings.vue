<script setup lang="ts">
import { computed } from 'vue'
import FindingRow from '../../ui/FindingRow.vue'
import type { WiringBench } from './use-wiring-bench.ts'

/** What the solved circuit tells; apart from the bench, so that a moving current repaints only this. */
const { bench, readonly } = defineProps<{ bench: WiringBench; readonly: boolean }>()
const statements = computed(() => bench.judgement.value.statements)
const states = computed(() => bench.judgement.value.states.map((s) => s.title).join('; '))
const held = computed(() => statements.value.filter((s) => s.held).length)
</script>

<template>
  <section class="stack" aria-label="What the circuit tells">
    <h2>What the circuit tells</h2>
    <FindingRow
      v-for="f in bench.findings.value"
      :key="`${f.code}${f.where.join()}`"
      :finding="f"
      :act="f.code === 'CULPRIT' && !readonly ? bench.culprit.value?.act : undefined"
      @fix="bench.putRight()"
    />
    <details v-if="statements.length > 0" class="proof">
      <summary>What has to hold: {{ held }} of {{ statements.length }} do</summary>
      <p class="small quiet">Solved at: {{ states }}.</p>
      <ul>
        <li v-for="s in statements" :key="`${s.part}${s.code}`" :class="{ not: !s.held }">
          <span class="mono">{{ s.held ? '+' : '−' }}</span>
          <span
            ><span class="visually-hidden">{{ s.held ? 'Holds:' : 'Does not hold:' }}</span> {{ s.says
            }}<template v-if="s.failed"
              >. At {{ s.failed.state }}{{ s.failed.instead ? `: ${s.failed.instead}` : '' }}</template
            ></span
          >
        </li>
      </ul>
    </details>
  </section>
</template>

<style scoped>
summary {
  min-height: var(--row);
  display: flex;
  align-items: center;
  cursor: pointer;
  font-weight: 600;
}
ul {
  list-style: none;
  padding: 0;
}
li {
  display: flex;
  gap: 10px;
  padding: 4px 0;
}
.not {
  color: var(--stop);
}
</style>
