<script setup lang="ts">
import { sayItem } from '@calm/core/today/say-item'
import { today } from '@calm/contract/api/addresses'
import { computed } from 'vue'
import { sayNumber } from '@calm/core/quantity/round'
import { call } from '../../api/call.ts'
import { useSubmit } from '../../api/submit.ts'
import { sayDay } from '../../ui/dates.ts'
import { usePlan } from './use-plan.ts'

/** What each packs for the day, ticked as it is packed; what nothing serves, and what runs short. */
const p = usePlan()
const plan = computed(() => p.plan.value)
const { says, submit, at } = useSubmit()
const tick = (person: string, l: { id: string; takes: number | null }, packed: boolean) =>
  submit(async () => {
    const takes = l.takes === null ? {} : { takes: l.takes }
    const day = plan.value?.day ?? ''
    await call(today.pack, {}, { id: crypto.randomUUID(), day, person, what: l.id, packed, ...takes })
    await p.live.reload()
  })
const soon = (on: string | null) => on !== null && plan.value !== null && on < plan.value.day
type Kit = NonNullable<typeof plan.value>['kits'][number]
const linesOf = (k: Kit) => [
  ...k.instruments.map((x) => ({
    what: x.what,
    id: x.what,
    takes: null,
    isPacked: k.packed.includes(x.what),
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
    // What is packed is out of the stock; a plan that needs more since asks for the rest.
    const isWhole = u.stock === null ? k.packed.includes(u.item) : u.packed >= u.amount
    const left = u.stock === null ? 'stock is not counted' : `${sayNumber(u.stock, 6)} ${unit} left in stock`
    return {
      what: `${name}, ${sayNumber(u.amount, 6)} ${unit}`,
      id: u.item,
      takes: u.amount,
      isPacked: k.packed.includes(u.item) && isWhole,
      for: u.for,
      says: u.packed > 0 && !isWhole ? `${sayNumber(u.packed, 6)} ${unit} packed; ${left}` : left,
      bad: u.stock !== null && u.amount > u.stock + u.packed,
    }
  }),
  ...k.tools.map((x) => ({
    ...{ what: x.what, id: x.what, takes: null, for: x.for, says: '', bad: false },
    isPacked: k.packed.includes(x.what),
  })),
]
const packedOf = (k: Kit) => linesOf(k).filter((l) => l.isPacked).length
</script>

<template>
  <div v-if="plan" class="stack">
    <p v-if="plan.kits.length === 0" class="answer">Nothing is planned yet, so there is nothing to pack.</p>
    <p v-if="says ?? at('takes')" role="alert" class="wrong">{{ says ?? at('takes') }}</p>
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
              :model-value="l.isPacked"
              :disabled="!p.mayPlan.value"
              hide-details
              color="primary"
              @update:model-value="tick(k.person, l, $event === true)"
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
