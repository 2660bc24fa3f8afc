<script setup lang="ts">
import type { Signature } from '@calm/core/signing/signature'
import { useSession } from '../api/session-store.ts'
import { sayInstant } from '../ui/dates.ts'

/** Who signed a run, when, in which words, and by which key. */
const { signatures, names } = defineProps<{
  signatures: readonly Signature[]
  names: ReadonlyMap<string, string>
}>()
const session = useSession()
const nameOf = (id: string) => (id === session.person?.id ? session.person.shownName : (names.get(id) ?? ''))
</script>

<template>
  <p v-for="s in signatures" :key="s.by">
    <strong>{{ s.as === 'technician' ? 'Technician' : 'Reviewer' }}:</strong> {{ nameOf(s.by) }},
    {{ sayInstant(s.at) }}. {{ s.statement }}
    <span v-if="s.signature" class="quiet"
      >{{ s.signature.meaning }}, key <span class="mono">{{ s.signature.key.slice(0, 8) }}</span></span
    >
    <span v-else class="quiet">without a key: from before people had one</span>
  </p>
</template>
