import { ref } from 'vue'

/**
 * Set when a part of the program could not be fetched: the server cannot be reached, or it was renewed and this page is
 * of the version before. Nothing that was typed is lost: what is not stored waits in the browser.
 */
export const stalePage = ref(false)

const COULD_NOT_FETCH =
  /dynamically imported module|Importing a module script failed|error loading dynamically/i
/** Whether an error says that a part could not be fetched; then the page tells it. */
export function noteIfStale(error: unknown): boolean {
  const stale = error instanceof Error && COULD_NOT_FETCH.test(error.message)
  if (stale) stalePage.value = true
  return stale
}
window.addEventListener('vite:preloadError', (event) => {
  stalePage.value = true
  event.preventDefault()
})
