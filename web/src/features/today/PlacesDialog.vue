<script setup lang="ts">
import { sayItem } from '@calm/core/today/say-item'
import { loops, today } from '@calm/contract/api/addresses'
import type { PlantAtWork } from '@calm/core/today/plant-at-work'
import { mdiClose } from '@mdi/js'
import { computed, ref, watch } from 'vue'
import { call } from '../../api/call.ts'
import { useLive } from '../../api/live-cache.ts'
import { useSubmit } from '../../api/submit.ts'
import { usePlan } from './use-plan.ts'

/** Ways between the places of the plant, the usual shift, what lies in stock: what every plan rests on. */
const emit = defineEmits<{ close: [] }>()
const p = usePlan()
const live = useLive(today.plant, {})
const list = useLive(loops.list, { archived: 'no' })
const form = ref<PlantAtWork | null>(null)
watch(
  () => live.data.value,
  (told) => {
    if (told && form.value === null) form.value = structuredClone(told)
  },
  { immediate: true },
)
const areas = computed(() => [...new Set((list.data.value ?? []).map((l) => l.area))])
const places = computed(() => [form.value?.home ?? '', ...areas.value])
const ITEMS = [
  'couplant_g',
  'buffer_4_ml',
  'buffer_7_ml',
  'buffer_9_ml',
  'rinse_water_ml',
  'nitrogen_nl',
  'tape_cm',
  'film_cm2',
]
const items = computed(() => [...new Set([...Object.keys(form.value?.stock ?? {}), ...ITEMS])])
const whole = (text: string) => (text.trim() === '' ? NaN : Number(text))
/** The way between two places, both ways; nothing typed: the usual way. */
function wayOf(a: string, b: string): string {
  const w = form.value?.walk.find((x) => (x.a === a && x.b === b) || (x.a === b && x.b === a))
  return w ? String(w.minutes) : ''
}
function setWay(a: string, b: string, text: string): void {
  if (!form.value) return
  const others = form.value.walk.filter((x) => !((x.a === a && x.b === b) || (x.a === b && x.b === a)))
  form.value.walk = text.trim() === '' ? others : [...others, { a, b, minutes: whole(text) }]
}
function setStock(item: string, text: string): void {
  if (!form.value) return
  const others = Object.entries(form.value.stock).filter(([name]) => name !== item)
  form.value.stock = Object.fromEntries(text.trim() === '' ? others : [...others, [item, whole(text)]])
}
function setAbilities(person: string, text: string): void {
  if (!form.value) return
  const words = text
    .split(',')
    .map((t) => t.trim())
    .filter(Boolean)
  const others = Object.entries(form.value.abilities).filter(([id]) => id !== person)
  form.value.abilities = Object.fromEntries(words.length === 0 ? others : [...others, [person, words]])
}
const { busy, says, submit, at } = useSubmit()
async function save(): Promise<void> {
  const plant = form.value
  if (!plant) return
  const done = await submit(async () => {
    await call(today.changePlant, {}, { plant, reason: '' })
  })
  if (!done) return
  await p.live.reload()
  emit('close')
}
const wrongWay = computed(() => {
  const i = form.value?.walk.findIndex((_, k) => at(`plant.walk.${k}.minutes`) !== null) ?? -1
  const w = form.value?.walk[i]
  return w ? `${w.a} to ${w.b}: ${at(`plant.walk.${i}.minutes`) ?? ''}` : null
})
</script>

<template>
  <v-dialog
    :model-value="true"
    aria-labelledby="places-title"
    max-width="860"
    scrollable
    @update:model-value="emit('close')"
  >
    <v-card>
      <form v-if="form" class="stack" novalidate @submit.prevent="save">
        <h2 id="places-title">Places and stock</h2>
        <div class="field-grid">
          <v-text-field
            v-model="form.home"
            label="The day begins and ends at"
            :error-messages="at('plant.home') ?? []"
          />
          <v-text-field
            v-model="form.shift.from"
            type="time"
            label="Usual shift from"
            :error-messages="at('plant.shift.from') ?? []"
          />
          <v-text-field
            v-model="form.shift.to"
            type="time"
            label="to"
            :error-messages="at('plant.shift.to') ?? []"
          />
        </div>
        <h3>Minutes on foot</h3>
        <div class="scroll">
          <table>
            <thead>
              <tr>
                <th />
                <th v-for="b in places.slice(0, -1)" :key="b" scope="col">{{ b }}</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="(a, i) in places.slice(1)" :key="a">
                <th scope="row">{{ a }}</th>
                <td v-for="b in places.slice(0, i + 1)" :key="b">
                  <input
                    class="cell mono"
                    inputmode="numeric"
                    :aria-label="`Minutes from ${a} to ${b}`"
                    :placeholder="String(form.usualWalk_min)"
                    :value="wayOf(a, b)"
                    @change="setWay(a, b, ($event.target as HTMLInputElement).value)"
                  />
                </td>
              </tr>
            </tbody>
          </table>
        </div>
        <p v-if="wrongWay" class="wrong" role="alert">{{ wrongWay }}</p>
        <div class="field-grid">
          <v-text-field
            label="Minutes a floor, up or down"
            inputmode="numeric"
            hint="a loop’s floor stands with its area; without one it is on the ground"
            persistent-hint
            :model-value="Number.isNaN(form.floor_min) ? '' : form.floor_min"
            :error-messages="at('plant.floor_min') ?? []"
            @update:model-value="form.floor_min = whole(String($event))"
          />
        </div>
        <h3>In stock</h3>
        <p class="quiet small">What is left empty nobody counts, and no plan waits for it.</p>
        <div class="field-grid">
          <v-text-field
            v-for="item in items"
            :key="item"
            :label="sayItem(item).filter(Boolean).join(', ')"
            inputmode="decimal"
            :model-value="form.stock[item] ?? ''"
            :error-messages="at(`plant.stock.${item}`) ?? []"
            @update:model-value="setStock(item, String($event))"
          />
        </div>
        <h3>What people may do besides</h3>
        <p class="quiet small">
          Words as jobs ask for them, parted by commas: gas, insertion under pressure.
        </p>
        <div class="field-grid">
          <v-text-field
            v-for="x in p.plan.value?.people ?? []"
            :key="x.id"
            :label="x.name"
            :model-value="(form.abilities[x.id] ?? []).join(', ')"
            :error-messages="at(`plant.abilities.${x.id}.0`) ?? []"
            @change="setAbilities(x.id, ($event.target as HTMLInputElement).value)"
          />
        </div>
        <h3>Who releases hold points</h3>
        <div v-for="(h, i) in form.holders" :key="i" class="row">
          <v-text-field v-model="h.role" label="Role" hide-details />
          <v-text-field v-model="h.name" label="Name" hide-details />
          <v-text-field v-model="h.from" type="time" label="from" hide-details class="time" />
          <v-text-field v-model="h.to" type="time" label="to" hide-details class="time" />
          <v-btn
            :icon="mdiClose"
            variant="text"
            size="48"
            :aria-label="`Take ${h.name} away`"
            @click="form.holders.splice(i, 1)"
          />
        </div>
        <v-btn
          variant="text"
          height="48"
          @click="form.holders.push({ role: '', name: '', from: '06:00', to: '14:00' })"
          >One more</v-btn
        >
        <p v-if="says" class="wrong" role="alert">{{ says }}</p>
        <div class="row">
          <v-btn
            v-if="p.mayPlan.value"
            type="submit"
            color="primary"
            variant="flat"
            height="48"
            :loading="busy"
            >Save</v-btn
          >
          <v-btn variant="text" height="48" @click="emit('close')">Close</v-btn>
        </div>
      </form>
    </v-card>
  </v-dialog>
</template>

<style scoped>
table {
  border-collapse: collapse;
}
th {
  font-weight: 400;
  text-align: left;
  padding: 4px 8px;
  font-size: var(--size-s);
}
.cell {
  width: 72px;
  min-height: 48px;
  text-align: right;
  padding: 0 8px;
  border: var(--line) solid var(--hair);
  border-radius: var(--corner);
  background: var(--surface);
  color: var(--ink);
}
.time {
  max-width: 120px;
}
.wrong {
  color: var(--stop);
}
</style>
