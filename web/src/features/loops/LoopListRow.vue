<script setup lang="ts">
import type { LoopRow } from '@calm/contract/loops'
import { PARTS } from '@calm/core/loop/parts'
import { computed } from 'vue'
import { RouterLink } from 'vue-router'
import CalmLine from '../../ui/CalmLine.vue'
import { daysUntil, sayDay } from '../../ui/dates.ts'
import StateMark from '../../ui/StateMark.vue'
import { sayVerdict, verdictState } from '../../ui/verdict.ts'

/** One loop in the list; the whole row leads to it. */
const { loop, now } = defineProps<{ loop: LoopRow; now: Date }>()
/** Whether it is chosen, where several are; null where none is being chosen. */
const chosen = defineModel<boolean | null>('chosen', { default: null })
const WORDS = { wire: 'Wire', setUp: 'Set up', scale: 'Scale', trim: 'Trim', verify: 'Verify' } as const
const STATES = { good: 'good', look: 'look at it', stop: 'not right', notYet: 'not yet' } as const
const overdue = computed(() => (loop.due === null ? 0 : -daysUntil(loop.due, now)))
</script>

<template>
  <component
    :is="chosen === null ? RouterLink : 'label'"
    class="loop-row"
    :class="{ chosen }"
    :to="
      chosen === null
        ? { name: loop.archivedAt ? 'record' : 'loop', params: { tag: loop.archivedAt ? loop.id : loop.tag } }
        : undefined
    "
  >
    <span class="mono tag"
      ><input v-if="chosen !== null" v-model="chosen" type="checkbox" />{{ loop.tag }}</span
    >
    <span class="service"
      >{{ loop.service }} <span v-if="loop.assignee" class="quiet small">{{ loop.assignee }}</span></span
    >
    <span class="c-line"><CalmLine :steps="loop.summary.line" /></span>
    <span class="parts">
      <StateMark
        v-for="p in PARTS"
        :key="p"
        :state="loop.summary.parts[p]"
        :word="`${WORDS[p]}: ${STATES[loop.summary.parts[p]]}.`"
        bare
        :title="`${WORDS[p]}: ${STATES[loop.summary.parts[p]]}`"
      />
    </span>
    <StateMark
      v-if="loop.summary.verdict"
      class="small verdict-mark"
      :state="verdictState(loop.summary, loop.summary.verdict)"
      :word="sayVerdict(loop.summary, loop.summary.verdict)"
    />
    <StateMark v-else class="small verdict-mark" state="notYet" word="not verified" />
    <span
      class="c-due small"
      :class="{ overdue: overdue > 0 || loop.summary.dueNow !== null }"
      :title="
        loop.summary.dueNow ? `${loop.summary.dueNow.why} on ${sayDay(loop.summary.dueNow.on)}` : undefined
      "
    >
      <template v-if="loop.archivedAt">out of use since {{ sayDay(loop.archivedAt.slice(0, 10)) }}</template>
      <template v-else-if="loop.due === null">no date</template>
      <template v-else-if="loop.summary.dueNow">due now</template>
      <template v-else-if="overdue > 0">{{ overdue }} days overdue</template>
      <template v-else>{{ sayDay(loop.due) }}</template>
    </span>
  </component>
</template>

<style scoped>
.loop-row {
  height: 44px;
  color: var(--ink);
  text-decoration: none;
  border-bottom: var(--line) solid var(--hair);
}
.loop-row:hover {
  background: var(--surface);
}
.loop-row:focus-visible {
  outline-offset: -2px;
}
label.loop-row {
  cursor: pointer;
}
.chosen {
  background: var(--surface);
}
.tag input {
  width: 20px;
  height: 20px;
  margin-right: 8px;
  vertical-align: -4px;
  accent-color: var(--accent);
}
.tag {
  font-weight: 600;
}
.service {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
/* A long one goes on below itself, never over the day. */
.verdict-mark {
  white-space: normal;
  line-height: 1.2;
}
.overdue {
  color: var(--look);
  font-weight: 600;
}
@media print {
  .service {
    overflow: visible;
    white-space: normal;
  }
}
</style>
