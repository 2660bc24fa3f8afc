<script setup lang="ts">
import { loops } from '@calm/contract/api/addresses'
import { computed, ref } from 'vue'
import { ApiProblem, call, sayProblem } from '../../api/call.ts'
import NumberField from '../../ui/NumberField.vue'

/** Area, interval and tolerance of the loops that were chosen: what is left empty stays as each has it. */
const { ids, areas } = defineProps<{ ids: readonly string[]; areas: readonly string[] }>()
const emit = defineEmits<{ close: []; done: [says: string] }>()
const area = ref('')
const interval = ref<number | null>(null)
const tolerance = ref<number | null>(null)
const reason = ref('')
const busy = ref(false)
const problem = ref<ApiProblem | null>(null)
const rest = ref<string | null>(null)
const nothing = computed(
  () => area.value.trim() === '' && interval.value === null && tolerance.value === null,
)
const count = computed(() => `${ids.length} ${ids.length === 1 ? 'loop' : 'loops'}`)

async function go(): Promise<void> {
  if (busy.value) return
  problem.value = null
  rest.value = nothing.value ? 'Type what shall change; what stays empty is left as it is.' : null
  if (rest.value) return
  busy.value = true
  try {
    const { changed, same } = await call(
      loops.several,
      {},
      {
        loops: [...ids],
        reason: reason.value,
        ...(area.value.trim() === '' ? {} : { area: area.value.trim() }),
        ...(interval.value === null ? {} : { interval_months: interval.value }),
        ...(tolerance.value === null ? {} : { tolerance_pct: tolerance.value }),
      },
    )
    emit('done', `${changed} changed${same > 0 ? `, ${same} were so already` : ''}.`)
  } catch (error) {
    if (error instanceof ApiProblem && (error.problem.errors?.length ?? 0) > 0) problem.value = error
    else rest.value = sayProblem(error)
  } finally {
    busy.value = false
  }
}
const at = (path: string) => problem.value?.at(path) ?? null
</script>

<template>
  <v-dialog
    :model-value="true"
    aria-labelledby="several-title"
    max-width="520"
    @update:model-value="emit('close')"
  >
    <v-card>
      <form class="stack" novalidate @submit.prevent="go">
        <h2 id="several-title">Change {{ count }}</h2>
        <p class="quiet">What stays empty is left as each loop has it. Each gets a revision.</p>
        <v-combobox v-model="area" label="Area" :items="areas" :error-messages="at('area') ?? []" />
        <NumberField v-model="interval" label="Interval, months" :error="at('interval_months')" />
        <NumberField
          v-model="tolerance"
          label="Tolerance"
          unit="%"
          :error="at('tolerance_pct')"
          hint="of span; a switch has none"
        />
        <v-text-field v-model="reason" label="Because" maxlength="300" :error-messages="at('reason') ?? []" />
        <p v-if="rest" class="wrong" role="alert">{{ rest }}</p>
        <div class="row">
          <v-btn type="submit" color="primary" variant="flat" height="48" :loading="busy"
            >Change {{ count }}</v-btn
          >
          <v-btn variant="text" height="48" @click="emit('close')">Not now</v-btn>
        </div>
      </form>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.wrong {
  color: var(--stop);
}
</style>
