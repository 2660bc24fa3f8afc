<script setup lang="ts">
import { settings } from '@calm/contract/api/addresses'
import { useLive } from '../../../api/live-cache.ts'
import { sayInstant } from '../../../ui/dates.ts'
import { ruleName, ruleValue } from './rule-names.ts'

/** Every decision about the rules: who, when, and what was before. */
const { data, says } = useLive(settings.revisions, {})
</script>

<template>
  <section class="stack" aria-label="Decided so far">
    <h2>Decided so far</h2>
    <p v-if="says" role="alert">{{ says }}</p>
    <p v-else-if="data?.length === 0" class="quiet">
      Nothing was decided yet: everything is as the program ships.
    </p>
    <ol v-else class="plain">
      <li v-for="r in data ?? []" :key="r.number">
        <p>
          <strong>{{ r.number }}</strong> {{ sayInstant(r.at) }}, {{ r.byName
          }}<template v-if="r.reason">: {{ r.reason }}</template>
        </p>
        <p v-for="c in r.changes" :key="c.path" class="quiet small">
          {{ ruleName(c.path) }}: {{ ruleValue(c.before) }} → {{ ruleValue(c.after) }}
        </p>
      </li>
    </ol>
  </section>
</template>

<style scoped>
.plain {
  list-style: none;
  padding: 0;
}
li {
  padding: 6px 0;
  border-bottom: var(--line) solid var(--hair);
  overflow-wrap: anywhere;
}
</style>
