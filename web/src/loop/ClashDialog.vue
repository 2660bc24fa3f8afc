<script setup lang="ts">
import { ref } from 'vue'
import type { LoopDetail } from '@calm/contract/loops'
import type { Clash } from './loop-store.ts'
import { sayField, titleOfField } from '@calm/core/record/said-changes'
import { sayInstant } from '../ui/dates.ts'

/** Two people saved: fields that only one changed are joined; the others are asked, one by one. */
const { clash, mine: mineDocument } = defineProps<{ clash: Clash; mine: LoopDetail['document'] }>()
const theirs = clash.theirs.document
const emit = defineEmits<{ resolve: [mineAt: string[]]; cancel: [] }>()
const chosen = ref<Record<string, 'mine' | 'theirs'>>(
  Object.fromEntries(clash.merge.conflicts.map((c) => [c.path, 'theirs'])),
)
const done = () =>
  emit(
    'resolve',
    Object.keys(chosen.value).filter((p) => chosen.value[p] === 'mine'),
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
            {{ titleOfField(theirs, c.path) }}:
            <span class="mono">{{ sayField(mineDocument, c.path, c.after) }}</span> (yours)
          </li>
        </ul>
      </section>
      <section v-for="c in clash.merge.conflicts" :key="c.path">
        <h3>{{ titleOfField(theirs, c.path) }}</h3>
        <v-radio-group
          v-model="chosen[c.path]"
          :label="`It was ${sayField(theirs, c.path, c.base)}. Both of you changed it.`"
          hide-details
          color="primary"
        >
          <v-radio value="theirs" :label="`${clash.theirs.by}: ${sayField(theirs, c.path, c.theirs)}`" />
          <v-radio value="mine" :label="`yours: ${sayField(mineDocument, c.path, c.mine)}`" />
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
