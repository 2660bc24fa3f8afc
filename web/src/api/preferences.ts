import { settings } from '@calm/contract/api/addresses'
import type { Preferences } from '@calm/contract/settings'
import { computed, shallowRef } from 'vue'
import { call } from './call.ts'
import { useLive } from './live-cache.ts'
import { useSession } from './session-store.ts'

const NONE: Preferences = { smallPath: {} }

/** What was changed here and may not be at the server yet, by person: the screen never jumps back. */
const changed = shallowRef<Readonly<Record<string, Preferences>>>({})

/** How the one who is signed in wants the screens, at whatever device. */
export function usePreferences() {
  const session = useSession()
  const id = computed(() => session.person?.id ?? null)
  const told = useLive(settings.mine, () => (id.value === null ? null : {}))
  const mine = computed(() => changed.value[id.value ?? ''] ?? told.data.value ?? NONE)
  function change(next: Preferences): void {
    if (id.value === null) return
    changed.value = { ...changed.value, [id.value]: next }
    // A wish of the eye is worth no message: it holds on this page, and is kept with the next change.
    void call(settings.keepMine, {}, next).catch(() => undefined)
  }
  return { mine, change }
}
