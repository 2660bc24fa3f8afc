<script setup lang="ts">
import { logs } from '@calm/contract/api/addresses'
import type { Log, LogJudgement } from '@calm/contract/logs'
import { beforeAfter, type Side } from '@calm/core/logs/compare/before-after'
import { sayNumber } from '@calm/core/quantity/round'
import { printedUnit } from '@calm/core/quantity/units'
import { computed, ref, shallowRef, watch } from 'vue'
import { call, sayProblem } from '../../api/call.ts'
import NumberField from '../../ui/NumberField.vue'
import { sayLogTime, type TimesAs } from './say-time.ts'

/** What is seen, before a moment against after it: cleaned, trimmed, a valve moved. */
const { log, channel, from, to, at, times } = defineProps<{
  log: Log
  channel: number
  from: number
  to: number
  /** The moment that was touched. */
  at: number
  times: TimesAs
}>()
/** The act itself is neither before nor after, s on either side of the moment. */
const apart_s = ref<number | null>(0)
const result = shallowRef<{ before: Side; after: Side; says: readonly string[] } | null>(null)
const says = ref<string | null>(null)
const busy = ref(false)
watch([() => channel, () => from, () => to, () => at, apart_s], () => {
  result.value = null
  says.value = null
})
const unit = computed(() => log.channels[channel]?.unit ?? null)
const u = computed(() => (unit.value === null ? '' : ` ${printedUnit(unit.value)}`))

function sideOf(j: LogJudgement, lasts_ms: number): Side | null {
  const s = j.statistics
  if (!s?.close) return null
  const { uMean, noise, slope, uSlope } = s.close
  return { n: s.n, mean: s.mean, uMean, noise, slope, uSlope, lasts_s: lasts_ms / 1000 }
}
async function compare(): Promise<void> {
  const apart_ms = 1000 * (apart_s.value ?? 0)
  const parts = [
    [from, at - apart_ms],
    [at + apart_ms, to],
  ] as const
  if (parts.some(([a, b]) => a >= b)) {
    says.value = 'Nothing is left on one side: leave out less, or look at a longer stretch.'
    return
  }
  busy.value = true
  says.value = null
  try {
    const [b, a] = await Promise.all(
      parts.map(async ([first, last]) =>
        sideOf(
          await call(logs.judgement, { loop: log.tag, log: log.id, channel, from: first, to: last }),
          last - first,
        ),
      ),
    )
    if (b && a) result.value = { before: b, after: a, says: beforeAfter(b, a, u.value).says }
    else
      says.value =
        'Not judged: one side has no value, or more samples than are judged at once. Choose another stretch.'
  } catch (error) {
    says.value = sayProblem(error)
  } finally {
    busy.value = false
  }
}
const rows = computed(() =>
  result.value
    ? ([
        ['before', result.value.before],
        ['after', result.value.after],
      ] as const)
    : [],
)
</script>

<template>
  <section class="stack" aria-label="Before against after">
    <h2>Before against after</h2>
    <p class="small quiet">What is seen, on both sides of {{ sayLogTime(at, times) }}.</p>
    <NumberField v-model="apart_s" label="Left out on either side of it" unit="s" />
    <v-btn variant="outlined" :disabled="busy || apart_s === null || apart_s < 0" @click="compare"
      >Before against after</v-btn
    >
    <p v-if="says" role="alert" class="trouble">{{ says }}</p>
    <div v-if="result" class="stack" role="status">
      <p>
        <strong>{{ result.says[0] }}</strong>
      </p>
      <p v-for="line in result.says.slice(1)" :key="line" class="small">{{ line }}</p>
      <p v-for="[word, side] in rows" :key="word" class="mono small">
        {{ word }} {{ sayNumber(side.mean, 5) }} ± {{ sayNumber(2 * side.uMean, 2) }}{{ u }} · noise
        {{ sayNumber(side.noise, 3) }} · {{ side.n }} samples
      </p>
    </div>
  </section>
</template>

<style scoped>
h2 {
  font-size: var(--size-l);
}
.trouble {
  color: var(--stop);
}
</style>
