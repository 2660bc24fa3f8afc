<script setup lang="ts">
import { today } from '@calm/contract/api/addresses'
import { computed } from 'vue'
import { call } from '../../api/call.ts'
import { useSubmit } from '../../api/submit.ts'
import { sayDay } from '../../ui/dates.ts'
import { sayItem } from './say-plan.ts'
import { usePlan } from './use-plan.ts'

/** What each packs for the day, ticked as it is packed; what nothing serves, and what runs short. */
const p = usePlan()
const plan = computed(() => p.plan.value)
const { says, submit } = useSubmit()
const tick = (person: string, what: string, packed: boolean) =>
  submit(async () => {
    await call(today.pack, {}, { id: crypto.randomUUID(), day: plan.value?.day ?? '', person, what, packed })
    await p.live.reload()
  })
const soon = (on: string | null) => on !== null && plan.value !== null && on < plan.value.day
type Kit = NonNullable<typeof plan.value>['kits'][number]
const linesOf = (k: Kit) => [
  ...k.instruments.map((x) => ({
    what: x.what,
    for: x.for,
    says: [
      x.certificateEnds === null ? '' : `certificate to ${sayDay(x.certificateEnds)}`,
      x.shared.length > 0 ? `handed on: ${x.shared.map((id) => p.nameOf.value.get(id)).join(', ')} too` : '',
    ]
      .filter(Boolean)
      .join('; '),
    bad: soon(x.certificateEnds),
  })),
  ...k.uses.map((u) => {
    const [name, unit] = sayItem(u.item)
    const short = u.stock !== null && u.amount > u.stock
    return {
      what: `${name}, ${u.amount} ${unit}`,
      for: u.for,
      says: u.stock === null ? 'stock is not counted' : `${u.stock} ${unit} in stock`,
      bad: short,
    }
  }),
  ...k.tools.map((x) => ({ what: x.what, for: x.for, says: '', bad: false })),
]
const packedOf = (k: Kit) => linesOf(k).filter((l) => k.packed.includes(l.what)).length
</script>

<template>
  <div v-if="plan" class="stack">
    <p v-if="plan.kits.length === 0" class="answer">Nothing is planned yet, so there is nothing to pack.</p>
    <p v-if="says" role="alert" class="wrong">{{ says }}</p>
    <ul v-if="plan.missing.length > 0" class="missing" aria-label="What is missing">
      <li v-for="m in plan.missing" :key="m">{{ m }}</li>
    </ul>
    <div class="columns">
      <section v-for="k in plan.kits" :key="k.person" :aria-label="p.nameOf.value.get(k.person)">
        <h2 class="part">
          {{ p.nameOf.value.get(k.person) }}
          <span class="quiet small">{{ packedOf(k) }} of {{ linesOf(k).length }} packed</span>
        </h2>
        <ul class="list">
          <li v-for="l in linesOf(k)" :key="l.what" :class="{ bad: l.bad }">
            <v-checkbox
              :model-value="k.packed.includes(l.what)"
              :disabled="!p.mayPlan.value"
              hide-details
              color="primary"
              @update:model-value="tick(k.person, l.what, $event === true)"
            >
              <template #label>
                <span>
                  {{ l.what }}
                  <span class="quiet small under">{{
                    [l.says, `for ${l.for.join(', ')}`].filter(Boolean).join('; ')
                  }}</span>
                </span>
              </template>
            </v-checkbox>
          </li>
        </ul>
      </section>
    </div>
  </div>
</template>

<style scoped>
.columns {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(300px, 1fr));
  gap: 24px;
}
.list {
  list-style: none;
  padding: 0;
}
.list li {
  border-bottom: var(--line) solid var(--hair);
}
.under {
  display: block;
}
.bad {
  background: var(--stop-surface);
}
.missing {
  padding: 8px 28px;
  background: var(--look-surface);
  border-radius: var(--corner);
}
.wrong {
  color: var(--stop);
}
</style>
