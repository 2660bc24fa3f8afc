<script setup lang="ts">
import {
  OPTIONAL_STAGES,
  onSide,
  SIDED_STAGES,
  sideOf,
  withoutStage,
  withStage,
  type OptionalStage,
  type SidedStage,
} from '@calm/core/loop/optional-stages'
import { RETYPED, type Retyped } from '@calm/core/scale/type-change'
import { printedUnit } from '@calm/core/quantity/units'
import { sayRelay } from '@calm/core/signal/relay-plan'
import { stageOf } from '@calm/core/signal/stage'
import { STATION_NAMES } from '@calm/core/signal/station-names'
import { mdiClose, mdiPlus } from '@mdi/js'
import { computed } from 'vue'
import { useLoop } from '../../loop/loop-store.ts'
import { useDocumentField } from '../../loop/use-document-field.ts'
import NumberField from '../../ui/NumberField.vue'
import UnitPicker from '../../ui/UnitPicker.vue'
import KeyInList from './KeyInList.vue'
import TypeChange from './TypeChange.vue'

/** Stages besides the usual ones, each with what it was told; and the relays on the same axis. */
const { readonly } = defineProps<{ readonly: boolean }>()
const loop = useLoop()
const at = useDocumentField(() => readonly)
const path = computed(() => loop.draft?.path ?? [])
const has = (kind: OptionalStage) => path.value.some((s) => s.kind === kind)
const missing = computed(() => OPTIONAL_STAGES.filter((k) => !has(k)))
const transmitter = computed(() => stageOf(path.value, 'transmitter'))
const unit = computed(() => transmitter.value?.range.unit ?? '%')
const converter = computed(() => stageOf(path.value, 'converter'))
const display = computed(() => stageOf(path.value, 'display'))
const add = (kind: OptionalStage) => loop.setField('path', withStage(path.value, kind))
const remove = (kind: OptionalStage) => loop.setField('path', withoutStage(path.value, kind))
const sided = computed(() =>
  SIDED_STAGES.flatMap((kind) => {
    const side = sideOf(path.value, kind)
    return side ? [{ kind, side }] : []
  }),
)
const move = (kind: SidedStage, side: 'before' | 'behind') =>
  loop.setField('path', onSide(path.value, kind, side))
const PLACES = [
  { value: 'before', title: 'before the isolator' },
  { value: 'behind', title: 'behind the isolator' },
]
const there = computed(() => OPTIONAL_STAGES.filter(has))
const isRetyped = (k: OptionalStage): k is Retyped => RETYPED.some((r) => r === k)

interface Entry {
  readonly path: string
  readonly unit: string | null
  readonly label: string
}
const entry = (p: string, u: string | null, label: string): Entry => ({ path: `path.${p}`, unit: u, label })
const FIELDS: Partial<Record<OptionalStage, readonly Entry[]>> = {
  frequency: [
    entry('frequency.frequency_Hz', 'Hz', 'Frequency'),
    entry('frequency.atRate', null, 'at a flow of'),
    entry('frequency.limit_Hz', 'Hz', 'Output makes up to'),
    entry('frequency.width_ms', 'ms', 'Pulse width'),
  ],
  totalizer: [
    entry('totalizer.unitsPerPulse', null, 'Units per pulse'),
    entry('totalizer.limit_Hz', 'Hz', 'Counter takes up to'),
  ],
  isolator: [
    entry('isolator.inLow_mA', 'mA', 'Takes from'),
    entry('isolator.inHigh_mA', 'mA', 'to'),
    entry('isolator.outLow_mA', 'mA', 'Gives from'),
    entry('isolator.outHigh_mA', 'mA', 'to'),
  ],
  converter: [
    entry('converter.range.low', null, 'At 4 mA'),
    entry('converter.range.high', null, 'At 20 mA'),
    entry('converter.decimals', null, 'Decimals'),
  ],
  input: [entry('input.volts20', 'V', 'Card takes at 20 mA (empty: the shunt’s own)')],
  controller: [
    entry('controller.m4', null, 'Scaling block, code at 4 mA (empty: the card’s)'),
    entry('controller.m20', null, 'Scaling block, code at 20 mA'),
  ],
  display: [entry('display.decimals', null, 'Decimals')],
}
const trips = computed(() => loop.draft?.trips ?? [])
const limits = computed(() => stageOf(path.value, 'sensor')?.limits)
const addLimits = () =>
  loop.setField(
    'path.sensor.limits',
    transmitter.value
      ? { low: Math.min(transmitter.value.range.low, 0), high: transmitter.value.range.high * 2 }
      : undefined,
  )
const SOURCES = [
  { value: 'controller', title: 'from the controller' },
  { value: 'current', title: 'from the loop current' },
  { value: 'converter', title: 'from the converter' },
]
const CHANNELS = [
  { value: 1, title: 'channel 1' },
  { value: 2, title: 'channel 2' },
]
</script>

<template>
  <KeyInList :readonly="readonly" />
  <section class="stack" aria-label="Stages and relays">
    <h2>Stages and relays</h2>
    <fieldset v-for="k in there" :key="k">
      <legend>
        {{ STATION_NAMES[k] }}
        <v-btn
          v-if="!readonly"
          :icon="mdiClose"
          variant="text"
          :aria-label="`Remove the ${STATION_NAMES[k].toLowerCase()} from the line`"
          @click="remove(k)"
        />
      </legend>
      <div class="field-grid">
        <NumberField
          v-for="f in FIELDS[k] ?? []"
          :key="f.path"
          v-bind="at(f.path, f.unit)"
          :label="f.label"
        />
        <template v-if="k === 'converter' && converter">
          <UnitPicker
            :model-value="converter.range.unit"
            :readonly="readonly"
            @update:model-value="loop.setField('path.converter.range.unit', $event)"
          />
          <v-select
            :model-value="converter.channel"
            :items="CHANNELS"
            label="Channel"
            :readonly="readonly"
            @update:model-value="loop.setField('path.converter.channel', $event)"
          />
        </template>
        <v-select
          v-if="k === 'display' && display"
          :model-value="display.from"
          :items="SOURCES"
          label="Takes its signal"
          :readonly="readonly"
          @update:model-value="loop.setField('path.display.from', $event)"
        />
        <template v-for="s in sided" :key="s.kind">
          <v-select
            v-if="s.kind === k"
            :model-value="s.side"
            :items="PLACES"
            label="Sits in the loop"
            :readonly="readonly"
            @update:model-value="move(s.kind, $event)"
          />
        </template>
      </div>
      <TypeChange v-if="!readonly && isRetyped(k)" :kind="k" />
    </fieldset>
    <div v-if="!readonly" class="row">
      <v-btn v-for="k in missing" :key="k" variant="text" :prepend-icon="mdiPlus" @click="add(k)">{{
        STATION_NAMES[k]
      }}</v-btn>
    </div>
    <fieldset>
      <legend>Sensor limits</legend>
      <div v-if="limits" class="field-grid">
        <NumberField v-bind="at('path.sensor.limits.low', unit)" label="Lowest it measures" />
        <NumberField v-bind="at('path.sensor.limits.high', unit)" label="Highest it measures" />
      </div>
      <v-btn v-else-if="!readonly" variant="text" :prepend-icon="mdiPlus" @click="addLimits"
        >Limits of the sensor</v-btn
      >
    </fieldset>
    <fieldset>
      <legend>Relays</legend>
      <p v-for="t in trips" :key="t.name">{{ sayRelay(t, printedUnit(unit)) }}</p>
      <p>
        <router-link v-if="loop.detail" :to="`/loops/${loop.detail.tag}/wire?view=trips`">{{
          trips.length > 0 ? 'Change the relays' : 'Plan a relay'
        }}</router-link>
      </p>
    </fieldset>
  </section>
</template>

<style scoped>
fieldset {
  border: 0;
  padding: 0;
  margin: 0;
}
legend {
  font-weight: 600;
  display: flex;
  align-items: center;
  min-height: var(--target);
}
.trip {
  display: grid;
  grid-template-columns: 1fr 1fr 1fr auto;
  gap: 8px;
  margin-bottom: 8px;
}
</style>
