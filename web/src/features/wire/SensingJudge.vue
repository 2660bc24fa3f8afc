<script setup lang="ts">
import { judgeSensing, METALS, type SensingPlace } from '@calm/core/family/switch/sensing-judgement'
import { judgeLoad } from '@calm/core/wire/load-judgement'
import { computed, ref } from 'vue'
import FindingRow from '../../ui/FindingRow.vue'
import NumberField from '../../ui/NumberField.vue'
import type { WiringBench } from './use-wiring-bench.ts'

/** Distance, metal and speed: will the sensor see every target, and will the card count it. */
const { bench } = defineProps<{ bench: WiringBench }>()
const load = computed(() => judgeLoad(bench.sound.value))
/** As it was left: it outlives the view that it is typed in. */
const place = bench.sensing
const judged = computed(() => judgeSensing(place.value))
const metals = Object.entries(METALS).map(([value, m]) => ({ value, title: `${m.title}, × ${m.factor}` }))
type NumberName = {
  [K in keyof SensingPlace]: SensingPlace[K] extends number ? K : never
}[keyof SensingPlace]
interface Field {
  readonly name: NumberName
  readonly label: string
  readonly unit: string | null
  readonly min: number
  readonly says: string
}
const above = 'It must be above 0.'
const FIELDS: readonly Field[] = [
  { name: 'ratedDistance_mm', label: 'Rated distance Sn', unit: 'mm', min: 0.1, says: above },
  { name: 'diameter_mm', label: 'Sensor diameter', unit: 'mm', min: 1, says: above },
  {
    name: 'sizeFactor',
    label: 'Size factor of a small target',
    unit: null,
    min: 0.05,
    says: 'Between 0.05 and 1.',
  },
  { name: 'gap_mm', label: 'Target passes at', unit: 'mm', min: 0, says: 'It cannot be below 0.' },
  { name: 'release_mm', label: 'Target gone stands at', unit: 'mm', min: 0, says: 'It cannot be below 0.' },
  { name: 'speed_mPerS', label: 'Speed', unit: 'm/s', min: 0.001, says: above },
  { name: 'targetLength_mm', label: 'Target length', unit: 'mm', min: 0.1, says: above },
  { name: 'gapLength_mm', label: 'Gap between targets', unit: 'mm', min: 0.1, says: above },
  { name: 'sensorFrequency_Hz', label: 'Sensor switches up to', unit: 'Hz', min: 0.1, says: above },
  { name: 'inputFilter_ms', label: 'Input filter', unit: 'ms', min: 0, says: 'It cannot be below 0.' },
  { name: 'scan_ms', label: 'Controller scan', unit: 'ms', min: 0.01, says: above },
]
const wrong = ref<Partial<Record<NumberName, string>>>({})
function set(f: Field, value: number | null): void {
  if (value === null || value < f.min || (f.name === 'sizeFactor' && value > 1)) {
    wrong.value = { ...wrong.value, [f.name]: f.says }
    return
  }
  wrong.value = { ...wrong.value, [f.name]: undefined }
  place.value = { ...place.value, [f.name]: value }
}
const SCALE_END = computed(
  () => Math.max(place.value.gap_mm, place.value.release_mm, judged.value.released_mm) * 1.15,
)
const x = (mm: number) => 20 + (mm / SCALE_END.value) * 520
</script>

<template>
  <section class="two-sides" aria-label="Sensing">
    <div class="stack">
      <h2>Sensor, target and speed</h2>
      <div class="field-grid">
        <v-select v-model="place.metal" :items="metals" label="Target’s metal" />
        <NumberField
          v-for="f in FIELDS"
          :key="f.name"
          :model-value="place[f.name]"
          :label="f.label"
          :unit="f.unit"
          :error="wrong[f.name] ?? null"
          @update:model-value="set(f, $event)"
        />
      </div>
    </div>
    <div class="stack">
      <figure>
        <figcaption class="small quiet">Distances in front of the sensor, to scale</figcaption>
        <svg
          viewBox="0 0 580 120"
          role="img"
          :aria-label="`Assured up to ${judged.assured_mm.toFixed(2)} mm, released beyond ${judged.released_mm.toFixed(2)} mm, target at ${place.gap_mm} mm, gone at ${place.release_mm} mm`"
        >
          <rect class="face" x="4" y="30" width="16" height="60" />
          <rect class="assured" :x="20" y="44" :width="x(judged.assured_mm) - 20" height="32" />
          <rect
            class="maybe"
            :x="x(judged.assured_mm)"
            y="44"
            :width="x(judged.released_mm) - x(judged.assured_mm)"
            height="32"
          />
          <text :x="(20 + x(judged.assured_mm)) / 2" y="64" text-anchor="middle">sees</text>
          <text :x="(x(judged.assured_mm) + x(judged.released_mm)) / 2" y="64" text-anchor="middle">
            perhaps
          </text>
          <g v-for="(m, i) in [place.gap_mm, place.release_mm]" :key="i">
            <line :x1="x(m)" y1="26" :x2="x(m)" y2="94" class="target" :class="{ gone: i === 1 }" />
            <text :x="x(m)" :y="i === 0 ? 18 : 112" text-anchor="middle">
              {{ i === 0 ? 'target' : 'gone' }} {{ m }} mm
            </text>
          </g>
        </svg>
      </figure>
      <FindingRow v-for="f in judged.findings" :key="f.code" :finding="f" />
      <template v-if="load.length > 0">
        <h2>Output, load and input as wired</h2>
        <FindingRow v-for="f in load" :key="f.code" :finding="f" />
      </template>
      <p class="small quiet">
        Flush types may sit level with metal; others need about a diameter free around them. Opposite metal
        stays three rated distances away.
      </p>
    </div>
  </section>
</template>

<style scoped>
svg {
  width: 100%;
  background: var(--surface);
  border: var(--line) solid var(--hair);
  border-radius: var(--corner);
}
text {
  font-family: var(--mono);
  font-size: 12px;
  fill: var(--ink);
}
.face {
  fill: var(--quiet);
}
.assured {
  fill: none;
  stroke: var(--good);
  stroke-width: 2;
}
.maybe {
  fill: var(--look-surface);
  stroke: var(--look);
  stroke-dasharray: 4 4;
}
.target {
  stroke: var(--accent);
  stroke-width: 3;
}
.gone {
  stroke-dasharray: 4 4;
}
</style>
