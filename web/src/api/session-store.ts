import type { Person, SessionInfo } from '@calm/contract/people'
import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { api, ApiProblem, onSignedOut, showPerson } from './http.ts'
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
    person.value = p
    showPerson(p?.id ?? null)
    known.value = true
    expired.value = false
    if (p) listenForNews()
  }

  async function look(): Promise<void> {
    welcome((await api<SessionInfo>('GET', '/api/session')).person)
  }
  /** Whether the session is still this person's: another page of this browser may have changed it. */
  async function lookAgain(): Promise<void> {
    if (!person.value || expired.value) return
    const now = await api<SessionInfo>('GET', '/api/session').catch(() => null)
    if (now && now.person?.id !== person.value.id) {
      expired.value = true
      stopListening()
    }
  }
  async function signIn(name: string, password: string): Promise<void> {
    welcome((await api<SessionInfo>('POST', '/api/session', { name, password })).person)
  }
  /** Over on the server or not: here it is over. */
  async function leave(path: '/api/session' | '/api/session/everywhere'): Promise<void> {
    await api('DELETE', path).catch((error: unknown) => {
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
    signOut: () => leave('/api/session'),
    signOutEverywhere: () => leave('/api/session/everywhere'),
    /** Gives the place to somebody else; what this person left unsent stays for them. */
    giveUp: () => welcome(null),
  }
})
