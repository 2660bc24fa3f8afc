import { useLocalStorage } from '@vueuse/core'
import { onScopeDispose, reactive } from 'vue'

export interface Shortcut {
  /** A key by its name, with Ctrl+ before it where it is held; Ctrl is the command key where there is one. */
  readonly key: string
  readonly says: string
  readonly run: () => void
}

/** Keys that work now; the newest meaning of a key wins and goes away with its screen. */
const active = reactive<Shortcut[]>([])

export const activeShortcuts = (): readonly Shortcut[] => active

/** Single keys can be switched off by who does not want them: a glove, a voice, a key that is stuck. */
export const useSingleKeys = () => useLocalStorage('calm-single-keys', true)
const singleKeys = useSingleKeys()

/** One key for one action while the calling component is there. Never while something else can take it. */
export function useShortcut(key: string, says: string, run: () => void): void {
  const shortcut: Shortcut = { key, says, run }
  active.unshift(shortcut)
  onScopeDispose(() => {
    const at = active.findIndex((s) => s.key === key && s.says === says)
    if (at >= 0) active.splice(at, 1)
  })
}

const TAKES_LETTERS =
  'input:not([type=checkbox],[type=radio]), textarea, select, [contenteditable=true], [role=combobox], [role=listbox], [role=menu], [role=slider]'
/** Something lies over the page: a dialog, a list that is open, a menu. */
const isCovered = (): boolean => document.querySelector('.v-overlay--active:not(.v-tooltip)') !== null
const takesKeys = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement && target.closest(TAKES_LETTERS) !== null

/** Runs the shortcut of a pressed key. */
export function handleKey(event: KeyboardEvent): void {
  if (event.altKey || event.defaultPrevented || event.isComposing) return
  const held = event.ctrlKey || event.metaKey
  if (!held && (!singleKeys.value || event.repeat)) return
  if (isCovered() || takesKeys(event.target)) return
  const key = held ? `Ctrl+${event.key.toLowerCase()}` : event.key
  const hit = active.find((s) => s.key === key)
  if (!hit) return
  event.preventDefault()
  hit.run()
}
