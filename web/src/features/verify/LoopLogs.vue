<script setup lang="ts">
import { logs } from '@calm/contract/api/addresses'
import { sayDuration } from '@calm/core/logs/say-finding'
import { computed } from 'vue'
import { useLive } from '../../api/live-cache.ts'
import { placeOf } from '../../loop/place-of-log.ts'
import { useSession } from '../../api/session-store.ts'

/** Measured logs of this loop: its own meter, and what was beside it. */
const { tag } = defineProps<{ tag: string }>()
const session = useSession()
const { data, says } = useLive(logs.list, {})
const mine = computed(() => (data.value ?? []).filter((l) => l.tag === tag))
</script>

<template>
  <div class="page stack">
    <p v-if="says" role="alert">{{ says }}</p>
    <p v-else-if="data && mine.length === 0" class="answer">
      No log of this loop is here. What a meter or a control system has recorded is seen at once, judged, and
      compared with a reference.
    </p>
    <ul v-else class="logs">
      <li v-for="l in mine" :key="l.id">
        <router-link :to="placeOf(l)">
          <strong>{{ l.title }}</strong>
          <span class="small quiet">
            {{ l.of === 'installed' ? 'this meter' : 'a reference' }}{{ l.simulated ? ', simulated' : '' }},
            {{ l.rows }} rows{{
              l.from !== null && l.to !== null ? ` over ${sayDuration((l.to - l.from) / 1000)}` : ''
            }}{{ l.state === 'open' ? ', not whole' : '' }}
          </span>
        </router-link>
      </li>
    </ul>
    <p v-if="session.mayWrite" class="row">
      <router-link :to="`/logs/read-in?loop=${tag}`" class="act">Read in a log of this loop</router-link>
      <router-link :to="`/logs/record?loop=${tag}`" class="act">Record one now</router-link>
    </p>
  </div>
</template>

<style scoped>
.logs {
  list-style: none;
  padding: 0;
  display: grid;
  gap: 8px;
}
.logs a,
.act {
  display: inline-flex;
  flex-direction: column;
  justify-content: center;
  min-height: 44px;
}
</style>
