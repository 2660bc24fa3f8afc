import type { Log, NewLog } from '@calm/contract/logs'
import { recordingMapping } from '@calm/core/logs/recording'
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest'
import { effectScope, type EffectScope } from 'vue'
import { SENT_EVERY_MS, useRecording } from './use-recording.ts'

const CHANNELS = [{ name: 'Reading', unit: 'm3/h' }]
const asked: NewLog = {
  id: '7d3c8f5e-53a5-4f0a-9a6e-1f6b1c0d2e3f',
  title: 'Recorded',
  of: 'installed',
  source: 'link',
  instrument: null,
  site: '',
  files: ['recorded'],
  mapping: recordingMapping(CHANNELS, 'UTC'),
}
/** A server that takes pieces in their order; it can be away. */
function server() {
  const held: string[] = []
  const state = { away: false, losesAnswer: false, kept: false, gone: false, sendings: 0 }
  const told = (): Partial<Log> => ({
    id: asked.id,
    tag: 'FT-101',
    state: state.kept ? 'kept' : 'open',
    pieces: held.length,
    rows: 0,
    channels: CHANNELS.map((c) => ({ ...c, kind: 'value' as const, n: 0, min: null, max: null })),
  })
  const json = (body: unknown, status = 200) =>
    new Response(JSON.stringify(body), { status, headers: { 'content-type': 'application/json' } })
  vi.stubGlobal('fetch', (url: string, init?: RequestInit) => {
    if (state.away) return Promise.reject(new TypeError('away'))
    if (url.endsWith('/pieces')) {
      state.sendings++
      const p = JSON.parse(init?.body as string) as { piece: number; text: string }
      if (p.piece === held.length) held.push(p.text)
      else if (held[p.piece] !== p.text)
        return Promise.resolve(json({ type: 'urn:calm-loop:conflict', title: 'Another piece is here.' }, 409))
      if (state.losesAnswer) return Promise.reject(new TypeError('lost'))
    }
    if (url.endsWith('/keep')) state.kept = true
    if (init?.method === 'DELETE') state.gone = true
    return Promise.resolve(json(told()))
  })
  return { held, state }
}
const row = (s: number) => ({ at_ms: 1000 * s, values: [s / 10] })

let scope: EffectScope
beforeEach(() => {
  vi.useFakeTimers()
  scope = effectScope()
})
afterEach(() => {
  scope.stop()
  vi.useRealTimers()
  vi.unstubAllGlobals()
})
const begun = async () => {
  const s = server()
  const r = scope.run(useRecording)
  if (!r) throw new Error('no scope')
  await r.begin('FT-101', asked)
  return { ...s, r }
}

describe('a recording', () => {
  test('is sent as it comes, with its head once, and kept with what waited', async () => {
    const { held, state, r } = await begun()
    r.add([row(1), row(2)])
    await vi.advanceTimersByTimeAsync(SENT_EVERY_MS)
    r.add([row(3)])
    expect(r.waits.value).toBe(1)
    expect(await r.keep()).toMatchObject({ state: 'kept' })
    expect(held).toEqual(['Time;Reading\n1000;0.1\n2000;0.2\n', '3000;0.3\n'])
    expect(state.kept).toBe(true)
    r.add([row(4)])
    expect([r.rows.value, r.waits.value]).toEqual([3, 0])
  })
  test('waits while the server is away, and loses nothing', async () => {
    const { held, state, r } = await begun()
    state.away = true
    r.add([row(1)])
    await vi.advanceTimersByTimeAsync(SENT_EVERY_MS)
    expect(r.says.value).toContain('One row waits here')
    r.add([row(2)])
    expect(await r.keep()).toBeNull()
    state.away = false
    expect(await r.keep()).not.toBeNull()
    expect(held.join('')).toBe('Time;Reading\n1000;0.1\n2000;0.2\n')
  })
  test('an answer that was lost: the same piece again, word for word, nothing twice', async () => {
    const { held, state, r } = await begun()
    state.losesAnswer = true
    r.add([row(1)])
    await vi.advanceTimersByTimeAsync(SENT_EVERY_MS)
    r.add([row(2)])
    state.losesAnswer = false
    await r.keep()
    expect(held).toEqual(['Time;Reading\n1000;0.1\n', '2000;0.2\n'])
    expect(state.sendings).toBe(3)
  })
  test('another window went on with it: what waits here comes behind', async () => {
    const { held, r } = await begun()
    held.push('Time;Reading\n500;0.05\n')
    r.add([row(1)])
    await vi.advanceTimersByTimeAsync(SENT_EVERY_MS)
    expect(r.says.value).toContain('Another piece is here.')
    expect(await r.keep()).not.toBeNull()
    expect(held).toEqual(['Time;Reading\n500;0.05\n', '1000;0.1\n'])
  })
  test('a page that is left sends what it has; given up, nothing stays', async () => {
    const first = await begun()
    first.r.add([row(1)])
    scope.stop()
    await vi.advanceTimersByTimeAsync(0)
    expect(first.held).toHaveLength(1)
    scope = effectScope()
    const second = await begun()
    second.r.add([row(1)])
    await second.r.giveUp()
    expect([second.state.gone, second.held, second.r.waits.value]).toEqual([true, [], 0])
  })
})
