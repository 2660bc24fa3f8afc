import type { Person, SessionInfo } from '@calm/contract/people'
import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { api, onSignedOut } from './http.ts'
import { listenForNews, stopListening } from './live.ts'

/** Who is signed in here. */
export const useSession = defineStore('session', () => {
  const person = ref<Person | null>(null)
  const known = ref(false)
  /** The session ended while somebody was working: sign in again in place, nothing is left. */
  const expired = ref(false)

  onSignedOut(() => {
    if (person.value) expired.value = true
    stopListening()
  })

  function welcome(p: Person | null): void {
    person.value = p
    known.value = true
    expired.value = false
    if (p) listenForNews()
  }

  async function look(): Promise<void> {
    welcome((await api<SessionInfo>('GET', '/api/session')).person)
  }
  async function signIn(name: string, password: string): Promise<void> {
    welcome((await api<SessionInfo>('POST', '/api/session', { name, password })).person)
  }
  async function signOut(): Promise<void> {
    await api('DELETE', '/api/session')
    stopListening()
    person.value = null
  }

  return {
    person,
    known,
    expired,
    mayWrite: computed(() => person.value !== null && person.value.role !== 'viewer'),
    isReviewer: computed(() => person.value?.role === 'reviewer'),
    look,
    signIn,
    signOut,
  }
})
