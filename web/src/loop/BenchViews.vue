<script setup lang="ts" generic="T extends string">
/** The views of a bench, in one row with the benches. */
const { views } = defineProps<{ views: readonly { readonly id: T; readonly title: string }[] }>()
const view = defineModel<T>({ required: true })
</script>

<template>
  <Teleport defer to="#bench-views">
    <div v-if="views.length > 1" class="views" role="group" aria-label="Views of this bench">
      <button
        v-for="v in views"
        :key="v.id"
        type="button"
        class="view"
        :aria-pressed="view === v.id"
        @click="view = v.id"
      >
        {{ v.title }}
      </button>
    </div>
  </Teleport>
</template>

<style scoped>
.views {
  display: flex;
}
.view {
  min-height: 48px;
  padding: 0 12px;
  border: 0;
  border-bottom: 3px solid transparent;
  background: transparent;
  color: var(--quiet);
  font: inherit;
  white-space: nowrap;
  cursor: pointer;
}
.view:hover {
  color: var(--ink);
}
.view[aria-pressed='true'] {
  color: var(--ink);
  font-weight: 600;
  border-bottom-color: var(--quiet);
}
.view:focus-visible {
  outline-offset: -3px;
}
</style>
