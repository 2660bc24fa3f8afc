<script setup lang="ts">
import { mdiChevronDown, mdiChevronUp } from '@mdi/js'
import { useResizeObserver } from '@vueuse/core'
import { onMounted, ref, useTemplateRef, watch } from 'vue'

/** The quiet bar at the foot of every bench: what is next in one line, one primary action; what is stored, in the head. */
const {
  next,
  stored = null,
  refusal = null,
  tall = false,
} = defineProps<{
  next: string
  stored?: string | null
  /** Why the last step could not be done; takes the sentence's place so that nothing moves. */
  refusal?: string | null
  /** In a narrow column: the sentence above, whole, and what can be done under it. */
  tall?: boolean
}>()

const sentence = useTemplateRef<HTMLElement>('sentence')
const cut = ref(false)
const whole = ref(false)
const measure = () => {
  const el = sentence.value
  if (el && !whole.value) cut.value = el.scrollWidth > el.clientWidth + 1
}
useResizeObserver(sentence, measure)
onMounted(measure)
watch(
  () => [next, refusal],
  () => {
    whole.value = false
    requestAnimationFrame(measure)
  },
)
</script>

<template>
  <div class="next no-print" :class="{ tall }">
    <p class="said" :class="{ whole }">
      <span v-if="refusal" ref="sentence" class="sentence refusal" role="alert">{{ refusal }}</span>
      <span v-else ref="sentence" class="sentence"><span class="quiet label">Next: </span>{{ next }}</span>
    </p>
    <button
      v-if="!tall && (cut || whole)"
      type="button"
      class="more"
      :aria-expanded="whole"
      :aria-label="whole ? 'One line' : 'The whole sentence'"
      @click="whole = !whole"
    >
      <v-icon :icon="whole ? mdiChevronDown : mdiChevronUp" aria-hidden="true" />
    </button>
    <slot />
    <Teleport defer to="#saved-state">{{ stored }}</Teleport>
  </div>
</template>

<style scoped>
.next {
  position: sticky;
  bottom: 0;
  z-index: 5;
  flex: none;
  display: flex;
  align-items: center;
  gap: 0 12px;
  min-height: 52px;
  padding: 0 24px;
  background: var(--surface);
  border-top: var(--line) solid var(--hair);
}
.said {
  flex: 1;
  min-width: 0;
}
.sentence {
  display: block;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
/* The whole of it unfolds over the work; the bar keeps its size. */
.whole .sentence {
  position: absolute;
  inset: auto 0 100% 0;
  padding: 12px 24px;
  white-space: normal;
  background: var(--surface);
  border-top: var(--line) solid var(--hair);
}
.tall {
  flex-wrap: wrap;
  padding: 4px 16px;
}
.tall .said {
  flex-basis: 100%;
}
.tall .sentence {
  white-space: normal;
  display: -webkit-box;
  -webkit-box-orient: vertical;
  -webkit-line-clamp: 3;
}
.refusal {
  color: var(--stop);
}
.more {
  flex: none;
  width: var(--target);
  height: var(--target);
  border: 0;
  background: transparent;
  color: var(--quiet);
  cursor: pointer;
}
.next :deep(.v-btn) {
  flex: none;
}
@media (max-width: 640px) {
  .next {
    bottom: 60px;
    padding: 0 14px;
    flex-wrap: wrap;
  }
  .said {
    flex-basis: 60%;
  }
}
</style>
