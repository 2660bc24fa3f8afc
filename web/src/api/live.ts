export interface News {
  readonly loopId: string
  readonly tag: string
  readonly what: 'revision' | 'run' | 'events' | 'list'
}

type Listener = (news: News | null) => void
const listeners = new Set<Listener>()
let source: EventSource | null = null

/** Hears what other windows changed; null means that something may have been missed. */
export function onNews(listener: Listener): () => void {
  listeners.add(listener)
  return () => void listeners.delete(listener)
}

export function listenForNews(): void {
  if (source) return
  source = new EventSource('/api/live')
  let opened = false
  source.addEventListener('open', () => {
    // A second opening follows a gap.
    if (opened) for (const l of listeners) l(null)
    opened = true
  })
  source.addEventListener('changed', (e) => {
    const news = JSON.parse((e as MessageEvent<string>).data) as News
    for (const l of listeners) l(news)
  })
  source.addEventListener('missed', () => {
    for (const l of listeners) l(null)
  })
}

export function stopListening(): void {
  source?.close()
  source = null
}
