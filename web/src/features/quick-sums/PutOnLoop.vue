<script setup lang="ts">
import { loops } from '@calm/contract/api/addresses'
import { ref, computed, watch } from 'vue'
import { ApiProblem, call, sayProblem } from '../../api/call.ts'
import { useLive } from '../../api/live-cache.ts'

/** Puts a sum into the record of a loop: the server does it once more and keeps what it finds. */
const { calculation, input } = defineProps<{
  calculation: string
  input: Readonly<Record<string, unknown>>
}>()
const open = defineModel<boolean>({ required: true })
const emit = defineEmits<{ kept: [tag: string] }>()
const list = useLive(loops.list, {})
const choices = computed(() =>
  (list.data.value ?? []).map((l) => ({ value: l.tag, title: `${l.tag}  ${l.service}` })),
)
const tag = ref<string | null>(null)
const note = ref('')
const wrong = ref<Readonly<Record<string, string>>>({})
const refusal = ref<string | null>(null)
const busy = ref(false)
let id = crypto.randomUUID()
watch(open, (now) => {
  if (!now) return
  wrong.value = {}
  refusal.value = null
  id = crypto.randomUUID()
})

async function put(): Promise<void> {
  if (busy.value) return
  refusal.value = null
  wrong.value = tag.value === null ? { tag: 'Choose the loop that this sum is for.' } : {}
  if (tag.value === null) return
  busy.value = true
  try {
    // The same identifier sent twice is stored once: a second press makes no second line.
    await call(
      loops.keepSum,
      { loop: tag.value },
      { id, at: new Date().toISOString(), calculation, input: { ...input }, note: note.value },
    )
    open.value = false
    note.value = ''
    emit('kept', tag.value)
  } catch (error) {
    const inNote = error instanceof ApiProblem ? error.at('note') : null
    if (inNote) wrong.value = { note: inNote }
    else refusal.value = sayProblem(error)
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <v-dialog v-model="open" persistent aria-labelledby="put-on-loop" @keydown.esc="open = false">
    <v-card>
      <form class="stack" novalidate @submit.prevent="put">
        <h2 id="put-on-loop">Put this sum on a loop</h2>
        <p>What went in and what came out stand in its record, under your name.</p>
        <v-autocomplete
          v-model="tag"
          :items="choices"
          label="Loop"
          autofocus
          auto-select-first
          no-data-text="No loop matches."
          :error-messages="wrong['tag']"
        />
        <v-textarea
          v-model="note"
          label="What it is for, if that should be said"
          rows="2"
          auto-grow
          :error-messages="wrong['note']"
        />
        <p v-if="refusal" class="refusal" role="alert">{{ refusal }}</p>
        <div class="row">
          <v-btn type="submit" color="primary" variant="flat" :loading="busy">Put it on the loop</v-btn>
          <v-btn variant="text" @click="open = false">Not now</v-btn>
        </div>
      </form>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.refusal {
  color: var(--stop);
}
</style>
