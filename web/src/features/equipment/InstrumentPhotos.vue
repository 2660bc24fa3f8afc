<script setup lang="ts">
import { equipment, urlOf } from '@calm/contract/api/addresses'
import { ref } from 'vue'
import { call } from '../../api/call.ts'
import { useLive } from '../../api/live-cache.ts'
import { useSubmit } from '../../api/submit.ts'
import { sayInstant } from '../../ui/dates.ts'
import PictureField from '../../ui/PictureField.vue'

/** Photographs of an instrument: its plate, its connections, what is damaged. They stand in the log of the plant. */
const { instrument, mayAdd } = defineProps<{ instrument: string; mayAdd: boolean }>()
const kept = useLive(equipment.pictures, () => ({ instrument }))
const pictures = ref<string[]>([])
const shows = ref('')
const { busy, says, submit, at } = useSubmit()
async function keep(): Promise<void> {
  const done = await submit(async () => {
    await call(equipment.keepPictures, { instrument }, { shows: shows.value, pictures: pictures.value })
  })
  if (!done) return
  pictures.value = []
  shows.value = ''
  await kept.reload()
}
</script>

<template>
  <section class="stack" aria-label="Photographs">
    <h3>Photographs</h3>
    <figure v-for="p in kept.data.value ?? []" :key="`${p.at} ${p.pictures[0]}`">
      <a
        v-for="(sha, i) in p.pictures"
        :key="sha"
        :href="urlOf(equipment.picture, { instrument, picture: sha })"
        target="_blank"
        rel="noopener"
        ><img
          :src="urlOf(equipment.picture, { instrument, picture: sha })"
          :alt="`${p.shows || 'Photograph'}, picture ${i + 1}`"
          loading="lazy"
      /></a>
      <figcaption>
        {{ p.shows }} <span class="quiet small">{{ sayInstant(p.at) }}, {{ p.byName }}</span>
      </figcaption>
    </figure>
    <template v-if="mayAdd">
      <PictureField v-model="pictures" />
      <template v-if="pictures.length > 0">
        <v-text-field
          v-model="shows"
          label="What is to be seen"
          maxlength="200"
          :error-messages="at('shows') ?? []"
        />
        <div>
          <v-btn height="48" :loading="busy" @click="keep">Keep the photographs</v-btn>
        </div>
      </template>
      <p v-if="says" class="wrong" role="alert">{{ says }}</p>
    </template>
    <p v-else-if="(kept.data.value?.length ?? 0) === 0" class="quiet">None yet.</p>
  </section>
</template>

<style scoped>
figure {
  margin: 0;
}
img {
  max-height: 120px;
  max-width: 100%;
  margin-right: 8px;
  border-radius: var(--corner);
}
.wrong {
  color: var(--stop);
}
</style>
