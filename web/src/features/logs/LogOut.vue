<script setup lang="ts">
import { logs, urlOf } from '@calm/contract/api/addresses'
import type { Log } from '@calm/contract/logs'
import { sayCount } from '@calm/core/quantity/round'
import { computed } from 'vue'

/** What can be taken out of a log: rows and report of the stretch that is judged, pictures of what is seen. */
const { log, channel, judged, seen, beside } = defineProps<{
  log: Log
  channel: number
  judged: { from: number; to: number }
  seen: { from: number; to: number }
  /** Lines drawn beside it. */
  beside: readonly { readonly log: Log; readonly channel: number }[]
}>()
const emit = defineEmits<{ picture: [] }>()

/** Rows that one file of a spreadsheet, or of a mail, may have. */
const PART_ROWS = [10_000, 65_000, 100_000, 1_000_000]
const named = computed(() => ({ loop: log.tag, log: log.id }))
const lines = computed(() => ({
  channel,
  ...(beside.length === 0 ? {} : { beside: beside.map((b) => `${b.log.id}.${b.channel}`).join(',') }),
}))
const items = computed(() => [
  {
    title: 'Report (PDF)',
    href: urlOf(logs.report, { ...named.value, ...judged, ...lines.value }),
  },
  { title: 'Drawing (SVG)', href: urlOf(logs.plot, { ...named.value, ...seen, ...lines.value }) },
  { title: 'Rows (CSV)', href: urlOf(logs.samples, { ...named.value, ...judged }) },
  ...PART_ROWS.filter((rows) => rows < log.rows).map((rows) => ({
    title: `Rows (CSV), ${sayCount(rows)} rows a file`,
    href: urlOf(logs.parts, { ...named.value, ...judged, rows }),
  })),
])
</script>

<template>
  <v-menu>
    <template #activator="{ props: opens }">
      <v-btn variant="text" v-bind="opens">Take out</v-btn>
    </template>
    <v-list>
      <v-list-item v-for="i in items" :key="i.title" :href="i.href" :title="i.title" />
      <v-list-item title="Picture (PNG)" @click="emit('picture')" />
    </v-list>
  </v-menu>
</template>
