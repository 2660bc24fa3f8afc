<script setup lang="ts">
import type { Family, SetUpResult } from '@calm/core/family/family'
import { harmlessCell } from '@calm/core/harmless-cell'
import Papa from 'papaparse'
import { saveFile } from '../../ui/save-file.ts'

/** The values in the order they are keyed in, the store step last; and what to bring. */
const { family, result, tag } = defineProps<{ family: Family; result: SetUpResult; tag: string }>()
const STORE = 'Store the settings: what is not stored is lost at the next power cycle.'
function csv(): void {
  const rows = [
    ['tag', 'step', 'setting', 'value'],
    ...result.sheet.map((l, i) => [tag, String(i + 1), l.says, l.value].map(harmlessCell)),
    [tag, String(result.sheet.length + 1), STORE, ''],
  ]
  saveFile(`${tag}-settings.csv`, 'text/csv', `\uFEFF${Papa.unparse(rows)}\r\n`)
}
const print = () => window.print()
</script>

<template>
  <section class="stack" aria-label="Settings sheet">
    <div class="row">
      <h2>
        Settings sheet of <span class="mono">{{ tag }}</span>
      </h2>
      <v-btn class="no-print" @click="csv">Settings (CSV)</v-btn>
      <v-btn class="no-print" variant="text" @click="print">Print</v-btn>
    </div>
    <ol class="sheet">
      <li v-for="l in result.sheet" :key="l.says">
        <span>{{ l.says }}</span> <span class="mono">{{ l.value }}</span>
      </li>
      <li>
        <strong>{{ STORE }}</strong>
      </li>
    </ol>
    <h3>To bring</h3>
    <ul>
      <li v-for="k in family.needs.kit" :key="k">{{ k }}</li>
    </ul>
    <h3>Cautions</h3>
    <ul>
      <li v-for="c in family.needs.cautions" :key="c">{{ c }}</li>
      <li>Local code, the site’s permits and the device’s manual come first.</li>
    </ul>
  </section>
</template>

<style scoped>
.sheet {
  padding-left: 28px;
}
.sheet li {
  padding: 6px 0;
  border-bottom: var(--line) solid var(--hair);
}
.sheet .mono {
  float: right;
}
</style>
