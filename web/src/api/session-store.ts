import { people, session as at } from '@calm/contract/api/addresses'
import type { Person, SessionInfo } from '@calm/contract/people'
import { roleIn, signsAnywhere, worksAs } from '@calm/core/signing/roles'
import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { ApiProblem, call, onSignedOut, showPerson } from './call.ts'
import { forgetAnswers } from './live-cache.ts'
import { listenForNews, stopListening } from './live.ts'

/** Who is signed in here. */
export const useSession = defineStore('session', () => {
  const person = ref<Person | null>(null)
  const known = ref(false)
  /** Area of the loop that is open; null where none is. */
  const area = ref<string | null>(null)
  /** As what this person is here: a role can be another one in an area. */
  const role = computed(() => {
    if (!person.value) return null
    return area.value === null ? person.value.role : roleIn(person.value, area.value)
  })
  /** Nobody works in this plant yet. */
  const first = ref(false)
  /** The session ended, or became another person's, while somebody was working: sign in again in place. */
  const expired = ref(false)

  onSignedOut(() => {
    if (person.value) expired.value = true
    stopListening()
  })

  function welcome(p: Person | null): void {
    if (p?.id !== person.value?.id) forgetAnswers()
    person.value = p
    showPerson(p?.id ?? null)
    known.value = true
    expired.value = false
    if (p) listenForNews()
  }

  async function look(): Promise<void> {
    const told = await call(at.one, {})
    first.value = told.first
    welcome(told.person)
  }
  /** Whether the session is still this person's: another page of this browser may have changed it. */
  async function lookAgain(): Promise<void> {
    if (!person.value || expired.value) return
    const now = await call(at.one, {}).catch(() => null)
    if (now && now.person?.id !== person.value.id) {
      expired.value = true
      stopListening()
    }
  }
  /** Whoever just typed a password is here; who may sign and has no key yet has one made with it. */
  function enter({ person: p }: SessionInfo, password: string): void {
    first.value = false
    welcome(p)
    // What fails is told where something is signed.
    if (p && signsAnywhere(p))
      void import('./signing-key.ts').then((m) => m.ensureKey(password, p.id)).catch(() => undefined)
  }
  async function signIn(name: string, password: string, code?: string): Promise<void> {
    enter(await call(at.signIn, {}, { name, password, ...(code ? { code } : {}) }), password)
  }
  async function beginPlant(name: string, shownName: string, password: string): Promise<void> {
    enter(await call(people.first, {}, { name, shownName, password }), password)
  }
  async function join(token: string, password: string): Promise<void> {
    enter(await call(people.takeInvitation, { token }, { password }), password)
  }
  /** Over on the server or not: here it is over. */
  async function leave(address: typeof at.signOut | typeof at.signOutEverywhere): Promise<void> {
    await call(address, {}).catch((error: unknown) => {
      if (!(error instanceof ApiProblem) || !error.signedOut) throw error
    })
    stopListening()
    welcome(null)
  }

  return {
    person,
    known,
    expired,
    first,
    area,
    role,
    mayWrite: computed(() => role.value !== null && worksAs(role.value)),
    /** Who works on loops of some area at least. */
    mayWriteSomewhere: computed(() => person.value !== null && signsAnywhere(person.value)),
    isAdministrator: computed(() => person.value?.role === 'administrator'),
    /** Who decides the rules of the plant. */
    mayDecide: computed(
      () => person.value !== null && (person.value.role === 'administrator' || worksAs(person.value.role)),
    ),
    /** Who looks whether all is in order. */
    oversees: computed(() => person.value?.role === 'administrator' || person.value?.role === 'reviewer'),
    isReviewer: computed(() => role.value === 'reviewer'),
    look,
    lookAgain,
    signIn,
    beginPlant,
    join,
    signOut: () => leave(at.signOut),
    signOutEverywhere: () => leave(at.signOutEverywhere),
    /** Gives the place to somebody else; what this person left unsent stays for them. */
    giveUp: () => welcome(null),
  }
})
