<script setup lang="ts">
import { parseNumber } from '@calm/core/quantity/parse-number'
import { ref } from 'vue'
import { useRules, type Rules } from './use-rules.ts'

/** What a reading has to be in a procedure before it counts: typical numbers, the plant's own where it says so. */
const { rules, refused, decide, session } = useRules()
type Name = keyof Rules['gates']
const FIELDS: readonly { name: Name; label: string; unit: string }[] = [
  { name: 'still_s', label: 'Looked at over the link for', unit: 's' },
  { name: 'apart_s', label: 'Two typed readings apart by', unit: 's' },
  { name: 'input_pct', label: 'Input right within, of span', unit: '%' },
  { name: 'shift_pct', label: 'A trim shifts at most, of the upper limit', unit: '%' },
  { name: 'health_pct', label: 'Health figures may change by', unit: '%' },
  { name: 'rate_KPerMin', label: 'At rest temperature changes less than', unit: 'K/min' },
]
const wrong = ref<Partial<Record<Name, string>>>({})
async function change(name: Name, event: Event): Promise<void> {
  const read = parseNumber(event.target instanceof HTMLInputElement ? event.target.value : '')
  wrong.value = {}
  if (read.kind !== 'number') {
    wrong.value = { [name]: read.kind === 'refused' ? read.says : 'Type a number.' }
    return
  }
  if (!rules.value || read.value === rules.value.gates[name]) return
  await decide({ gates: { ...rules.value.gates, [name]: read.value } })
  if (refused.value !== null) wrong.value = { [name]: refused.value }
}
</script>

<template>
  <section v-if="rules" class="stack" aria-label="Readings in procedures">
    <h2>Readings in procedures</h2>
    <p class="quiet">
      Longer where damping or noise ask for it, wider where the standard is known no better. Who is at work
      goes on by what was asked at the beginning.
    </p>
    <div class="field-grid">
      <v-text-field
        v-for="f in FIELDS"
        :key="f.name"
        :label="f.label"
        :suffix="f.unit"
        :model-value="rules.gates[f.name]"
        :readonly="!session.isAdministrator"
        :error-messages="wrong[f.name] ?? []"
        inputmode="decimal"
        class="mono-field"
        @change="change(f.name, $event)"
      />
    </div>
  </section>
</template>
