import { expect, test } from 'vitest'
import { ref } from 'vue'
import { sayHeld, useHeld } from './use-held.ts'

const seen = ref({ from: 100, to: 200 })

test('what is seen is held, and stays while something else is looked at', () => {
  const h = useHeld(seen)
  h.holdSeen()
  seen.value = { from: 0, to: 900 }
  expect(h.held.value).toEqual({ from: 100, to: 200 })
  h.letGo()
  expect(h.held.value).toBeNull()
})

test.each([
  ['one after the other', [120, 150], { from: 120, to: 150 }, null],
  ['backwards', [150, 120], { from: 120, to: 150 }, null],
  ['only one', [120], null, 'end'],
  ['the same moment twice', [120, 120], null, 'end'],
  ['a third touch chooses nothing', [120, 150, 180], { from: 120, to: 150 }, null],
] as const)('between two touches: %s', (_, touches, held, choosing) => {
  const h = useHeld(seen)
  h.choose()
  for (const at of touches) h.touched(at)
  expect([h.held.value, h.choosing.value]).toEqual([held, choosing])
})

test('a touch that chooses nothing holds nothing; what was held stays until there is another', () => {
  const h = useHeld(seen)
  h.touched(120)
  expect(h.held.value).toBeNull()
  h.holdSeen()
  const before = h.held.value
  h.choose()
  h.touched(5)
  expect(h.held.value).toEqual(before)
  h.letGo()
  h.touched(7)
  expect([h.held.value, h.choosing.value]).toEqual([null, null])
})

test('what is held is said, and what is to be touched next', () => {
  const times = { relative: true, zone: 'UTC' }
  expect(sayHeld(null, null, times)).toBe('')
  expect(sayHeld({ from: 0, to: 90_000 }, null, times)).toMatch(/^Held, judged and taken out: .+ – .+/)
  expect(sayHeld({ from: 0, to: 90_000 }, 'begin', times)).toContain('begins')
  expect(sayHeld(null, 'end', times)).toContain('ends')
})
