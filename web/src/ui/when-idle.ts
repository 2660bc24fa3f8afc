/** How long a chart may wait for the page to come to rest, ms; and where no browser tells that it is at rest. */
const [MOST_WAIT_MS, WAIT_MS] = [500, 100]

/** Resolves once the page has drawn what it has and is at rest: words and buttons come over the wire first. */
export const whenIdle = (): Promise<void> =>
  new Promise((resolve) => {
    const done = () => {
      resolve()
    }
    if ('requestIdleCallback' in globalThis) requestIdleCallback(done, { timeout: MOST_WAIT_MS })
    else setTimeout(done, WAIT_MS)
  })
