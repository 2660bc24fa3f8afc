<script setup lang="ts">
/** Holds a stretch of the log: it stays the one that is judged, compared and taken out while the drawing shows more. */
const { canLetGo } = defineProps<{ canLetGo: boolean }>()
const emit = defineEmits<{ seen: []; choose: []; letGo: [] }>()
</script>

<template>
  <v-menu>
    <template #activator="{ props: opens }">
      <v-btn variant="text" v-bind="opens" title="What is judged, compared and taken out">Stretch</v-btn>
    </template>
    <v-list>
      <v-list-item title="Hold what is seen" @click="emit('seen')" />
      <v-list-item title="Hold between two touches" @click="emit('choose')" />
      <v-list-item :disabled="!canLetGo" title="Let go" @click="emit('letGo')" />
    </v-list>
  </v-menu>
</template>
