<script setup lang="ts">
import { mdiChevronDown, mdiChevronUp } from '@mdi/js'
import { ref } from 'vue'

/**
 * A bench's work in two parts that scroll on their own: what is entered, and beside it what it looks like and what it
 * leads to. Where the screen is narrow the second stands above and folds; where readings are taken, below.
 */
const {
  work,
  beside,
  fold,
  workFirst = false,
  even = false,
} = defineProps<{
  /** Names of the two parts, for those who do not see them. */
  work: string
  beside: string
  /** What stands on the button that folds the second part. */
  fold: string
  workFirst?: boolean
  /** What is entered is a table: it takes half of the width. */
  even?: boolean
}>()
const folded = ref(workFirst && matchMedia('(max-width: 640px)').matches)
</script>

<template>
  <div class="split" :class="{ 'work-first': workFirst, even }">
    <section class="part work-part stack" :aria-label="work"><slot name="work" /></section>
    <section class="part beside" :aria-label="beside" tabindex="0">
      <button type="button" class="fold no-print" :aria-expanded="!folded" @click="folded = !folded">
        <span>{{ fold }}</span>
        <v-icon :icon="folded ? mdiChevronDown : mdiChevronUp" aria-hidden="true" />
      </button>
      <div class="stack inner" :class="{ folded }"><slot name="beside" /></div>
    </section>
  </div>
</template>

<style scoped>
.split {
  height: 100%;
  display: grid;
  grid-template-columns: minmax(0, 5fr) minmax(0, 7fr);
}
.even {
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
}
.beside:focus-visible {
  outline-offset: -3px;
}
.part {
  min-width: 0;
  padding: 16px 24px 24px;
}
.beside {
  border-left: var(--line) solid var(--hair);
}
.fold {
  display: none;
  width: 100%;
  min-height: 48px;
  padding: 0;
  border: 0;
  background: transparent;
  color: var(--ink);
  font: inherit;
  font-weight: 600;
  cursor: pointer;
  align-items: center;
  justify-content: space-between;
}
@media (min-width: 641px) and (min-height: 561px) {
  .part {
    overflow-y: auto;
    scroll-padding: 24px;
    position: relative;
  }
}
/* Upright tablet and phone: one under the other. */
@media (max-width: 900px) {
  .split {
    display: flex;
    flex-direction: column;
  }
  .beside {
    order: -1;
    flex: 0 0 auto;
    border-left: 0;
    border-bottom: var(--line) solid var(--hair);
    padding: 0 14px;
  }
  .work-first .beside {
    order: 0;
    border-bottom: 0;
    border-top: var(--line) solid var(--hair);
  }
  .fold {
    display: flex;
  }
  .inner {
    padding-bottom: 16px;
  }
  .folded {
    display: none;
  }
  .work-part {
    flex: 1 1 auto;
    padding: 14px;
  }
}
@media (min-width: 641px) and (max-width: 900px) and (min-height: 561px) {
  .beside {
    max-height: 46%;
    padding-inline: 24px;
  }
  .work-part {
    min-height: 0;
    padding-inline: 24px;
  }
}
</style>
