<script setup lang="ts">
import type { Calculation } from '@calm/core/calculation'
import { computed, ref } from 'vue'
import { compute, fieldsOf } from './use-calculation.ts'

/** One calculation: its inputs, its answer, and where the formula comes from. */
const { calculation } = defineProps<{ calculation: Calculation }>()
const fields = fieldsOf(calculation)
const typed = ref<Record<string, string>>(Object.fromEntries(fields.map((f) => [f.name, f.start])))
const result = computed(() => compute(calculation, fields, typed.value))
const wrongAt = (name: string) => (result.value.kind === 'refused' ? result.value.at.get(name) : undefined)
</script>

<template>
  <div class="stack">
    <h2>{{ calculation.title }}</h2>
    <div class="two-sides">
      <form class="stack" :aria-label="calculation.title" novalidate @submit.prevent>
        <template v-for="f in fields" :key="f.name">
          <v-select
            v-if="f.kind === 'choice'"
            v-model="typed[f.name]"
            :items="f.choices"
            :label="f.name"
            :hint="f.says"
            :error-messages="wrongAt(f.name)"
          />
          <v-textarea
            v-else-if="f.kind === 'data'"
            v-model="typed[f.name]"
            :label="f.name"
            rows="6"
            auto-grow
            class="mono-field"
            :hint="f.says"
            :error-messages="wrongAt(f.name)"
          />
          <v-text-field
            v-else
            v-model="typed[f.name]"
            :label="f.required ? f.name : `${f.name} (may stay empty)`"
            class="mono-field"
            :hint="f.says"
            persistent-hint
            :inputmode="f.kind === 'number' ? 'decimal' : 'text'"
            :error-messages="wrongAt(f.name)"
          />
        </template>
      </form>
      <div class="stack" aria-live="polite">
        <dl v-if="result.kind === 'result'" class="answer">
          <template v-for="r in result.rows" :key="r.name">
            <dt class="quiet">{{ r.name || 'result' }}</dt>
            <dd class="mono">{{ r.value }}</dd>
          </template>
        </dl>
        <p v-for="s in result.kind === 'refused' ? result.says : []" :key="s" class="wrong">{{ s }}</p>
        <p v-if="result.kind === 'refused' && result.says.length === 0" class="quiet">
          The answer comes when every field can be used.
        </p>
        <p class="small quiet">Source: {{ calculation.source }}</p>
      </div>
    </div>
  </div>
</template>

<style scoped>
.answer {
  display: grid;
  grid-template-columns: max-content minmax(0, 1fr);
  gap: 6px 20px;
  font-size: var(--size-l);
}
.answer dd {
  overflow-wrap: anywhere;
}
.wrong {
  color: var(--stop);
}
</style>
