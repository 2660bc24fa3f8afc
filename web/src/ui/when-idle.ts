/** A chart waits so long for what is still on its way, then for the page to be at rest, but no longer than that; ms. */
const [WAIT_MS, MOST_WAIT_MS] = [300, 500]

/** Resolves once the page has drawn what it has and is at rest: words and buttons come over the wire first. */
export async function whenIdle(): Promise<void> {
  await new Promise((resolve) => setTimeout(resolve, WAIT_MS))
  // Not every browser tells when it is at rest.
  if ('requestIdleCallback' in globalThis)
    await new Promise((resolve) => requestIdleCallback(resolve, { timeout: MOST_WAIT_MS }))
}
