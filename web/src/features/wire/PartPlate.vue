<script setup lang="ts">
import { ownParts } from '@calm/contract/api/addresses'
import { PLACES, type Place } from '@calm/core/part/part-kind'
import { ownFrom } from '@calm/core/part/own-part'
import { partKind } from '@calm/core/part/index'
import { knownPart } from '@calm/core/part/wiring'
import { computed, ref, watch } from 'vue'
import { ApiProblem, call } from '../../api/call.ts'
import type { WiringBench } from './use-wiring-bench.ts'

/** A part's name, where it stands, what its plate says; and the plate kept for the plant. */
const { bench, id } = defineProps<{ bench: WiringBench; id: string }>()
const part = computed(() => bench.wiring.value.parts[id])
const name = ref(id)
const wrong = ref<string | null>(null)
const says = ref('')
watch(
  () => id,
  (now) => {
    name.value = now
    wrong.value = null
    says.value = ''
  },
)
function rename(): void {
  wrong.value = bench.rename(id, name.value.trim())
}
const STANDS: readonly { value: Place; title: string }[] = PLACES.filter((p) => p !== 'tool').map(
  (value) => ({
    value,
    title: {
      field: 'field',
      box: 'junction box',
      run: 'cable',
      cabinet: 'cabinet',
      rack: 'supply and receivers',
      tool: '',
    }[value],
  }),
)
const kind = computed(() => (part.value ? partKind(part.value.kind) : null))
const known = computed(() => (part.value ? knownPart(id, part.value) : null))
const place = computed(
  () => part.value?.place ?? known.value?.kind.placeOf?.(known.value.s) ?? kind.value?.place,
)
const title = computed(() => part.value?.nameplate?.title ?? kind.value?.title ?? '')
const plate = (change: { title?: string; printed?: Record<string, string> }) =>
  bench.setPart(id, {
    nameplate: { title: title.value, printed: part.value?.nameplate?.printed ?? {}, ...change },
  })
function print(terminal: string, text: string): void {
  const others = Object.entries(part.value?.nameplate?.printed ?? {}).filter(([t]) => t !== terminal)
  plate({ printed: Object.fromEntries(text.trim() === '' ? others : [...others, [terminal, text]]) })
}
async function keep(): Promise<void> {
  if (!part.value) return
  try {
    await call(ownParts.take, {}, { parts: [ownFrom(part.value, title.value)] })
    says.value = `Kept: “${title.value}” is among the parts to add, on every loop.`
  } catch (e) {
    if (!(e instanceof ApiProblem)) throw e
    says.value = e.problem.errors?.[0]?.says ?? e.message
  }
}
</script>

<template>
  <details v-if="part && known">
    <summary>Name, place and nameplate</summary>
    <div class="stack inner">
      <form class="field-grid" @submit.prevent="rename">
        <v-text-field v-model="name" label="Name" maxlength="24" :error-messages="wrong ?? []" />
        <v-btn type="submit" :disabled="name.trim() === id">Rename</v-btn>
      </form>
      <div class="field-grid">
        <v-select
          :model-value="place"
          :items="STANDS"
          label="Stands in"
          @update:model-value="bench.setPart(id, { place: $event })"
        />
        <v-text-field
          :model-value="title"
          label="It is a"
          maxlength="60"
          @update:model-value="plate({ title: $event })"
        />
        <v-text-field
          v-for="t in known.terminals"
          :key="t.id"
          :model-value="t.label"
          :label="`Terminal ${kind?.terminals(known.s).find((x) => x.id === t.id)?.label ?? t.id}, printed`"
          maxlength="10"
          @update:model-value="print(t.id, $event)"
        />
      </div>
      <v-btn class="start" @click="keep">Keep as a part of the plant’s own</v-btn>
      <p role="status">{{ says }}</p>
    </div>
  </details>
</template>

<style scoped>
summary {
  min-height: var(--target);
  align-content: center;
}
.inner {
  padding-top: 12px;
}
.start {
  align-self: start;
}
</style>
