import type { Log, NewLog } from '@calm/contract/logs'
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest'
import { useReadingIn } from './use-reading-in.ts'

/** A server as the page sees it: pieces stored in their order, one that came too early refused. */
const server = { stored: [] as number[], text: '', onTheWay: 0, most: 0, answers: 0, isKept: false }
let slow: (piece: number) => number = () => 1
let refused: number | null = null
const log = () => ({ id: 'l', state: server.isKept ? 'kept' : 'open', pieces: server.stored.length }) as Log

const answer = async (path: string, body: { piece?: number; text?: string } | null): Promise<Response> => {
  const json = (value: unknown, status = 200) =>
    new Response(JSON.stringify(value), {
      status,
      headers: { 'content-type': status < 400 ? 'application/json' : 'application/problem+json' },
    })
  if (path.endsWith('/keep')) server.isKept = true
  if (!path.endsWith('/pieces')) return json(log())
  const { piece = 0, text = '' } = body ?? {}
  server.most = Math.max(server.most, ++server.onTheWay)
  await new Promise((go) => setTimeout(go, slow(piece)))
  server.onTheWay--
  server.answers++
  if (piece === refused)
    return json({ title: 'No', status: 422, errors: [{ path: 'text', says: 'At most so many rows.' }] }, 422)
  if (piece !== server.stored.length) return json({ title: 'Another comes next.', status: 409 }, 409)
  server.stored.push(piece)
  server.text += text
  return json(log())
}

const lines = Array.from({ length: 400_000 }, (_, i) => `2026-03-01 10:00:00;${i % 97}.${i % 10}\n`).join('')
const readIn = async () => {
  const r = useReadingIn()
  const told = await r.readIn('FT-1', { id: 'l' } as NewLog, [new File([lines], 'a.csv')])
  return { told, says: r.says.value, at: r.problem.value?.at('text') }
}

beforeEach(() => {
  Object.assign(server, { stored: [], text: '', onTheWay: 0, most: 0, answers: 0, isKept: false })
  slow = () => 1
  refused = null
  vi.stubGlobal('fetch', (url: string, init?: RequestInit) =>
    answer(String(url), typeof init?.body === 'string' ? (JSON.parse(init.body) as object) : null),
  )
})
afterEach(() => vi.unstubAllGlobals())

describe('pieces that are on their way together', () => {
  test.each<[string, (piece: number) => number]>([
    ['in their order', () => 3],
    ['the later ones faster: each is sent again behind those before it', (p) => 30 - 4 * p],
    ['every second one slow', (p) => (p % 2 === 0 ? 20 : 1)],
  ])('%s', async (_what, takes) => {
    slow = takes
    const { told } = await readIn()
    expect(told?.state).toBe('kept')
    expect(server.stored).toEqual(server.stored.map((_, i) => i))
    expect(server.stored.length).toBeGreaterThan(4)
    expect(server.text).toBe(lines)
    expect(server.most).toBe(3)
  })
  test('one that is refused ends it: nothing behind it is stored, and the sentence is that of the one', async () => {
    refused = 2
    const { told, at } = await readIn()
    expect([told, at]).toEqual([null, 'At most so many rows.'])
    await new Promise((go) => setTimeout(go, 30))
    expect(server.stored).toEqual([0, 1])
    expect(server.isKept).toBe(false)
  })
})
