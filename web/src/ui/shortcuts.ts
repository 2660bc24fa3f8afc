import { onScopeDispose, reactive } from 'vue'

export interface Shortcut {
  readonly key: string
  readonly says: string
  readonly run: () => void
}

/** Keys that work now; the newest meaning of a key wins and goes away with its screen. */
const active = reactive<Shortcut[]>([])

export const activeShortcuts = (): readonly Shortcut[] => active

/** One key for one action while the calling component is there. Never while somebody types. */
export function useShortcut(key: string, says: string, run: () => void): void {
  const shortcut: Shortcut = { key, says, run }
  active.unshift(shortcut)
  onScopeDispose(() => {
    const at = active.findIndex((s) => s.key === key && s.says === says)
    if (at >= 0) active.splice(at, 1)
  })
}

const isTyping = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (target.isContentEditable || /^(input|textarea|select)$/i.test(target.tagName))

/** Runs the shortcut of a pressed key. */
export function handleKey(event: KeyboardEvent): void {
  if (event.ctrlKey || event.metaKey || event.altKey || isTyping(event.target)) return
  const hit = active.find((s) => s.key === event.key)
  if (!hit) return
  event.preventDefault()
  hit.run()
}
