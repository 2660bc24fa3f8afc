<script setup lang="ts">
/** The sections of a long form, always in view: one touch goes to one of them. */
const { sections } = defineProps<{ sections: readonly { readonly id: string; readonly title: string }[] }>()

function go(id: string): void {
  const section = document.getElementById(id)
  section?.scrollIntoView({ block: 'start' })
  section?.querySelector<HTMLElement>('input, textarea, button')?.focus({ preventScroll: true })
}
</script>

<template>
  <nav v-if="sections.length > 2" class="jump no-print" aria-label="Sections">
    <button v-for="s in sections" :key="s.id" type="button" @click="go(s.id)">{{ s.title }}</button>
  </nav>
</template>

<style scoped>
.jump {
  position: sticky;
  top: -16px;
  z-index: 3;
  display: flex;
  flex: none;
  overflow-x: auto;
  scrollbar-width: thin;
  margin: -16px -24px 0;
  padding: 0 16px;
  background: var(--paper);
  border-bottom: var(--line) solid var(--hair);
}
button {
  flex: none;
  min-height: 44px;
  padding: 0 8px;
  border: 0;
  background: transparent;
  color: var(--accent);
  font: inherit;
  font-size: var(--size-s);
  cursor: pointer;
}
button:focus-visible {
  outline-offset: -3px;
}
@media (max-width: 640px), (max-height: 560px) {
  .jump {
    position: static;
    margin: 0;
    padding: 0;
  }
}
</style>
