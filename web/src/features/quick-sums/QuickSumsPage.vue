<script setup lang="ts">
import { CATALOGUE, calculationNamed } from '@calm/core/catalogue'
import { SUMS } from '@calm/core/sums/words'
import { mdiMagnify } from '@mdi/js'
import { computed, ref } from 'vue'
import FreePath from './FreePath.vue'
import SumForm from './SumForm.vue'

/** Every calculation that needs no loop, by topic; the list comes from the catalogue. */
const { name = '' } = defineProps<{ name?: string }>()
const chosen = computed(() => (name in SUMS ? calculationNamed(name) : null))
const find = ref('')
const topics = computed(() => {
  const words = find.value.toLowerCase().split(/\s+/).filter(Boolean)
  const byTopic = new Map<string, (typeof CATALOGUE)[number][]>()
  for (const c of CATALOGUE) {
    const topic = SUMS[c.name]?.topic
    if (topic === undefined) continue
    const text = `${c.title} ${topic} ${c.name}`.toLowerCase()
    if (words.every((w) => text.includes(w))) byTopic.set(topic, [...(byTopic.get(topic) ?? []), c])
  }
  return [...byTopic]
})
</script>

<template>
  <div class="page sums">
    <div class="side no-print">
      <h1>Quick sums</h1>
      <v-text-field
        v-model="find"
        label="Find a sum"
        density="compact"
        type="search"
        :prepend-inner-icon="mdiMagnify"
      />
      <nav class="list" aria-label="Calculations">
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
        <p v-if="topics.length === 0" class="quiet sum">No sum matches.</p>
      </nav>
    </div>
    <section class="work">
      <SumForm v-if="chosen" :key="chosen.name" :calculation="chosen" />
      <p v-else-if="name">There is no sum of this name here. Choose one from the list.</p>
      <FreePath v-else />
    </section>
  </div>
</template>

<style scoped>
.sums {
  display: grid;
  grid-template-columns: 280px minmax(0, 1fr);
  gap: 28px;
  align-items: start;
  padding-top: 0;
}
.work {
  min-width: 0;
  padding-top: 20px;
}
.side {
  position: sticky;
  top: 0;
  display: flex;
  flex-direction: column;
  gap: 8px;
  padding-top: 20px;
}
.list {
  display: flex;
  flex-direction: column;
}
/* The list scrolls by itself: the form stays beside it. */
@media (min-width: 901px) {
  .side {
    max-height: 100vh;
  }
  .list {
    overflow-y: auto;
    padding-bottom: 24px;
  }
}
.topic {
  padding: 12px 12px 2px;
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
  .side {
    position: static;
  }
  .list {
    max-height: 260px;
    overflow-y: auto;
  }
}
</style>
