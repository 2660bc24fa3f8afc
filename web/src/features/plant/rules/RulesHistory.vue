<script setup lang="ts">
import { settings } from '@calm/contract/api/addresses'
import { shallowRef } from 'vue'
import { call } from '../../../api/call.ts'
import { useLive } from '../../../api/live-cache.ts'
import { useSession } from '../../../api/session-store.ts'
import { sayInstant } from '../../../ui/dates.ts'
import ReasonDialog from '../../../ui/ReasonDialog.vue'
import { ruleName, ruleValue } from './rule-names.ts'

/** Every decision about the rules: who, when, and what was before; an earlier one can be decided again. */
const { data, says } = useLive(settings.revisions, {})
const session = useSession()
/** Which decision is asked for again; 0: as the program ships. */
const again = shallowRef<number | null>(null)
const restore = (number: number) => async (reason: string) => {
  await call(settings.restore, {}, { number, reason })
}
</script>

<template>
  <section class="stack" aria-label="Decided so far">
    <h2>Decided so far</h2>
    <p v-if="says" role="alert">{{ says }}</p>
    <p v-else-if="data?.length === 0" class="quiet">
      Nothing was decided yet: everything is as the program ships.
    </p>
    <ol v-else class="plain">
      <li v-for="(r, i) in data ?? []" :key="r.number">
        <p>
          <strong>Decision {{ r.number }}</strong
          >, {{ sayInstant(r.at) }}, {{ r.byName }}<template v-if="r.reason">: {{ r.reason }}</template>
        </p>
        <p v-for="c in r.changes" :key="c.path" class="quiet small">
          {{ ruleName(c.path) }}: {{ ruleValue(c.path, c.before) }} → {{ ruleValue(c.path, c.after) }}
        </p>
        <v-btn v-if="session.isAdministrator && i > 0" variant="text" @click="again = r.number"
          >As after decision {{ r.number }}</v-btn
        >
      </li>
      <li v-if="session.isAdministrator && data?.length">
        <v-btn variant="text" @click="again = 0">As the program ships</v-btn>
      </li>
    </ol>
    <ReasonDialog
      v-if="again !== null"
      :title="again === 0 ? 'All rules as the program ships?' : `All rules as after decision ${again}?`"
      says="All of them, on papers and in judging, are as they were then from now on. What was decided since stays in this list."
      does="Decide so again"
      :act="restore(again)"
      @close="again = null"
    />
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
