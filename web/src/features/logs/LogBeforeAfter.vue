<script setup lang="ts">
import { logs } from '@calm/contract/api/addresses'
import type { Log, LogJudgement } from '@calm/contract/logs'
import { beforeAfter, type BeforeAfter, type Side } from '@calm/core/logs/compare/before-after'
import { sayNumber } from '@calm/core/quantity/round'
import { printedUnit } from '@calm/core/quantity/units'
import { computed, ref, shallowRef, watch } from 'vue'
import { call, sayProblem } from '../../api/call.ts'
import NumberField from '../../ui/NumberField.vue'
import { sayLogTime, type TimesAs } from './say-time.ts'

/** What is seen, before a moment against after it: cleaned, trimmed, a valve moved. */
const { log, channel, from, to, at, times, mayWrite } = defineProps<{
  log: Log
  channel: number
  from: number
  to: number
  /** The moment that was touched. */
  at: number
  times: TimesAs
  mayWrite: boolean
}>()
const emit = defineEmits<{ keep: [says: string] }>()
/** The act itself is neither before nor after, s on either side of the moment. */
const apart_s = ref<number | null>(0)
const result = shallowRef<(BeforeAfter & { before: Side; after: Side }) | null>(null)
const says = ref<string | null>(null)
const busy = ref(false)
watch([() => channel, () => from, () => to, () => at, apart_s], () => {
  result.value = null
  says.value = null
})
const unit = computed(() => log.channels[channel]?.unit ?? null)
const u = computed(() => (unit.value === null ? '' : ` ${printedUnit(unit.value)}`))
const wrong = computed(() =>
  apart_s.value === null
    ? 'How many seconds? 0 leaves nothing out.'
    : apart_s.value < 0
      ? 'Seconds from 0 on: less than nothing cannot be left out.'
      : null,
)

function sideOf({ statistics: s, findings }: LogJudgement, lasts_ms: number): Side | null {
  if (!s?.close) return null
  const { uMean, noise, slope, uSlope } = s.close
  return { n: s.n, mean: s.mean, uMean, noise, slope, uSlope, lasts_s: lasts_ms / 1000, findings }
}
/** A sample of the moment itself belongs to what comes after, µs. */
const EARLIER_MS = 0.001
async function compare(): Promise<void> {
  const apart_ms = 1000 * (apart_s.value ?? 0)
  const [end, begin] = [at - apart_ms - EARLIER_MS, at + apart_ms]
  if (from >= end || begin >= to) {
    says.value = 'Nothing is left on one side: leave out less, or look at a longer stretch.'
    return
  }
  busy.value = true
  says.value = null
  try {
    const judged = (a: number, b: number) =>
      call(logs.judgement, { loop: log.tag, log: log.id, channel, from: a, to: b })
    const [first, second, both] = await Promise.all([judged(from, end), judged(begin, to), judged(from, to)])
    const [before, after] = [sideOf(first, end - from), sideOf(second, to - begin)]
    if (before && after)
      result.value = { ...beforeAfter(before, after, both.findings, u.value), before, after }
    else
      says.value =
        'Not judged: one side has no value, or more samples than are judged at once. Choose another stretch.'
  } catch (error) {
    says.value = sayProblem(error)
  } finally {
    busy.value = false
  }
}
/** For the record: what was held against what, and what it came to. */
function keep(): void {
  const r = result.value
  if (!r) return
  const over = `From ${sayLogTime(from, times)} to ${sayLogTime(to, times)}, ${sayNumber(apart_s.value ?? 0, 4)} s left out on either side`
  emit('keep', `Before against after. ${r.says.join(' ')} ${over}; ${r.before.n} and ${r.after.n} samples.`)
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
    <NumberField v-model="apart_s" label="Left out on either side of it" unit="s" :error="wrong" />
    <v-btn variant="outlined" :disabled="busy || wrong !== null" @click="compare">Before against after</v-btn>
    <p v-if="says" role="alert" class="trouble">{{ says }}</p>
    <div v-if="result" class="stack" role="status">
      <p>
        <strong>{{ result.says[0] }}</strong>
      </p>
      <p v-for="line in result.says.slice(1)" :key="line" class="small">{{ line }}</p>
      <p v-for="[word, side] in rows" :key="word" class="mono small" :class="{ simulated: log.simulated }">
        {{ word }} {{ sayNumber(side.mean, 5) }} ± {{ sayNumber(2 * side.uMean, 2) }}{{ u }} · noise
        {{ sayNumber(side.noise, 3) }} · {{ side.n }} samples
      </p>
      <v-btn v-if="mayWrite && result.verdict !== 'notJudged'" variant="text" @click="keep"
        >Keep it at this moment</v-btn
      >
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
.simulated {
  color: var(--simulated);
}
</style>
