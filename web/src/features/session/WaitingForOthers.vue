<script setup lang="ts">
import { useOutbox } from '../../api/outbox.ts'
import { useSession } from '../../api/session-store.ts'

/** What waits in this browser for people who are not signed in now: seen, never sent under another name. */
const outbox = useOutbox()
const session = useSession()
const events = (n: number) => (n === 1 ? '1 entry' : `${n} entries`)
</script>

<template>
  <div v-if="outbox.others.length > 0" class="stack tight" role="status" aria-label="What waits for others">
    <p v-for="o in outbox.others" :key="o.name">
      <template v-if="o.name !== ''">
        <strong>{{ events(o.count) }} of {{ o.name }}</strong> {{ o.count === 1 ? 'waits' : 'wait' }} here.
        Nobody else can send {{ o.count === 1 ? 'it: it goes' : 'them: they go' }} out when {{ o.name }} signs
        in on this device.
      </template>
      <template v-else>
        <strong>{{ events(o.count) }} without a name</strong> {{ o.count === 1 ? 'waits' : 'wait' }} here from
        an older page. Whose {{ o.count === 1 ? 'is it' : 'are they' }}?
        <v-btn v-if="session.person" variant="text" @click="outbox.claim()">Mine: send under my name</v-btn>
      </template>
    </p>
  </div>
</template>

<style scoped>
.tight {
  gap: 4px;
}
</style>
