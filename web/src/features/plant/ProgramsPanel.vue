<script setup lang="ts">
import { programs, system, urlOf } from '@calm/contract/api/addresses'
import { useLive } from '../../api/live-cache.ts'
import { vKeyScroll } from '../../ui/key-scroll.ts'
import TokensPart from './programs/TokensPart.vue'
import WebhooksPart from './programs/WebhooksPart.vue'

/** What the plant's other programs are given: tokens, webhooks, the calendar of due days, views of the database. */
const views = useLive(programs.views, {})
</script>

<template>
  <div class="stack">
    <TokensPart />
    <WebhooksPart />
    <section class="stack" aria-label="Addresses">
      <h2>Everything that can be asked for</h2>
      <p>
        The whole description, for programs that read such descriptions (OpenAPI):
        <a :href="urlOf(system.description, {})">/api/openapi.json</a>. A program sends its token in the head
        of each request:
        <span class="mono">Authorization: Bearer calm_…</span>
      </p>
    </section>
    <section class="stack" aria-label="Views of the database">
      <h2>Views of the database</h2>
      <p class="quiet">
        For programs that read PostgreSQL. A role of theirs is made by who runs the database, as in
        <span class="mono">create role historian login password '…' in role …_readers</span>: it sees these
        views and nothing else.
      </p>
      <div v-key-scroll class="scroll">
        <table>
          <thead>
            <tr>
              <th scope="col">View</th>
              <th scope="col">What it holds</th>
              <th scope="col">Columns</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="v in views.data.value ?? []" :key="v.name">
              <th scope="row" class="mono">{{ v.name }}</th>
              <td>{{ v.says }}</td>
              <td class="mono small">{{ v.columns.map((c) => c.name).join(', ') }}</td>
            </tr>
          </tbody>
        </table>
      </div>
    </section>
  </div>
</template>

<style scoped>
.scroll {
  overflow-x: auto;
}
table {
  border-collapse: collapse;
  width: 100%;
}
th,
td {
  text-align: left;
  font-weight: 400;
  vertical-align: top;
  padding: 6px 16px 6px 0;
  border-bottom: var(--line) solid var(--hair);
}
thead th {
  color: var(--quiet);
}
td.mono {
  overflow-wrap: anywhere;
}
</style>
