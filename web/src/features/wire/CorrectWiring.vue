<script setup lang="ts">
import { connect } from '@calm/core/wire/connect/index'
import type { Wiring } from '@calm/core/part/wiring'
import { computed } from 'vue'
import StateMark from '../../ui/StateMark.vue'
import type { WiringBench } from './use-wiring-bench.ts'

/** The correct wiring of these parts, or why there is none and what would mend it. */
const { bench } = defineProps<{ bench: WiringBench }>()
const open = defineModel<boolean>({ required: true })
const told = computed(() =>
  open.value ? connect(bench.sound.value, bench.state.value.relays ?? null) : null,
)
const hasWires = computed(() => Object.keys(bench.sound.value.wires).length > 0)
function take(wiring: Wiring): void {
  bench.change(wiring)
  open.value = false
}
</script>

<template>
  <v-dialog v-model="open" aria-labelledby="correct-wiring">
    <v-card v-if="told">
      <div class="stack">
        <h2 id="correct-wiring">
          {{ told.kind === 'wired' ? 'Correct wiring of these parts' : 'These parts cannot work together' }}
        </h2>
        <p>{{ told.says }}</p>
        <p v-if="told.kind === 'wired' && told.short" role="alert">
          <StateMark state="look" word="Too few volts" />
          {{ told.short }}
        </p>
        <template v-if="told.kind === 'wired'">
          <p v-if="hasWires" class="quiet">The wires drawn so far are replaced; undo brings them back.</p>
          <div class="row">
            <v-btn color="primary" variant="flat" @click="take(told.wiring)">Draw it</v-btn>
            <v-btn variant="text" @click="open = false">Leave as it is</v-btn>
          </div>
        </template>
        <template v-else>
          <template v-if="told.remedies.length > 0">
            <h3>What helps, the best first</h3>
            <ol class="stack remedies">
              <li v-for="r in told.remedies" :key="r.id">
                <strong>{{ r.title }}</strong>
                <p class="small">{{ r.says }}</p>
                <v-btn :aria-label="`Draw it with: ${r.title}`" @click="take(r.wiring)">Draw it</v-btn>
              </li>
            </ol>
          </template>
          <v-btn variant="text" class="start" @click="open = false">Close</v-btn>
        </template>
        <p class="quiet small">Local code, the site’s permits and the devices’ manuals decide.</p>
      </div>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.remedies {
  padding-left: 20px;
}
.start {
  align-self: start;
}
</style>
