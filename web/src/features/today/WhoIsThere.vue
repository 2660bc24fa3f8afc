<script setup lang="ts">
import { people, today } from '@calm/contract/api/addresses'
import { computed, ref } from 'vue'
import { call } from '../../api/call.ts'
import { useLive } from '../../api/live-cache.ts'
import { useSubmit } from '../../api/submit.ts'
import { sayDayShort } from './say-day.ts'
import { clockOf } from './say-plan.ts'
import { usePlan } from './use-plan.ts'

/** Who is there on one day, and when, where it is not as usual. */
const { day } = defineProps<{ day: string }>()
const emit = defineEmits<{ close: [] }>()
const p = usePlan()
const all = useLive(people.list, {})
const plant = useLive(today.plant, {})
interface Row {
  readonly id: string
  readonly name: string
  readonly from: string
  readonly to: string
}
/** Everybody who could do a job; who is not there that day has no hours. */
const rows = computed((): Row[] =>
  (all.data.value ?? [])
    .filter((x) => x.role === 'technician' || x.role === 'reviewer')
    .map((x) => {
      const turn = p.plan.value?.people.find((y) => y.id === x.id)?.turns.find((t) => t.day === day)
      const zone = p.plan.value?.zone ?? 'UTC'
      return {
        id: x.id,
        name: x.shownName,
        from: turn ? clockOf(turn.from, zone) : '',
        to: turn ? clockOf(turn.to, zone) : '',
      }
    }),
)
const typed = ref<Record<string, { from: string; to: string }>>({})
const of = (r: Row) => typed.value[r.id] ?? { from: r.from, to: r.to }
const type = (r: Row, end: 'from' | 'to', value: string) =>
  (typed.value = { ...typed.value, [r.id]: { ...of(r), [end]: value } })
const wrong = ref<string | null>(null)
const { busy, says, submit, at } = useSubmit()

async function send(r: Row, shift: { from: string; to: string } | null): Promise<void> {
  wrong.value = r.id
  await submit(async () => {
    const breaks = plant.data.value?.shift.breaks ?? []
    await call(
      today.presence,
      {},
      { id: crypto.randomUUID(), person: r.id, day, shift: shift && { ...shift, breaks } },
    )
    typed.value = Object.fromEntries(Object.entries(typed.value).filter(([id]) => id !== r.id))
    await p.live.reload()
  })
}
</script>

<template>
  <v-dialog
    :model-value="true"
    aria-labelledby="who-title"
    max-width="640"
    @update:model-value="emit('close')"
  >
    <v-card class="stack">
      <h2 id="who-title">Who is there on {{ sayDayShort(day) }}</h2>
      <div v-for="r in rows" :key="r.id" class="row person">
        <span class="name">{{ r.name }}</span>
        <v-text-field
          :model-value="of(r).from"
          type="time"
          label="from"
          hide-details
          class="time"
          @update:model-value="type(r, 'from', $event)"
        />
        <v-text-field
          :model-value="of(r).to"
          type="time"
          label="to"
          hide-details
          class="time"
          @update:model-value="type(r, 'to', $event)"
        />
        <v-btn
          height="48"
          :loading="busy && wrong === r.id"
          :disabled="of(r).from === '' || of(r).to === '' || (of(r).from === r.from && of(r).to === r.to)"
          @click="send(r, of(r))"
          >Set</v-btn
        >
        <v-btn height="48" variant="text" :disabled="r.from === ''" @click="send(r, null)">Away</v-btn>
        <p v-if="wrong === r.id && (says || at('shift.to') || at('shift.from'))" class="wrong" role="alert">
          {{ says ?? at('shift.to') ?? at('shift.from') }}
        </p>
      </div>
      <p class="quiet small">An end before the beginning is of the day after. Breaks are the usual ones.</p>
      <v-btn variant="text" height="48" @click="emit('close')">Close</v-btn>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.person {
  border-bottom: var(--line) solid var(--hair);
  padding-bottom: 8px;
}
.name {
  flex: 1;
  min-width: 140px;
}
.time {
  max-width: 120px;
}
.wrong {
  color: var(--stop);
}
</style>
