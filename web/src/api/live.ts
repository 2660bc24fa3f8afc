import { system, urlOf } from '@calm/contract/api/addresses'
import type { News, Progress } from '@calm/contract/api/news'
import { WINDOW } from './window.ts'

type Listener = (news: News | null) => void
const listeners = new Set<Listener>()

/** Hears what others changed; null means that something may have been missed. */
export function onNews(listener: Listener): () => void {
  listeners.add(listener)
  return () => void listeners.delete(listener)
}

const workers = new Set<(p: Progress) => void>()
/** Hears how far the server is with what this window asked for. */
export function onProgress(listener: (p: Progress) => void): () => void {
  workers.add(listener)
  return () => void workers.delete(listener)
}

/** Passes news on, but for this window's own: it knows already, except how far its own work is. */
export function tell(news: News | null): void {
  if (news?.progress) {
    if (news.window === WINDOW) for (const w of workers) w(news.progress)
    return
  }
  if (news?.window === WINDOW) return
  for (const l of listeners) l(news)
}

const NAME = 'calm-live'
/** Stops listening; null while nothing is listened to. */
let stop: (() => void) | null = null

/** Opens the stream of the server, and passes what comes to every window of this browser. */
function openStream(pass: (news: News | null) => void): EventSource {
  const source = new EventSource(urlOf(system.live, {}))
  let opened = false
  source.addEventListener('open', () => {
    // A second opening follows a gap.
    if (opened) pass(null)
    opened = true
  })
  source.addEventListener('changed', (e) => pass(JSON.parse((e as MessageEvent<string>).data) as News))
  source.addEventListener('missed', () => pass(null))
  return source
}

/**
 * Listens to the server. Of all windows of a browser one holds the stream and tells the others: a browser opens six
 * connections to a server at most, and a twentieth window has to work too. Whoever waits takes it over when the
 * holder goes, and since something may have been missed in between, everybody looks.
 */
export function listenForNews(): void {
  if (stop) return
  // Absent where the page is not served from a secure address.
  const locks = navigator.locks as LockManager | undefined | null
  if (!locks || typeof BroadcastChannel === 'undefined') {
    const source = openStream(tell)
    stop = () => source.close()
    return
  }
  const others = new BroadcastChannel(NAME)
  others.addEventListener('message', (e: MessageEvent<News | null>) => tell(e.data))
  const pass = (news: News | null) => {
    others.postMessage(news)
    tell(news)
  }
  const waiting = new AbortController()
  let release: () => void = () => undefined
  let free = true
  const hold = (tookOver: boolean) => {
    const source = openStream(pass)
    if (tookOver) pass(null)
    return new Promise<void>((done) => {
      release = () => {
        source.close()
        done()
      }
    })
  }
  void locks
    .request(NAME, { ifAvailable: true }, (lock) => {
      free = lock !== null
      return lock && !waiting.signal.aborted ? hold(false) : undefined
    })
    .then(() => (free ? undefined : locks.request(NAME, { signal: waiting.signal }, () => hold(true))))
    // Stopped while it waited.
    .catch(() => undefined)
  stop = () => {
    waiting.abort()
    release()
    others.close()
  }
}

export function stopListening(): void {
  stop?.()
  stop = null
}
