import { logs } from '@calm/contract/api/addresses'
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest'
import { ApiProblem, call, GivenUp, onWritten } from './call.ts'

/** An answer whose head came, and whose body does as it is told. */
const answer = (body: (c: ReadableStreamDefaultController<Uint8Array>) => void) =>
  new Response(new ReadableStream({ start: body }), { headers: { 'Content-Type': 'application/json' } })
const bytes = (text: string) => new TextEncoder().encode(text)

const fetched = vi.fn<typeof fetch>()
beforeEach(() => {
  vi.stubGlobal('fetch', fetched)
})
afterEach(() => {
  vi.unstubAllGlobals()
})

describe('an answer that does not come whole', () => {
  const named = { loop: 'FT-1', log: '1', channel: 0, from: 0, to: 1, width: 100 }
  test('broken off in the middle is no answer: not even an empty one', async () => {
    fetched.mockResolvedValueOnce(
      answer((c) => {
        c.enqueue(bytes('{"from":0,"to":1,'))
        c.error(new TypeError('network error'))
      }),
    )
    const told: unknown = await call(logs.view, named).catch((e: unknown) => e)
    expect(told).toBeInstanceOf(ApiProblem)
    expect(told).toMatchObject({ status: 0, passing: true })
  })
  test('given up between head and body it is given up', async () => {
    const given = new AbortController()
    fetched.mockResolvedValueOnce(
      answer((c) => {
        given.signal.addEventListener('abort', () => {
          c.error(given.signal.reason)
        })
      }),
    )
    const told = call(logs.view, named, undefined, given.signal).catch((e: unknown) => e)
    await vi.waitFor(() => {
      expect(fetched).toHaveBeenCalled()
    })
    given.abort()
    expect(await told).toBeInstanceOf(GivenUp)
  })
  test('no JSON is none either, and nobody is told that something was written', async () => {
    const heard = vi.fn()
    onWritten(heard)
    fetched.mockResolvedValueOnce(new Response('<html>a proxy</html>'))
    const told: unknown = await call(logs.giveUp, { loop: 'FT-1', log: '1' }).catch((e: unknown) => e)
    expect(told).toMatchObject({ status: 0 })
    expect(heard).not.toHaveBeenCalled()
  })
  test('whole it is what was sent', async () => {
    fetched.mockResolvedValueOnce(new Response('{"from":0}'))
    expect(await call(logs.view, named)).toEqual({ from: 0 })
  })
})
