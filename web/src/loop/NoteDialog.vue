<script setup lang="ts">
import { loops } from '@calm/contract/api/addresses'
import type { LoopDetail } from '@calm/contract/loops'
import { computed, ref } from 'vue'
import { call } from '../api/call.ts'
import { plantTime } from '../api/clock.ts'
import { useLive } from '../api/live-cache.ts'
import { useSubmit } from '../api/submit.ts'
import { sayDay } from '../ui/dates.ts'
import PictureField from '../ui/PictureField.vue'

/** What was seen on a loop, in words and pictures; it stands in its record under the name of who saw it. */
const {
  detail,
  mark = null,
  reading = null,
} = defineProps<{
  detail: Pick<LoopDetail, 'id' | 'tag'>
  /** A moment of a log that it speaks of. */
  mark?: {
    readonly log: string
    readonly at: number
    readonly says: string
    /** What is to be kept of it, for whoever keeps it to change. */
    readonly text?: string
  } | null
  /** A reading of a verification that it speaks of: where it can be, and which is meant. */
  reading?: { readonly run: string; readonly places: readonly string[]; readonly place: string } | null
}>()
const emit = defineEmits<{ close: [] }>()
const text = ref(mark?.text ?? '')
const where = ref(reading?.place ?? '')
const run = ref<string | null>(reading?.run ?? null)
const pictures = ref<string[]>([])
const { busy, says, submit, at } = useSubmit()
// One identifier a note: a second press keeps nothing twice.
const id = crypto.randomUUID()

const runs = useLive(loops.runs, () => (reading === null ? { loop: detail.id } : null))
const RECENT = 5
const about = computed(() => [
  { value: null, title: 'the loop itself' },
  ...(runs.data.value ?? []).slice(0, RECENT).map((r) => ({
    value: r.id,
    title: `${r.kind === 'verification' ? 'the verification' : 'the procedure'} of ${sayDay(r.startedAt.slice(0, 10))}`,
  })),
])

async function keep(): Promise<void> {
  if (text.value.trim() === '' && pictures.value.length === 0) {
    says.value = 'Write something, or add a picture.'
    return
  }
  const done = await submit(async () => {
    await call(
      loops.keepNote,
      { loop: detail.id },
      {
        id,
        at: plantTime(),
        text: text.value.trim(),
        pictures: pictures.value,
        ...(mark === null ? {} : { mark: { log: mark.log, at: mark.at } }),
        ...(run.value === null ? {} : { run: run.value }),
        ...(where.value.trim() === '' ? {} : { where: where.value.trim() }),
      },
    )
  })
  if (done) emit('close')
}
</script>

<template>
  <v-dialog
    :model-value="true"
    persistent
    aria-labelledby="note-title"
    max-width="560"
    @update:model-value="emit('close')"
  >
    <v-card>
      <form class="stack" novalidate @submit.prevent="keep">
        <h2 id="note-title">
          {{ mark ? `A mark at ${mark.says}` : `A note ${reading ? 'at a reading of' : 'on'} ${detail.tag}` }}
        </h2>
        <v-textarea
          v-model="text"
          label="What was seen or done"
          rows="3"
          auto-grow
          maxlength="2000"
          autofocus
          :error-messages="at('text') ?? []"
        />
        <v-select
          v-if="reading"
          v-model="where"
          label="At which reading"
          :items="reading.places"
          hide-details
        />
        <div v-else-if="mark === null" class="field-grid">
          <v-select v-model="run" label="It belongs to" :items="about" hide-details />
          <v-text-field
            v-model="where"
            label="Where: point 3, junction box"
            maxlength="120"
            :error-messages="at('where') ?? []"
          />
        </div>
        <PictureField v-model="pictures" />
        <p v-if="says" class="wrong" role="alert">{{ says }}</p>
        <div class="row">
          <v-btn type="submit" color="primary" variant="flat" height="48" :loading="busy">Keep it</v-btn>
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
