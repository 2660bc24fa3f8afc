<script setup lang="ts">
import { ref } from 'vue'
import type { Clash } from './loop-store.ts'
import { sayValue } from '../ui/say-value.ts'
import { sayInstant } from '../ui/dates.ts'

/** Two people saved: fields that only one changed are joined; the others are asked, one by one. */
const { clash } = defineProps<{ clash: Clash }>()
const emit = defineEmits<{ resolve: [mineAt: string[]]; cancel: [] }>()
const mine = ref<Record<string, 'mine' | 'theirs'>>(
  Object.fromEntries(clash.merge.conflicts.map((c) => [c.path, 'theirs'])),
)
const done = () =>
  emit(
    'resolve',
    Object.keys(mine.value).filter((p) => mine.value[p] === 'mine'),
  )
</script>

<template>
  <v-dialog :model-value="true" persistent aria-labelledby="clash-title">
    <v-card class="stack">
      <h2 id="clash-title">
        {{ clash.theirs.by }} saved revision {{ clash.theirs.number }} while you were changing this loop
      </h2>
      <p class="quiet">{{ sayInstant(clash.theirs.at) }}. Nothing of yours is lost.</p>
      <section v-if="clash.merge.mine.length > 0">
        <h3>Joined without asking</h3>
        <ul class="plain">
          <li v-for="c in clash.merge.mine" :key="c.path">
            {{ c.name }}: <span class="mono">{{ sayValue(c.after) }}</span> (yours)
          </li>
        </ul>
      </section>
      <section v-for="c in clash.merge.conflicts" :key="c.path">
        <h3>{{ c.name }}</h3>
        <v-radio-group
          v-model="mine[c.path]"
          :label="`It was ${sayValue(c.base)}. Both of you changed it.`"
          hide-details
          color="primary"
        >
          <v-radio value="theirs" :label="`${clash.theirs.by}: ${sayValue(c.theirs)}`" />
          <v-radio value="mine" :label="`yours: ${sayValue(c.mine)}`" />
        </v-radio-group>
      </section>
      <div class="row">
        <v-btn color="primary" variant="flat" height="48" @click="done">Save the joined version</v-btn>
        <v-btn variant="text" @click="emit('cancel')">Back to my changes</v-btn>
      </div>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.plain {
  padding-left: 20px;
}
</style>
