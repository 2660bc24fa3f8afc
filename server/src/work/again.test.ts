import { setTimeout as after } from 'node:timers/promises'
import { expect, test } from 'vitest'
import { again } from './again.ts'

test('one turn at a time, and stopping waits for the one that goes on', async () => {
  const seen = { begun: 0, ended: 0, most: 0 }
  const stop = again(5, async () => {
    seen.begun++
    seen.most = Math.max(seen.most, seen.begun - seen.ended)
    await after(30)
    seen.ended++
  })
  await expect.poll(() => seen.ended, { timeout: 5_000 }).toBeGreaterThan(1)
  await expect.poll(() => seen.begun - seen.ended, { timeout: 5_000, interval: 1 }).toBe(1)
  await stop()
  expect(seen.most).toBe(1)
  expect(seen.ended).toBe(seen.begun)
  const { begun } = seen
  await after(50)
  expect(seen.begun).toBe(begun)
})
