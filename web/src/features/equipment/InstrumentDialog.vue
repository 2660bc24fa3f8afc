<script setup lang="ts">
import { equipment } from '@calm/contract/api/addresses'
import type { Equipment } from '@calm/contract/equipment'
import { computed, ref } from 'vue'
import { ApiProblem, call, sayProblem } from '../../api/call.ts'
import { useLive } from '../../api/live-cache.ts'
import { useSession } from '../../api/session-store.ts'
import { sayDay, sayInstant } from '../../ui/dates.ts'
import { INSTRUMENT_FIELDS } from './instrument-fields.ts'
import InstrumentPhotos from './InstrumentPhotos.vue'

/** One instrument: a new certificate or a correction with its reason, what the register had of it, out of use and back. */
const { instrument } = defineProps<{ instrument: Equipment }>()
const emit = defineEmits<{ close: [] }>()
const session = useSession()
const past = useLive(equipment.past, () => ({ instrument: instrument.id }))
const { id } = instrument
const asTyped = () =>
  Object.fromEntries(INSTRUMENT_FIELDS.map((f) => [f.id, instrument[f.id]])) as Record<
    (typeof INSTRUMENT_FIELDS)[number]['id'],
    string
  >
const form = ref(asTyped())
const reason = ref('')
const problem = ref<ApiProblem | null>(null)
const says = ref<string | null>(null)
const busy = ref(false)
const changed = computed(() => INSTRUMENT_FIELDS.some((f) => form.value[f.id] !== instrument[f.id]))

async function send(act: () => Promise<unknown>): Promise<void> {
  if (busy.value) return
  busy.value = true
  problem.value = null
  says.value = null
  try {
    await act()
    emit('close')
  } catch (error) {
    if (error instanceof ApiProblem && error.problem.errors) problem.value = error
    else says.value = sayProblem(error)
  } finally {
    busy.value = false
  }
}
const save = () =>
  send(() => call(equipment.change, { instrument: id }, { ...form.value, reason: reason.value }))
const retire = () =>
  send(() =>
    call(equipment.retire, { instrument: id }, { retired: !instrument.retired, reason: reason.value }),
  )
</script>

<template>
  <v-dialog
    :model-value="true"
    aria-labelledby="instrument-title"
    max-width="760"
    scrollable
    @update:model-value="emit('close')"
  >
    <v-card>
      <form class="stack" novalidate @submit.prevent="save">
        <h2 id="instrument-title">{{ instrument.name }}, {{ instrument.serial }}</h2>
        <p class="quiet">
          Type a new certificate over the old one: the old one is kept, and goes on speaking for the work that
          was done under it.
        </p>
        <div class="field-grid">
          <v-text-field
            v-for="f in INSTRUMENT_FIELDS"
            :key="f.id"
            v-model="form[f.id]"
            :label="f.label"
            :readonly="!session.mayWrite || instrument.retired"
            :error-messages="problem?.at(f.id) ?? undefined"
          />
        </div>
        <v-text-field
          v-if="session.mayWrite"
          v-model="reason"
          label="Because"
          maxlength="300"
          :error-messages="problem?.at('reason') ?? undefined"
        />
        <p v-if="says" class="wrong" role="alert">{{ says }}</p>
        <div class="row">
          <v-btn
            v-if="session.mayWrite && !instrument.retired"
            type="submit"
            color="primary"
            variant="flat"
            height="48"
            :loading="busy"
            :disabled="!changed"
            >Save</v-btn
          >
          <v-btn v-if="session.mayWrite" height="48" :disabled="changed" @click="retire">{{
            instrument.retired ? 'Back in use' : 'Take out of use'
          }}</v-btn>
          <v-btn variant="text" height="48" @click="emit('close')">Close</v-btn>
        </div>
        <InstrumentPhotos :instrument="id" :may-add="session.mayWrite && !instrument.retired" />
        <section v-if="(past.data.value?.length ?? 0) > 0" class="stack" aria-label="What the register had">
          <h3>What the register had</h3>
          <ul class="past">
            <li v-for="p in past.data.value ?? []" :key="p.at">
              <span class="mono">{{ p.certificate || 'no number' }}</span>, {{ sayDay(p.certifiedOn) }} to
              {{ sayDay(p.dueOn) }}: {{ p.uncertainty }}
              <span class="quiet">
                entered {{ sayInstant(p.at) }} by {{ p.byName }}{{ p.reason ? `, ${p.reason}` : '' }}</span
              >
            </li>
          </ul>
        </section>
      </form>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.past {
  padding-left: 20px;
}
.wrong {
  color: var(--stop);
}
</style>
