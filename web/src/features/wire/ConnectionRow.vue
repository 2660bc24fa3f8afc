<script setup lang="ts">
/** One wire of the list; its button stays as it is while the figures move. */
const { id, readonly } = defineProps<{
  id: string
  from: string
  to: string
  colour: string
  current: string
  volts: string
  readonly: boolean
}>()
const emit = defineEmits<{ takeOut: [] }>()
</script>

<template>
  <tr>
    <th scope="row" class="mono">{{ id }}</th>
    <td class="mono">{{ from }}</td>
    <td class="mono">{{ to }}</td>
    <td class="mono">{{ colour }}</td>
    <td class="mono number">{{ current }}</td>
    <td class="mono number">{{ volts }}</td>
    <td v-if="!readonly">
      <v-btn variant="text" :aria-label="`Take out wire ${id}`" @click="emit('takeOut')">Take out</v-btn>
    </td>
  </tr>
</template>
