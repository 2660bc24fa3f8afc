<script setup lang="ts">
import { ownParts } from '@calm/contract/api/addresses'
import type { OwnPart } from '@calm/core/part/own-part'
import { mdiClose } from '@mdi/js'
import { ref } from 'vue'
import { ApiProblem, call } from '../../api/call.ts'
import { readTextFile } from '../../ui/read-text-file.ts'
import { saveFile } from '../../ui/save-file.ts'

/** Parts of the plant's own: taken out, and exchanged with other plants as a file. */
const { parts, readonly = false } = defineProps<{ parts: readonly OwnPart[]; readonly?: boolean }>()
const says = ref('')
const file = ref<HTMLInputElement | null>(null)

const told = (e: unknown): string => {
  if (!(e instanceof ApiProblem)) throw e
  const first = e.problem.errors?.[0]
  const which = first && /^parts\.(\d+)\.(.+)$/.exec(first.path)
  return first
    ? `${which ? `Part ${Number(which[1]) + 1}, ${which[2]}: ` : ''}${first.says} Nothing was taken in.`
    : e.message
}
async function letGo(title: string): Promise<void> {
  says.value = ''
  await call(ownParts.letGo, { title }).catch((e: unknown) => (says.value = told(e)))
}
const save = () => saveFile('own-parts.json', 'application/json', JSON.stringify({ parts }, null, 2))
async function take(chosen: File | undefined): Promise<void> {
  if (!chosen) return
  says.value = ''
  try {
    const read: unknown = JSON.parse(await readTextFile(chosen))
    // A file of ours, or a bare list.
    const body = (Array.isArray(read) ? { parts: read } : read) as { parts: OwnPart[] }
    await call(ownParts.take, {}, body)
    says.value = `${body.parts.length} ${body.parts.length === 1 ? 'part' : 'parts'} taken in.`
  } catch (e) {
    says.value = e instanceof SyntaxError ? `${chosen.name} is not JSON: ${e.message}.` : told(e)
  }
  if (file.value) file.value.value = ''
}
</script>

<template>
  <details>
    <summary>Parts of the plant’s own ({{ parts.length }})</summary>
    <ul>
      <li v-for="p in parts" :key="p.title" class="row">
        <span>{{ p.title }}</span>
        <v-btn
          v-if="!readonly"
          :icon="mdiClose"
          variant="text"
          :aria-label="`Remove ${p.title} from the plant’s own parts`"
          @click="letGo(p.title)"
        />
      </li>
    </ul>
    <p v-if="parts.length === 0" class="quiet small">
      None yet. Choose a part on the bench, type what its plate says, and keep it.
    </p>
    <div class="row">
      <v-btn :disabled="parts.length === 0" @click="save">Save as a file</v-btn>
      <v-btn v-if="!readonly" @click="file?.click()">Take in a file</v-btn>
      <input ref="file" type="file" accept=".json,application/json" hidden @change="take(file?.files?.[0])" />
    </div>
    <p role="status">{{ says }}</p>
  </details>
</template>

<style scoped>
ul {
  list-style: none;
  padding: 0;
}
li {
  justify-content: space-between;
}
</style>
