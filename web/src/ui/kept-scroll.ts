import { nextTick, onBeforeUnmount, watch } from 'vue'

/**
 * A list that scrolls by itself is, when the browser goes back to its page, where it was when the page was left. Who
 * comes anew begins at the top.
 * @param ready - whether the list has its rows
 */
export function useKeptScroll(key: string, list: () => Element | null, ready: () => boolean): void {
  // The router notes in the history whether there is a page to go forward to.
  const wentBack = (window.history.state as { forward?: unknown } | null)?.forward != null
  const kept = wentBack ? Number(sessionStorage.getItem(key) ?? 0) : 0
  const stop = watch(
    ready,
    async (is) => {
      if (!is) return
      await nextTick()
      stop()
      if (kept > 0) requestAnimationFrame(() => list()?.scrollTo({ top: kept }))
    },
    { immediate: true, flush: 'post' },
  )
  onBeforeUnmount(() => sessionStorage.setItem(key, String(list()?.scrollTop ?? 0)))
}
