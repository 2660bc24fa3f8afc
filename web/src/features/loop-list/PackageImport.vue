<script setup lang="ts">
import { packages } from '@calm/contract/api/addresses'
import type { PackageTaken } from '@calm/contract/loop-package'
import { ref } from 'vue'
import { call } from '../../api/call.ts'
import { useLongWork } from '../../api/long-work.ts'
import LongWorkLine from '../../ui/LongWorkLine.vue'

/** The package of a loop from another plant: proved, then taken in whole. */
const taken = ref<PackageTaken | null>(null)
const work = useLongWork()
async function take(files: File | File[] | null | undefined): Promise<void> {
  const file = Array.isArray(files) ? files[0] : files
  if (!file) return
  await work.begin(async (given) => {
    taken.value = null
    taken.value = await call(packages.take, {}, file, given)
  })
}
/** What was made again from the record and held against the file, and what was not. */
function sayCompared({ compared, notPrinted }: PackageTaken): string {
  if (!compared) return 'Its lists, drawings and certificates were not compared with its record.'
  return notPrinted === 0
    ? 'Its lists, drawings and certificates were made again from its record and are the same.'
    : `Its lists and the data in its certificates were made again from its record and are the same. Another version printed its ${notPrinted === 1 ? 'certificate' : `${notPrinted} certificates`}: of the drawn pages nothing is proved, print them here.`
}
</script>

<template>
  <section class="stack" aria-label="Package of a loop">
    <h2>Or the package of a loop</h2>
    <p class="quiet">
      A ZIP as the Record bench gives it. Every event of its record is proved before anything is stored.
    </p>
    <v-file-input
      label="Package (ZIP)"
      accept=".zip,application/zip"
      class="file"
      variant="outlined"
      hide-details
      prepend-icon=""
      :clearable="false"
      @update:model-value="take"
    />
    <LongWorkLine :work="work" doing="Proving the package" />
    <p v-if="taken" role="status">
      <router-link :to="`/loops/${taken.tag}/record`" class="mono">{{ taken.tag }}</router-link>
      {{
        taken.stored
          ? `is here now, with ${taken.events} events, all proved. What others did in it is marked foreign.${taken.own > 0 ? ` ${taken.own} stand under your name: look at them, and tell a reviewer if you did not do them.` : ''}`
          : 'was here already, with the same record. Nothing was changed.'
      }}
      <template v-if="taken.plantKey"
        >It was signed by a plant with key <span class="mono">{{ taken.plantKey.slice(0, 16) }}</span>: ask
        that plant whether this is its key.
      </template>
      <template v-else>No plant signed it: anybody could have made it. </template>
      {{ sayCompared(taken) }}
    </p>
  </section>
</template>

<style scoped>
.file {
  max-width: 520px;
}
</style>
