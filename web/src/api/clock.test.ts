import { afterEach, expect, test, vi } from 'vitest'
import { hearServerTime, plantTime } from './clock.ts'

afterEach(() => {
  hearServerTime(new Date().toUTCString())
  vi.useRealTimers()
})
test.each([
  ['a right clock', '2026-11-27T10:00:00Z', '2026-11-27T10:00:00.000Z'],
  ['one that is half a minute off', '2026-11-27T10:00:30Z', '2026-11-27T10:00:30.000Z'],
  ['one of an empty battery', '1970-01-01T00:00:07Z', '2026-11-27T10:00:00.000Z'],
  ['one that is hours ahead', '2026-11-27T19:00:00Z', '2026-11-27T10:00:00.000Z'],
])('%s', (_why, here, there) => {
  vi.useFakeTimers({ now: Date.parse(here) })
  hearServerTime('Fri, 27 Nov 2026 10:00:00 GMT')
  expect(plantTime()).toBe(there)
  hearServerTime(null)
  hearServerTime('nonsense')
  expect(plantTime()).toBe(there)
})
