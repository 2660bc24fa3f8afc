<script setup lang="ts">
import {
  manifold,
  moveValve,
  RULE_SAYS,
  SEQUENCES,
  valvesOf,
  type ManifoldKind,
  type ManifoldRule,
} from '@calm/core/manifold/manifold'
import { computed, ref } from 'vue'
import ManifoldPicture from '../../ui/ManifoldPicture.vue'
import FindingRow from '../../ui/FindingRow.vue'

/** The manifold to try before touching the real one: every move shows what it would do. */
const { kind } = defineProps<{ kind: ManifoldKind }>()
interface Done {
  readonly says: string
  readonly broken: ManifoldRule | null
}
const state = ref(manifold(kind, 'in service'))
const done = ref<Done[]>([])
const TITLES: Readonly<Record<string, string>> = {
  H: 'high block',
  L: 'low block',
  E: 'equalise',
  EH: 'equalise, high',
  EL: 'equalise, low',
  VH: 'vent, high',
  VL: 'vent, low',
  V: 'vent',
}
const isOpen = (v: string) => state.value.open.has(v)
function turn(valve: string): void {
  const to = isOpen(valve) ? 'close' : 'open'
  const moved = moveValve(state.value, { valve, to })
  state.value = moved.state
  done.value = [...done.value, { says: `${to} ${valve}`, broken: moved.broken }]
}
function reset(start: 'in service' | 'isolated'): void {
  state.value = manifold(kind, start)
  done.value = []
}
const last = computed(() => done.value.at(-1) ?? null)
const broken = computed(() => done.value.find((d) => d.broken !== null) ?? null)
const words = (which: 'out' | 'test' | 'back') =>
  SEQUENCES[kind][which].map((m) => `${m.to} ${m.valve}`).join(' → ')
</script>

<template>
  <div class="two-sides">
    <section class="stack" aria-label="Manifold">
      <ManifoldPicture :state="state" />
      <div class="row">
        <v-btn
          v-for="v in valvesOf(kind)"
          :key="v"
          :variant="isOpen(v) ? 'flat' : 'outlined'"
          :color="isOpen(v) ? 'primary' : undefined"
          :aria-pressed="isOpen(v)"
          @click="turn(v)"
          >{{ v }} {{ isOpen(v) ? 'open' : 'shut' }}</v-btn
        >
      </div>
      <p class="small quiet">
        <template v-for="v in valvesOf(kind)" :key="v">{{ v }}: {{ TITLES[v] }}. </template>
      </p>
    </section>
    <section class="stack" aria-label="What the moves do" aria-live="polite">
      <FindingRow
        v-if="broken"
        :finding="{
          code: broken.broken ?? '',
          severity: 'stop',
          where: [],
          says: `${broken.says}: ${broken.broken ? RULE_SAYS[broken.broken] : ''}`,
        }"
      />
      <FindingRow
        v-else-if="last"
        :finding="{ code: 'FINE', severity: 'good', where: [], says: `${last.says}: all three rules hold.` }"
      />
      <p v-else>Touch a valve to see what its next move would do. Nothing here moves a real valve.</p>
      <ol v-if="done.length > 0">
        <li v-for="(d, i) in done" :key="i" class="mono">{{ d.says }}{{ d.broken ? '  (wrong)' : '' }}</li>
      </ol>
      <div class="row">
        <v-btn @click="reset('in service')">Back in service</v-btn>
        <v-btn variant="text" @click="reset('isolated')">Isolated</v-btn>
      </div>
      <h3>Orders that keep the rules</h3>
      <p>
        <strong>Out of service</strong> <span class="mono">{{ words('out') }}</span>
      </p>
      <p>
        <strong>Test and back</strong> <span class="mono">{{ words('test') }}</span>
      </p>
      <p>
        <strong>Into service</strong> <span class="mono">{{ words('back') }}</span>
      </p>
      <p class="small quiet">
        Open slowly, vents away from people. The other side first holds as well. For liquid-filled or hot legs
        the site’s own procedure comes first.
      </p>
    </section>
  </div>
</template>
