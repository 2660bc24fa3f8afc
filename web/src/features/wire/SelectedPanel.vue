<script setup lang="ts">
import { settings as plant } from '@calm/contract/api/addresses'
import {
  PART_FAULTS,
  sayFault,
  SOURCE_FAULT,
  TERMINAL_FAULT,
  WIRE_FAULTS,
  type Fault,
} from '@calm/core/part/fault'
import { withInputWord } from '@calm/core/part/input-words'
import { knownPart, sayTerminal, terminalAt, WIRE_COLOURS } from '@calm/core/part/wiring'
import { shownSettings } from '@calm/core/quantity/setting'
import { meterInSeries, withMeter } from '@calm/core/wire/meter'
import { computed } from 'vue'
import { useLive } from '../../api/live-cache.ts'
import { useLoop } from '../../loop/loop-store.ts'
import NumberField from '../../ui/NumberField.vue'
import PartPlate from './PartPlate.vue'
import type { WiringBench } from './use-wiring-bench.ts'

/** What is chosen in the drawing: its label data, what can be done with it, and the faults to try on it. */
const { bench, readonly = false } = defineProps<{ bench: WiringBench; readonly?: boolean }>()
const loop = useLoop()

const part = computed(() => {
  const s = bench.selection.value
  const wired = s?.kind === 'part' ? bench.wiring.value.parts[s.id] : undefined
  return wired && s ? knownPart(s.id, wired) : null
})
const wire = computed(() => {
  const s = bench.selection.value
  const found = s?.kind === 'wire' ? bench.sound.value.wires[s.id] : undefined
  return found && s ? { id: s.id, ...found } : null
})
const terminal = computed(() => {
  const s = bench.selection.value
  return s?.kind === 'terminal' && terminalAt(bench.sound.value, s.id) ? s.id : null
})
const rules = useLive(plant.rules, {})
const settings = computed(() => {
  const p = part.value
  if (!p) return []
  // The meter's jack and dial stand beside its reading.
  const here = p.kind.duty === 'meter' ? p.kind.settings.filter((s) => s.kind === 'number') : p.kind.settings
  return shownSettings(here, p.s).map((s) =>
    withInputWord(s, p.kind.kind, rules.data.value?.inputWords ?? 'card'),
  )
})
const wrong = (name: string) => loop.wrong.get(`wiring.parts.${part.value?.id}.settings.${name}`) ?? null
const colours = WIRE_COLOURS.map((value) => ({ value, title: value }))
const amps = computed(() => (wire.value ? bench.solved.value.wire_A(wire.value.id) : null))

const toZero = (at: string): string => {
  const v = bench.solved.value.toGround(at)
  return v === null ? 'isolated from 0 V' : `${v.toFixed(3)} V to 0 V`
}
const faults = computed((): { title: string; fault: Fault }[] => {
  const w = wire.value
  if (w) {
    const forward = (amps.value ?? 0) >= 0 ? 1 : -1
    return WIRE_FAULTS.map((f) => {
      const fault = f.make(w.id)
      return {
        title: f.title,
        fault: fault.kind === 'doubleSupply' ? { ...fault, volts: forward * fault.volts } : fault,
      }
    })
  }
  const p = part.value
  if (p)
    return [
      ...(p.kind.testPoints ? PART_FAULTS.map((f) => ({ title: f.title, fault: f.make(p.id) })) : []),
      ...(p.kind.duty === 'source' ? [{ title: SOURCE_FAULT.title, fault: SOURCE_FAULT.make(p.id) }] : []),
    ]
  return terminal.value ? [{ title: TERMINAL_FAULT.title, fault: TERMINAL_FAULT.make(terminal.value) }] : []
})

function meterHere(): void {
  const w = wire.value
  if (!w) return
  const { wiring, meter } = withMeter(bench.wiring.value)
  const inJack = {
    ...wiring,
    parts: { ...wiring.parts, [meter]: { kind: 'multimeter', settings: { jack: 'mA', dial: 'mA' } } },
  }
  bench.change(meterInSeries(inJack, meter, w.id, (amps.value ?? 0) >= 0 ? 'from' : 'to'))
  bench.select({ kind: 'part', id: meter })
}
</script>

<template>
  <section class="stack" aria-label="What is chosen">
    <template v-if="part">
      <h2>
        <span class="mono">{{ part.id }}</span> {{ part.kind.title }}
      </h2>
      <p v-if="part.kind.caution?.(part.s)" class="caution">{{ part.kind.caution(part.s) }}</p>
      <div v-if="settings.length > 0" class="field-grid">
        <template v-for="s in settings" :key="`${part.id}.${s.name}`">
          <NumberField
            v-if="s.kind === 'number'"
            :model-value="Number(part.s[s.name])"
            :label="s.unit ? `${s.title}, ${s.unit}` : s.title"
            :error="wrong(s.name)"
            :readonly="readonly"
            @update:model-value="$event !== null && bench.setSetting(part.id, s.name, $event)"
          />
          <v-select
            v-else-if="s.kind === 'choice'"
            :model-value="String(part.s[s.name])"
            :items="s.options"
            :label="s.title"
            :readonly="readonly"
            @update:model-value="bench.setSetting(part.id, s.name, String($event))"
          />
          <v-checkbox
            v-else
            :model-value="part.s[s.name] === true"
            :label="s.title"
            :readonly="readonly"
            @update:model-value="bench.setSetting(part.id, s.name, $event === true)"
          />
        </template>
      </div>
    </template>
    <template v-else-if="wire">
      <h2>
        Wire <span class="mono">{{ wire.id }}</span>
      </h2>
      <p class="mono">
        {{ sayTerminal(bench.sound.value, wire.from) }} → {{ sayTerminal(bench.sound.value, wire.to) }}
      </p>
      <p class="mono">
        {{
          amps === null
            ? 'no reading'
            : `${Math.abs(amps * 1000).toFixed(3)} mA ${amps < 0 ? 'the other way' : 'that way'}`
        }}, {{ toZero(wire.from) }}
      </p>
      <div class="field-grid">
        <v-select
          :model-value="wire.colour"
          :items="colours"
          label="Colour"
          :readonly="readonly"
          @update:model-value="bench.setWire(wire.id, { colour: $event })"
        />
        <v-text-field
          :model-value="wire.ferrule"
          label="Ferrule"
          maxlength="20"
          :readonly="readonly"
          @update:model-value="bench.setWire(wire.id, { ferrule: $event })"
        />
      </div>
      <v-btn v-if="!readonly" @click="meterHere">Open it and put the meter in series</v-btn>
    </template>
    <template v-else-if="terminal">
      <h2>
        Terminal <span class="mono">{{ sayTerminal(bench.sound.value, terminal) }}</span>
      </h2>
      <p>Now choose the terminal it goes to. The same one again lets go.</p>
    </template>
    <p v-else class="quiet">
      Choose a terminal and then another to join them, or drag from one to the other. Choose a wire or a part
      to see what it carries.
    </p>
    <div v-if="faults.length > 0" class="row" role="group" aria-label="Faults to try">
      <span class="quiet small">Try a fault:</span>
      <v-btn v-for="f in faults" :key="f.title" variant="text" @click="bench.putFault(f.fault)">{{
        f.title
      }}</v-btn>
    </div>
    <PartPlate v-if="part && !readonly" :id="part.id" :bench="bench" />
    <div v-if="(part || wire) && !readonly" class="row">
      <v-btn v-if="part" variant="text" @click="bench.duplicate(part.id)">One more like it</v-btn>
      <v-btn variant="text" @click="bench.removeSelected()">
        Take {{ part ? part.id : `wire ${wire?.id}` }} out
      </v-btn>
    </div>
    <div v-if="bench.state.value.faults.length > 0" class="faults">
      <h3>Faults put in</h3>
      <ul>
        <li v-for="(f, i) in bench.state.value.faults" :key="i" class="row">
          {{ sayFault(f) }}
          <v-btn variant="text" @click="bench.mend(f)">Mend</v-btn>
        </li>
      </ul>
    </div>
  </section>
</template>

<style scoped>
.caution {
  border-left: 4px solid var(--look);
  padding-left: 12px;
}
ul {
  list-style: none;
  padding: 0;
}
</style>
