<script setup lang="ts">
import { loops } from '@calm/contract/api/addresses'
import type { LoopDetail } from '@calm/contract/loops'
import { mdiClose } from '@mdi/js'
import { computed, ref } from 'vue'
import { call } from '../api/call.ts'
import { plantTime } from '../api/clock.ts'
import { useLive } from '../api/live-cache.ts'
import { useSubmit } from '../api/submit.ts'
import { sayDay } from '../ui/dates.ts'
import { smallPicture } from '../ui/small-picture.ts'

/** What was seen on a loop, in words and pictures; it stands in its record under the name of who saw it. */
const { detail } = defineProps<{ detail: Pick<LoopDetail, 'id' | 'tag'> }>()
const emit = defineEmits<{ close: [] }>()
const text = ref('')
const where = ref('')
const run = ref<string | null>(null)
const pictures = ref<string[]>([])
const { busy, says, submit, at } = useSubmit()
// One identifier a note: a second press keeps nothing twice.
const id = crypto.randomUUID()
const MOST = 4
/** Legible on a large screen, and small enough for a slow network. */
const SIZE = { width: 1600, height: 1600, type: 'image/jpeg' } as const

const runs = useLive(loops.runs, () => ({ loop: detail.id }))
const RECENT = 5
const about = computed(() => [
  { value: null, title: 'the loop itself' },
  ...(runs.data.value ?? []).slice(0, RECENT).map((r) => ({
    value: r.id,
    title: `${r.kind === 'verification' ? 'the verification' : 'the procedure'} of ${sayDay(r.startedAt.slice(0, 10))}`,
  })),
])

async function add(files: File | File[] | null | undefined): Promise<void> {
  const list = Array.isArray(files) ? files : files ? [files] : []
  says.value = null
  for (const file of list) {
    if (pictures.value.length >= MOST) {
      says.value = 'At most four pictures a note. Keep this one and write another.'
      return
    }
    try {
      pictures.value = [...pictures.value, await smallPicture(file, SIZE)]
    } catch {
      says.value = `${file.name} is no picture that this browser can read.`
    }
  }
}
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
        <h2 id="note-title">A note on {{ detail.tag }}</h2>
        <v-textarea
          v-model="text"
          label="What was seen or done"
          rows="3"
          auto-grow
          maxlength="2000"
          autofocus
          :error-messages="at('text') ?? []"
        />
        <div class="field-grid">
          <v-select v-model="run" label="It belongs to" :items="about" hide-details />
          <v-text-field
            v-model="where"
            label="Where: point 3, junction box"
            maxlength="120"
            :error-messages="at('where') ?? []"
          />
        </div>
        <v-file-input
          :key="pictures.length"
          label="Photograph or picture"
          accept="image/*"
          capture="environment"
          multiple
          variant="outlined"
          prepend-icon=""
          hide-details
          @update:model-value="add"
        />
        <ul v-if="pictures.length > 0" class="pictures" aria-label="Pictures of this note">
          <li v-for="(p, i) in pictures" :key="i">
            <img :src="p" :alt="`Picture ${i + 1}`" />
            <v-btn
              :icon="mdiClose"
              size="small"
              class="away"
              :aria-label="`Take picture ${i + 1} away`"
              @click="pictures = pictures.filter((_p, k) => k !== i)"
            />
          </li>
        </ul>
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
.pictures {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  list-style: none;
  padding: 0;
}
.pictures li {
  position: relative;
}
.pictures img {
  height: 96px;
  border-radius: var(--corner);
}
.away {
  position: absolute;
  top: 2px;
  right: 2px;
}
.wrong {
  color: var(--stop);
}
</style>
