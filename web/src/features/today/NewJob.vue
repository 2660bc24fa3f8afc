<script setup lang="ts">
import { loops, today } from '@calm/contract/api/addresses'
import { VERIFY } from '@calm/core/today/does'
import { computed, ref, shallowRef, watch } from 'vue'
import { call } from '../../api/call.ts'
import { useLive } from '../../api/live-cache.ts'
import { useSubmit } from '../../api/submit.ts'
import { IMPORTANCE_WORDS } from './say-plan.ts'
import { usePlan } from './use-plan.ts'

/** A job that no record asks for: what, where, until when, how long. */
const emit = defineEmits<{ close: [] }>()
const p = usePlan()
const list = useLive(loops.list, { archived: 'no' })
const id = crypto.randomUUID()
const form = ref({
  title: '',
  loop: null as string | null,
  area: '',
  why: '',
  due: p.plan.value?.day ?? '',
  minutes: '60',
  importance: 3,
  does: null as string | null,
})
const tags = computed(() => (list.data.value ?? []).map((l) => l.tag))
/** What can be done at the loop, by the kind of meter that it is. */
const detail = useLive(loops.one, () => (form.value.loop === null ? null : { loop: form.value.loop }))
const ways = shallowRef<{ value: string | null; title: string }[]>([])
watch(
  () => detail.data.value,
  async (d) => {
    ways.value = []
    if (!d) return
    const { proceduresOf } = await import('@calm/core/family/procedures')
    if (detail.data.value?.id !== d.id) return
    ways.value = [
      { value: null, title: 'whoever did it says so' },
      { value: VERIFY, title: 'a verification' },
      ...proceduresOf(d.document.family).map((x) => ({ value: x.id, title: x.title })),
    ]
  },
)
const areas = computed(() => [...new Set((list.data.value ?? []).map((l) => l.area))])
watch(
  () => form.value.loop,
  (tag) => {
    const area = (list.data.value ?? []).find((l) => l.tag === tag)?.area
    if (area !== undefined) form.value.area = area
    form.value.does = null
  },
)
const IMPORTANCE = IMPORTANCE_WORDS.map((title, i) => ({ value: i + 1, title }))
const { busy, says, submit, at } = useSubmit()
async function save(): Promise<void> {
  const { minutes, area, ...f } = form.value
  const done = await submit(async () => {
    await call(
      today.addJob,
      {},
      { id, ...f, area: area ?? '', minutes: minutes.trim() === '' ? NaN : Number(minutes) },
    )
  })
  if (done) emit('close')
}
</script>

<template>
  <v-dialog :model-value="true" aria-labelledby="new-job" max-width="640" @update:model-value="emit('close')">
    <v-card>
      <form class="stack" novalidate @submit.prevent="save">
        <h2 id="new-job">Enter a job</h2>
        <v-text-field
          v-model="form.title"
          label="What is to be done"
          maxlength="60"
          autofocus
          :error-messages="at('title') ?? []"
        />
        <div class="field-grid">
          <v-autocomplete
            v-model="form.loop"
            :items="tags"
            label="Loop"
            clearable
            :error-messages="at('loop') ?? []"
          />
          <v-select
            v-if="ways.length > 0"
            v-model="form.does"
            :items="ways"
            label="Done is shown by"
            :error-messages="at('does') ?? []"
          />
          <v-select v-model="form.area" :items="areas" label="Area" :error-messages="at('area') ?? []" />
          <v-text-field v-model="form.due" type="date" label="Due" :error-messages="at('due') ?? []" />
          <v-text-field
            v-model="form.minutes"
            label="Minutes"
            inputmode="numeric"
            :error-messages="at('minutes') ?? []"
          />
          <v-select v-model="form.importance" :items="IMPORTANCE" label="Importance" />
        </div>
        <v-text-field v-model="form.why" label="Because" maxlength="300" :error-messages="at('why') ?? []" />
        <p v-if="says" class="wrong" role="alert">{{ says }}</p>
        <div class="row">
          <v-btn type="submit" color="primary" variant="flat" height="48" :loading="busy">Enter it</v-btn>
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
