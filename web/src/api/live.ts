import { system } from '@calm/contract/api/addresses'
import type { News } from '@calm/contract/api/news'
import { urlOf } from '@calm/contract/api/addresses'
import { WINDOW } from './window.ts'

type Listener = (news: News | null) => void
const listeners = new Set<Listener>()
let source: EventSource | null = null

/** Hears what others changed; null means that something may have been missed. */
export function onNews(listener: Listener): () => void {
  listeners.add(listener)
  return () => void listeners.delete(listener)
}

/** Passes news on, but for this window's own: it knows already. */
export function tell(news: News | null): void {
  if (news?.window === WINDOW) return
  for (const l of listeners) l(news)
}

export function listenForNews(): void {
  if (source) return
  source = new EventSource(urlOf(system.live, {}))
  let opened = false
  source.addEventListener('open', () => {
    // A second opening follows a gap.
    if (opened) tell(null)
    opened = true
  })
  source.addEventListener('changed', (e) => tell(JSON.parse((e as MessageEvent<string>).data) as News))
  source.addEventListener('missed', () => tell(null))
}

export function stopListening(): void {
  source?.close()
  source = null
}
