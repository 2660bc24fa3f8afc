<script setup lang="ts">
import { settings } from '@calm/contract/api/addresses'
import { PAPER_NAMES } from '@calm/core/paper'
import { DATE_FORM_SAYS, DATE_FORMS } from '@calm/core/quantity/date-form'
import { DECIMAL_SIGN_SAYS, DECIMAL_SIGNS } from '@calm/core/quantity/decimal-sign'
import { computed, shallowRef } from 'vue'
import { ApiProblem, call, sayProblem } from '../../../api/call.ts'
import { useLive } from '../../../api/live-cache.ts'
import { smallPicture } from '../../../ui/small-picture.ts'
import { useRules, type Rules } from './use-rules.ts'

/** Whose papers they are, on what they are printed, and how they say numbers, days and times. */
const { rules, refused, decide, session } = useRules()
const logo = useLive(settings.logo, {})
const picture = shallowRef<string | null>(null)
const LETTERHEAD = [
  { part: 'name', label: 'Name of the plant, at the head of certificates', most: 120 },
  { part: 'address', label: 'Its address', most: 300 },
  { part: 'country', label: 'Its country, two letters, for certificates as XML', most: 2 },
] as const
const textOf = (event: Event) => (event.target instanceof HTMLInputElement ? event.target.value : '')
function letterhead(part: keyof Rules['letterhead'], event: Event): void {
  const now = rules.value?.letterhead
  if (now) void decide({ letterhead: { ...now, [part]: textOf(event) } })
}
const forms = DATE_FORMS.map((value) => ({ value, title: DATE_FORM_SAYS[value] }))
const signs = DECIMAL_SIGNS.map((value) => ({ value, title: DECIMAL_SIGN_SAYS[value] }))
const papers = PAPER_NAMES.map((value) => ({ value, title: value === 'A4' ? 'A4' : 'Letter' }))
const zones = computed(() => ['UTC', ...Intl.supportedValuesOf('timeZone')])
function dates(change: Partial<Rules['dates']>): void {
  if (rules.value) void decide({ dates: { ...rules.value.dates, ...change } })
}

async function show(image: string | null): Promise<void> {
  picture.value = null
  try {
    await call(settings.changeLogo, {}, { image })
  } catch (error) {
    picture.value = error instanceof ApiProblem ? (error.at('image') ?? sayProblem(error)) : sayProblem(error)
  }
}
async function choose(files: File | File[] | null | undefined): Promise<void> {
  const file = Array.isArray(files) ? files[0] : files
  if (!file) return
  try {
    await show(await smallPicture(file, { width: 480, height: 120, type: 'image/png' }))
  } catch {
    picture.value = 'This file is no picture that this browser can read. Choose a PNG or JPEG.'
  }
}
</script>

<template>
  <section v-if="rules" class="stack" aria-label="Papers">
    <h2>Papers</h2>
    <v-text-field
      v-for="l in LETTERHEAD"
      :key="l.part"
      :label="l.label"
      :maxlength="l.most"
      :model-value="rules.letterhead[l.part]"
      :readonly="!session.mayDecide"
      hide-details
      @change="letterhead(l.part, $event)"
    />
    <div class="row">
      <img
        v-if="logo.data.value?.image"
        :src="logo.data.value.image"
        alt="The picture on papers"
        class="logo"
      />
      <v-file-input
        v-if="session.mayDecide"
        :label="logo.data.value?.image ? 'Another picture on papers' : 'Picture on papers, PNG or JPEG'"
        accept="image/png,image/jpeg"
        variant="outlined"
        prepend-icon=""
        :clearable="false"
        :error-messages="picture ?? []"
        :hide-details="picture === null"
        class="grow"
        @update:model-value="choose"
      />
      <v-btn v-if="logo.data.value?.image && session.mayDecide" variant="text" @click="show(null)"
        >Without it</v-btn
      >
    </div>
    <div class="field-grid">
      <v-select
        label="Paper"
        :items="papers"
        :model-value="rules.paper"
        :readonly="!session.mayDecide"
        hide-details
        @update:model-value="decide({ paper: $event })"
      />
      <v-select
        label="Decimals on papers"
        :items="signs"
        :model-value="rules.decimalSign"
        :readonly="!session.mayDecide"
        hide-details
        @update:model-value="decide({ decimalSign: $event })"
      />
      <v-select
        label="Days on papers"
        :items="forms"
        :model-value="rules.dates.form"
        :readonly="!session.mayDecide"
        hide-details
        @update:model-value="dates({ form: $event })"
      />
      <v-autocomplete
        label="Time zone on papers"
        :items="zones"
        :model-value="rules.dates.timeZone"
        :readonly="!session.mayDecide"
        hide-details
        @update:model-value="$event && dates({ timeZone: $event })"
      />
    </div>
    <p v-if="refused" role="alert" class="trouble">{{ refused }}</p>
  </section>
</template>

<style scoped>
.logo {
  max-width: 160px;
  max-height: 48px;
}
.grow {
  flex: 1 1 220px;
}
.trouble {
  color: var(--stop);
}
</style>
