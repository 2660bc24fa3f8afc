import { beforeEach, expect, test } from 'vitest'
import { noteIfStale, stalePage } from './stale-page.ts'

beforeEach(() => (stalePage.value = false))

test.each([
  ['what Chromium says', new TypeError('Failed to fetch dynamically imported module: /assets/a.js'), true],
  ['what Safari says', new TypeError('Importing a module script failed.'), true],
  ['what Firefox says', new TypeError('error loading dynamically imported module: /assets/a.js'), true],
  ['another error', new Error('no such loop'), false],
  ['no error at all', 'text', false],
])('%s', (_who, error, stale) => {
  expect(noteIfStale(error)).toBe(stale)
  expect(stalePage.value).toBe(stale)
})
test('a part that was to be fetched ahead is told too, and throws nothing', () => {
  const event = new Event('vite:preloadError', { cancelable: true })
  window.dispatchEvent(event)
  expect([stalePage.value, event.defaultPrevented]).toEqual([true, true])
})
