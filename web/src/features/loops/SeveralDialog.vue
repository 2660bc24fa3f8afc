<script setup lang="ts">
import { loops } from '@calm/contract/api/addresses'
import { computed, ref } from 'vue'
import { call } from '../../api/call.ts'
import { useSubmit } from '../../api/submit.ts'
import NumberField from '../../ui/NumberField.vue'

/** Area, floor, assignee, interval and tolerance of the loops that were chosen: what is left empty stays as each has it. */
const { ids, areas, names } = defineProps<{
  ids: readonly string[]
  areas: readonly string[]
  names: readonly string[]
}>()
const emit = defineEmits<{ close: []; done: [says: string] }>()
/** An empty field leaves who looks after them: this takes the name away. */
const NOBODY = 'nobody'
const area = ref('')
const floor = ref<number | null>(null)
const interval = ref<number | null>(null)
const tolerance = ref<number | null>(null)
const assignee = ref('')
const reason = ref('')
const { busy, says, submit, at } = useSubmit()
const nothing = computed(
  () =>
    [area, assignee].every((x) => x.value.trim() === '') &&
    [floor, interval, tolerance].every((x) => x.value === null),
)
const nobody = computed(() => assignee.value.trim().toLowerCase() === NOBODY)
const count = computed(() => `${ids.length} ${ids.length === 1 ? 'loop' : 'loops'}`)

async function go(): Promise<void> {
  if (nothing.value) {
    says.value = 'Type what shall change; what stays empty is left as it is.'
    return
  }
  await submit(async () => {
    const { changed, same } = await call(
      loops.several,
      {},
      {
        loops: [...ids],
        reason: reason.value,
        ...(area.value.trim() === '' ? {} : { area: area.value.trim() }),
        ...(assignee.value.trim() === '' ? {} : { assignee: nobody.value ? '' : assignee.value.trim() }),
        ...(floor.value === null ? {} : { floor: floor.value }),
        ...(interval.value === null ? {} : { interval_months: interval.value }),
        ...(tolerance.value === null ? {} : { tolerance_pct: tolerance.value }),
      },
    )
    emit('done', `${changed} changed${same > 0 ? `, ${same} were so already` : ''}.`)
  })
}
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
        <v-text-field
          v-model="area"
          label="Area"
          list="areas-here"
          maxlength="80"
          autocomplete="off"
          :error-messages="at('area') ?? []"
        />
        <datalist id="areas-here">
          <option v-for="a in areas" :key="a" :value="a" />
        </datalist>
        <NumberField v-model="floor" label="Floor" :error="at('floor')" hint="ground is 0, below it -1" />
        <v-text-field
          v-model="assignee"
          label="Assigned to"
          list="names-here"
          maxlength="80"
          autocomplete="off"
          hint="“nobody” takes the name away"
          persistent-hint
          :error-messages="at('assignee') ?? []"
        />
        <datalist id="names-here">
          <option v-for="n in names" :key="n" :value="n" />
        </datalist>
        <NumberField v-model="interval" label="Interval, months" :error="at('interval_months')" />
        <NumberField
          v-model="tolerance"
          label="Tolerance"
          unit="%"
          :error="at('tolerance_pct')"
          hint="of span; a switch has none"
        />
        <v-text-field v-model="reason" label="Because" maxlength="300" :error-messages="at('reason') ?? []" />
        <p v-if="says" class="wrong" role="alert">{{ says }}</p>
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
