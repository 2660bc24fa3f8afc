import { session as at } from '@calm/contract/api/addresses'
import type { Person } from '@calm/contract/people'
import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { ApiProblem, call, onSignedOut, showPerson } from './call.ts'
import { forgetAnswers } from './live-cache.ts'
import { listenForNews, stopListening } from './live.ts'

/** Who is signed in here. */
export const useSession = defineStore('session', () => {
  const person = ref<Person | null>(null)
  const known = ref(false)
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
    welcome((await call(at.one, {})).person)
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
  async function signIn(name: string, password: string): Promise<void> {
    welcome((await call(at.signIn, {}, { name, password })).person)
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
    mayWrite: computed(() => person.value !== null && person.value.role !== 'viewer'),
    isReviewer: computed(() => person.value?.role === 'reviewer'),
    look,
    lookAgain,
    signIn,
    signOut: () => leave(at.signOut),
    signOutEverywhere: () => leave(at.signOutEverywhere),
    /** Gives the place to somebody else; what this person left unsent stays for them. */
    giveUp: () => welcome(null),
  }
})
