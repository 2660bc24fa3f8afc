<script setup lang="ts">
import { CATALOGUE, calculationNamed } from '@calm/core/catalogue'
import { computed } from 'vue'
import FreePath from './FreePath.vue'
import SumForm from './SumForm.vue'

/** Every calculation without a loop; the list comes from the catalogue. */
const { name = '' } = defineProps<{ name?: string }>()
const chosen = computed(() => (name ? calculationNamed(name) : null))
const topics = computed(() => {
  const byTopic = new Map<string, (typeof CATALOGUE)[number][]>()
  for (const c of CATALOGUE) {
    const topic = c.name.split('.')[0] ?? ''
    byTopic.set(topic, [...(byTopic.get(topic) ?? []), c])
  }
  return [...byTopic]
})
</script>

<template>
  <div class="page sums">
    <nav class="list" aria-label="Calculations">
      <h1>Quick sums</h1>
      <router-link to="/quick-sums" class="sum" :class="{ here: !name }"
        >Signal path without a loop</router-link
      >
      <template v-for="[topic, list] in topics" :key="topic">
        <h2 class="small quiet topic">{{ topic }}</h2>
        <router-link
          v-for="c in list"
          :key="c.name"
          :to="`/quick-sums/${c.name}`"
          class="sum"
          active-class="here"
          >{{ c.title }}</router-link
        >
      </template>
    </nav>
    <section class="work">
      <SumForm v-if="chosen" :key="chosen.name" :calculation="chosen" />
      <p v-else-if="name">There is no calculation of this name. Choose one from the list.</p>
      <FreePath v-else />
    </section>
  </div>
</template>

<style scoped>
.sums {
  display: grid;
  grid-template-columns: 280px minmax(0, 1fr);
  gap: 28px;
}
.work {
  min-width: 0;
}
.list {
  display: flex;
  flex-direction: column;
}
.topic {
  padding: 12px 12px 2px;
  text-transform: capitalize;
}
.sum {
  display: flex;
  align-items: center;
  min-height: var(--row);
  padding: 4px 12px;
  color: var(--ink);
  text-decoration: none;
  border-radius: var(--corner);
}
.sum:hover {
  background: var(--surface);
}
.here {
  background: var(--surface);
  color: var(--accent);
  font-weight: 600;
}
@media (max-width: 900px) {
  .sums {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
