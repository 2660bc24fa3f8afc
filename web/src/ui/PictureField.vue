<script setup lang="ts">
import { mdiClose } from '@mdi/js'
import { onMounted, ref, toRaw, watch } from 'vue'
import { keptPictures } from './kept-pictures.ts'
import { smallPicture } from './small-picture.ts'

/** Photographs, made small here: as data addresses. */
const { most = 4, keptAs = undefined } = defineProps<{
  most?: number
  /** What they are of: those that are not sent yet are there again after a closed lid. */
  keptAs?: string
}>()
const pictures = defineModel<string[]>({ required: true })
const says = ref<string | null>(null)
/** Legible on a large screen, and small enough for a slow network. */
const SIZE = { width: 1600, height: 1600, type: 'image/jpeg' } as const
onMounted(async () => {
  if (keptAs === undefined) return
  const before = await keptPictures.of(keptAs)
  if (pictures.value.length === 0 && before.length > 0) pictures.value = [...before].slice(0, most)
  watch(pictures, (p) => void keptPictures.keep(keptAs, toRaw(p)))
})

async function add(files: File | File[] | null | undefined): Promise<void> {
  const list = Array.isArray(files) ? files : files ? [files] : []
  says.value = null
  for (const file of list) {
    if (pictures.value.length >= most) {
      says.value = `At most ${most} pictures here.`
      return
    }
    try {
      pictures.value = [...pictures.value, await smallPicture(file, SIZE)]
    } catch {
      says.value = `${file.name} is no picture that this browser can read.`
    }
  }
}
</script>

<template>
  <div class="stack">
    <v-file-input
      :key="pictures.length"
      label="Photograph or picture"
      accept="image/*"
      capture="environment"
      multiple
      variant="outlined"
      prepend-icon=""
      hide-details
      @update:model-value="add"
    />
    <p v-if="says" class="wrong" role="alert">{{ says }}</p>
    <ul v-if="pictures.length > 0" class="pictures" aria-label="Pictures that are added">
      <li v-for="(p, i) in pictures" :key="i">
        <img :src="p" :alt="`Picture ${i + 1}`" />
        <v-btn
          :icon="mdiClose"
          size="small"
          class="away"
          :aria-label="`Take picture ${i + 1} away`"
          @click="pictures = pictures.filter((_p, k) => k !== i)"
        />
      </li>
    </ul>
  </div>
</template>

<style scoped>
.pictures {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  list-style: none;
  padding: 0;
}
.pictures li {
  position: relative;
}
.pictures img {
  height: 96px;
  border-radius: var(--corner);
}
.away {
  position: absolute;
  top: 2px;
  right: 2px;
}
.wrong {
  color: var(--stop);
}
</style>
