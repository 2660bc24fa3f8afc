<script setup lang="ts">
import { people } from '@calm/contract/api/addresses'
import type { PasswordLink, RegisteredPerson } from '@calm/contract/people'
import { AREA_ROLES, type AreaRole, type Role } from '@calm/core/signing/roles'
import { computed, ref } from 'vue'
import { ApiProblem, call, sayProblem } from '../../api/call.ts'

/** Somebody invited, or changed: name, role, areas, last day. */
const { person = null, areas: known } = defineProps<{
  person?: RegisteredPerson | null
  /** Areas that loops are in. */
  areas: readonly string[]
}>()
const emit = defineEmits<{ close: []; linked: [who: string, link: PasswordLink] }>()

const ROLES: readonly { value: Role; title: string }[] = [
  { value: 'technician', title: 'technician: does the work and signs it' },
  { value: 'reviewer', title: 'reviewer: works too, and countersigns the work of others' },
  { value: 'planner', title: 'planner: plans the work and looks on' },
  { value: 'viewer', title: 'viewer: looks on' },
  { value: 'administrator', title: 'administrator: people, keys and rules; signs nothing' },
]
const form = ref({
  name: person?.name ?? '',
  shownName: person?.shownName ?? '',
  role: person?.role ?? ('technician' as Role),
  areas: [...(person?.areas ?? [])],
  areaRoles: { ...person?.areaRoles },
  until: person?.until ?? '',
  reason: '',
})
const problem = ref<ApiProblem | null>(null)
const says = ref<string | null>(null)
const busy = ref(false)
const at = (path: string) => problem.value?.at(path) ?? undefined
const choices = computed(() => [
  ...new Set([...known, ...form.value.areas, ...Object.keys(form.value.areaRoles)]),
])
const AS_ELSEWHERE = { value: null, title: 'no other role' }
const areaRoles = [AS_ELSEWHERE, ...AREA_ROLES.map((value) => ({ value, title: value }))]
function setRole(area: string, role: AreaRole | null): void {
  const others = Object.entries(form.value.areaRoles).filter(([a]) => a !== area)
  form.value.areaRoles = Object.fromEntries(role === null ? others : [...others, [area, role]])
}
/** Kept while the dialog is open: sent twice it is one person. */
const id = crypto.randomUUID()

async function save(): Promise<void> {
  if (busy.value) return
  busy.value = true
  problem.value = null
  says.value = null
  const { name, shownName, role, areas, reason } = form.value
  const areaRoles = role === 'administrator' ? {} : form.value.areaRoles
  const until = form.value.until.trim() === '' ? null : form.value.until.trim()
  try {
    if (person)
      await call(people.change, { person: person.id }, { shownName, role, areas, areaRoles, until, reason })
    else
      emit(
        'linked',
        shownName,
        await call(people.invite, {}, { id, name, shownName, role, areas, areaRoles, until, reason }),
      )
    emit('close')
  } catch (error) {
    if (error instanceof ApiProblem) problem.value = error
    if (!(error instanceof ApiProblem) || !error.problem.errors) says.value = sayProblem(error)
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <v-dialog
    :model-value="true"
    aria-labelledby="person-title"
    max-width="560"
    scrollable
    @update:model-value="emit('close')"
  >
    <v-card>
      <form class="stack" novalidate @submit.prevent="save">
        <h2 id="person-title">{{ person ? `Change ${person.shownName}` : 'Invite somebody' }}</h2>
        <v-text-field
          v-model="form.shownName"
          label="Name as it stands on papers"
          maxlength="120"
          autofocus
          :error-messages="at('shownName')"
        />
        <v-text-field
          v-if="!person"
          v-model="form.name"
          label="Sign-in name (small letters)"
          maxlength="40"
          autocapitalize="none"
          :error-messages="at('name')"
        />
        <v-select v-model="form.role" label="Role" :items="ROLES" :error-messages="at('role')" />
        <v-select
          v-model="form.areas"
          label="Works in (nothing chosen: everywhere)"
          :items="choices"
          multiple
          chips
          clearable
          :error-messages="at('areas')"
        />
        <details v-if="form.role !== 'administrator'" :open="Object.keys(form.areaRoles).length > 0">
          <summary>Another role in some areas</summary>
          <div class="field-grid">
            <v-select
              v-for="area in choices"
              :key="area"
              :label="area"
              :items="areaRoles"
              :model-value="form.areaRoles[area] ?? null"
              :error-messages="at(`areaRoles.${area}`)"
              hide-details="auto"
              @update:model-value="setRole(area, $event)"
            />
          </div>
        </details>
        <v-text-field
          v-model="form.until"
          label="Last day (2027-03-31), empty for none"
          maxlength="10"
          :error-messages="at('until')"
        />
        <v-text-field v-model="form.reason" label="Because" maxlength="300" :error-messages="at('reason')" />
        <p v-if="says" class="wrong" role="alert">{{ says }}</p>
        <div class="row">
          <v-btn type="submit" color="primary" variant="flat" height="48" :loading="busy">{{
            person ? 'Save' : 'Make the invitation'
          }}</v-btn>
          <v-btn variant="text" height="48" @click="emit('close')">Not now</v-btn>
        </div>
      </form>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.wrong {
  color: var(--stop);
}
</style>
