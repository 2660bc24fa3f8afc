import { expect, test } from 'vitest'
import { freeOf, LOW_DISK_MB, roomFor } from './disk.ts'

test.each([
  ['nearly full', LOW_DISK_MB - 1, 'no-room'],
  ['full', 0, 'no-room'],
  ['just enough', LOW_DISK_MB, 'goes on'],
  ['nobody can tell', null, 'goes on'],
])('%s', async (_, free, told) => {
  const room = roomFor(() => Promise.resolve(free))
  const came = await room().then(
    () => 'goes on',
    (e: unknown) => (e as { code: string }).code,
  )
  expect(came).toBe(told)
})

test('how much is left is said, and asked once in a second', async () => {
  let asked = 0
  const room = roomFor(() => Promise.resolve(120 + asked++))
  await expect(room()).rejects.toThrow('has 120 MB left, and the record needs them')
  await expect(room()).rejects.toThrow('has 120 MB left')
  expect(asked).toBe(1)
})

test('the disk of a folder, and of one that is not there', async () => {
  expect(await freeOf(import.meta.dirname)).toBeGreaterThan(0)
  expect(await freeOf('/no/such/folder')).toBeNull()
})
