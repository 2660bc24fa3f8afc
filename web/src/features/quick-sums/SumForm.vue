<script setup lang="ts">
import type { Calculation } from '@calm/core/calculation'
import { answerInSentences } from '@calm/core/sums/say-answer'
import { mdiContentCopy, mdiNotePlusOutline, mdiPrinter } from '@mdi/js'
import { computed, defineAsyncComponent, ref, watch } from 'vue'
import { useSession } from '../../api/session-store.ts'
import SumField from './SumField.vue'
import { useCalculation } from './use-calculation.ts'
import { vKeyScroll } from '../../ui/key-scroll.ts'

const PutOnLoop = defineAsyncComponent(() => import('./PutOnLoop.vue'))

/** One calculation: its inputs, its answer in words, and where the formula comes from. */
const { calculation } = defineProps<{ calculation: Calculation }>()
const sum = useCalculation(calculation)
const session = useSession()
const copied = ref<string | null>(null)
const putting = ref(false)
const keptOn = ref<string | null>(null)
// What was kept is what was on the screen then.
watch(sum.answer, () => (keptOn.value = null))
const sentences = computed(() => (sum.answer.value ? answerInSentences(sum.answer.value) : []))
async function copy(): Promise<void> {
  const text = [
    calculation.title,
    ...sum.inWords(),
    ...sentences.value,
    `Source: ${calculation.source}`,
  ].join('\n')
  try {
    await navigator.clipboard.writeText(text)
    copied.value = 'Copied.'
  } catch {
    copied.value = 'The browser does not let this page copy. Mark the answer and copy it by hand.'
  }
}
const print = () => window.print()
/** Numbers stand in a column at the right; a sentence takes the line for itself. */
const isMeasured = (value: string) => /^[−\-+]?\d/.test(value) || value.length < 16
</script>

<template>
  <div class="sum-form">
    <form class="stack" :aria-label="calculation.title" novalidate @submit.prevent>
      <h2>{{ calculation.title }}</h2>
      <SumField
        v-for="f in sum.fields"
        :key="f.name"
        v-model="sum.typed.value[f.name]!"
        :field="f"
        :wrong="sum.wrong.value"
        :at="f.name"
      />
    </form>
    <section class="stack answer" aria-label="Answer">
      <div aria-live="polite" class="stack">
        <template v-if="sum.answer.value">
          <dl>
            <template v-for="l in sum.answer.value.lines" :key="l.title">
              <dt>{{ l.title }}</dt>
              <dd v-if="isMeasured(l.value)">
                <span class="mono">{{ l.value }}</span> <span class="quiet">{{ l.unit }}</span>
              </dd>
              <dd v-else class="words">{{ l.value }}</dd>
            </template>
          </dl>
          <div
            v-for="(t, i) in sum.answer.value.tables"
            :key="i"
            v-key-scroll
            class="scroll"
            aria-label="Answer, scrolls sideways"
          >
            <table>
              <thead>
                <tr>
                  <th v-for="c in t.columns" :key="c.title" scope="col">
                    {{ c.title }} <span class="quiet">{{ c.unit }}</span>
                  </th>
                </tr>
              </thead>
              <tbody class="mono">
                <tr v-for="(row, r) in t.rows" :key="r">
                  <td v-for="(cell, k) in row" :key="k">{{ cell }}</td>
                </tr>
              </tbody>
            </table>
          </div>
        </template>
        <p v-for="s in sum.says.value" :key="s" class="wrong">{{ s }}</p>
        <p v-if="!sum.answer.value && sum.says.value.length === 0" class="quiet">
          The answer comes when every field can be used.
        </p>
      </div>
      <p class="small quiet">Source: {{ calculation.source }}</p>
      <div class="row no-print">
        <v-btn :prepend-icon="mdiContentCopy" :disabled="!sum.answer.value" @click="copy">Copy</v-btn>
        <v-btn variant="text" :prepend-icon="mdiPrinter" @click="print">Print</v-btn>
        <v-btn
          v-if="session.mayWrite"
          :prepend-icon="mdiNotePlusOutline"
          :disabled="!sum.answer.value"
          @click="putting = true"
          >Put on a loop</v-btn
        >
      </div>
      <p v-if="copied" class="small" role="status">{{ copied }}</p>
      <p v-if="keptOn" class="small" role="status">
        The sum stands in the record of
        <router-link :to="{ name: 'record', params: { tag: keptOn } }">{{ keptOn }}</router-link>.
      </p>
      <PutOnLoop
        v-if="putting"
        v-model="putting"
        :calculation="calculation.name"
        :input="sum.input.value"
        @kept="(tag) => (keptOn = tag)"
      />
    </section>
  </div>
</template>

<style scoped>
.sum-form {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 28px;
  align-items: start;
}
.answer {
  position: sticky;
  top: 20px;
}
dl {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, auto);
  gap: 8px 20px;
  font-size: var(--size-l);
}
dd {
  text-align: right;
  overflow-wrap: anywhere;
}
.words {
  grid-column: 1 / -1;
  margin-top: -6px;
  text-align: left;
  font-size: var(--size-m);
}
table {
  border-collapse: collapse;
  width: 100%;
}
th,
td {
  text-align: right;
  padding: 6px 8px;
  border-bottom: var(--line) solid var(--hair);
}
.wrong {
  color: var(--stop);
}
@media (max-width: 1100px) {
  .sum-form {
    grid-template-columns: minmax(0, 1fr);
  }
  .answer {
    position: static;
  }
}
</style>
