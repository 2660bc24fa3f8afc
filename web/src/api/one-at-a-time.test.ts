import { describe, expect, test } from 'vitest'
import { oneAtATime } from './one-at-a-time.ts'

/** A look that answers when told to. */
function looks() {
  const answers: (() => void)[] = []
  let seen = 0
  const look = oneAtATime(
    () =>
      new Promise((resolve) => {
        answers.push(() => {
          seen++
          resolve()
        })
      }),
  )
  return { look, answers, seen: () => seen }
}
const settle = () => new Promise((r) => setTimeout(r, 0))

describe('looks at the server', () => {
  test('many asked for during one are one more afterwards', async () => {
    const l = looks()
    void l.look()
    const second = l.look()
    void l.look()
    void l.look()
    expect(l.answers).toHaveLength(1)
    l.answers[0]?.()
    await settle()
    expect(l.answers).toHaveLength(2)
    l.answers[1]?.()
    await second
    expect([l.seen(), l.answers.length]).toEqual([2, 2])
  })
  test('after one has ended the next begins at once', async () => {
    const l = looks()
    for (const n of [1, 2, 3]) {
      const look = l.look()
      expect(l.answers).toHaveLength(n)
      l.answers[n - 1]?.()
      await look
    }
  })
  test('one that fails does not stop the one after it', async () => {
    let n = 0
    const look = oneAtATime(async () => {
      await settle()
      if (++n === 1) throw new Error('lost')
    })
    const first = look()
    const second = look()
    await expect(first).rejects.toThrow('lost')
    await second
    expect(n).toBe(2)
  })
})
