import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest'
import type { News } from '@calm/contract/api/news'

/** Streams that windows have open, with their listeners. */
class Stream {
  static readonly open: Stream[] = []
  private readonly heard = new Map<string, ((e: { data: string }) => void)[]>()
  constructor() {
    Stream.open.push(this)
  }
  addEventListener(type: string, listener: (e: { data: string }) => void): void {
    this.heard.set(type, [...(this.heard.get(type) ?? []), listener])
  }
  say(type: string, data: unknown = {}): void {
    for (const l of this.heard.get(type) ?? []) l({ data: JSON.stringify(data) })
  }
  close(): void {
    Stream.open.splice(Stream.open.indexOf(this), 1)
  }
}

/** The browser's locks and channels, shared by its windows. */
class Locks {
  private held = false
  private readonly queue: (() => void)[] = []
  async request(
    _name: string,
    how: { ifAvailable?: boolean; signal?: AbortSignal },
    work: (lock: object | null) => unknown,
  ) {
    if (this.held && how.ifAvailable) return work(null)
    if (this.held)
      await new Promise<void>((go, refuse) => {
        this.queue.push(go)
        how.signal?.addEventListener('abort', () => {
          this.queue.splice(this.queue.indexOf(go), 1)
          refuse(new DOMException('', 'AbortError'))
        })
      })
    this.held = true
    try {
      return await work({})
    } finally {
      this.held = false
      this.queue.shift()?.()
    }
  }
}
const channels = new Set<Channel>()
class Channel {
  private listener: (e: { data: unknown }) => void = () => undefined
  constructor() {
    channels.add(this)
  }
  addEventListener(_type: string, listener: (e: { data: unknown }) => void): void {
    this.listener = listener
  }
  postMessage(data: unknown): void {
    for (const c of channels) if (c !== this) c.listener({ data })
  }
  close(): void {
    channels.delete(this)
  }
}
const CHANGED: News = { what: 'events', loopId: 'l' }
const settle = () => new Promise((r) => setTimeout(r, 5))

/** Another window of the same browser: its own copy of the page's code. */
async function openWindow() {
  vi.resetModules()
  const live = await import('./live.ts')
  const { WINDOW } = await import('./window.ts')
  const heard: (News | null)[] = []
  live.onNews((n) => heard.push(n))
  live.listenForNews()
  await settle()
  return { ...live, heard, id: WINDOW }
}

beforeEach(() => {
  vi.stubGlobal('EventSource', Stream)
  vi.stubGlobal('BroadcastChannel', Channel)
  vi.stubGlobal('navigator', { locks: new Locks() })
  Stream.open.length = 0
  channels.clear()
})
afterEach(() => vi.unstubAllGlobals())

describe('windows of one browser', () => {
  test('twenty of them open one stream, and all hear', async () => {
    const windows = []
    for (let i = 0; i < 20; i++) windows.push(await openWindow())
    expect(Stream.open).toHaveLength(1)
    Stream.open[0]?.say('changed', CHANGED)
    expect(windows.map((w) => w.heard)).toEqual(windows.map(() => [CHANGED]))
  })
  test('the holder goes: another takes the stream over, and everybody looks for what was missed', async () => {
    const [first, second, third] = [await openWindow(), await openWindow(), await openWindow()]
    first.stopListening()
    await settle()
    expect(Stream.open).toHaveLength(1)
    expect([first.heard, second.heard, third.heard]).toEqual([[], [null], [null]])
    Stream.open[0]?.say('changed', CHANGED)
    expect([second.heard.at(-1), third.heard.at(-1)]).toEqual([CHANGED, CHANGED])
  })
  test('one that waited and goes leaves no stream behind', async () => {
    const [first, second] = [await openWindow(), await openWindow()]
    second.stopListening()
    first.stopListening()
    await settle()
    expect([Stream.open.length, channels.size]).toEqual([0, 0])
  })
  test('a second opening follows a gap, the first does not', async () => {
    const { heard } = await openWindow()
    Stream.open[0]?.say('open')
    expect(heard).toEqual([])
    Stream.open[0]?.say('open')
    expect(heard).toEqual([null])
  })
  test('a window’s own doing is news to the others only', async () => {
    const [first, second] = [await openWindow(), await openWindow()]
    const own: News = { ...CHANGED, window: second.id }
    Stream.open[0]?.say('changed', own)
    expect([first.heard, second.heard]).toEqual([[own], []])
  })
})

test('where there are no locks each window opens its own', async () => {
  vi.stubGlobal('navigator', {})
  const [a, b] = [await openWindow(), await openWindow()]
  expect(Stream.open).toHaveLength(2)
  a.stopListening()
  b.stopListening()
  expect(Stream.open).toHaveLength(0)
})
