import { defaultPath } from '@calm/core/loop/default-path'
import { describe, expect, test } from 'vitest'
import { ref } from 'vue'
import { useSignalPath } from './use-signal-path.ts'

const range = { low: 0, high: 85, unit: 'bar(g)' }
const path = () => useSignalPath(defaultPath({ transmitter: range, squareRoot: false, receiver: range }))
const texts = (p: ReturnType<typeof path>) => p.shown.value.map((s) => s.text)

describe('typing at a station', () => {
  test('begins at mid-range', () => {
    expect(texts(path())).toEqual(['42.50', '42.50', '50.000', '12.000', '3.0000', '5000', '42.50'])
  })
  test('a decimal comma at the current moves everything', () => {
    const p = path()
    p.type(3, '16,00')
    expect(texts(p)).toEqual(['63.75', '63.75', '75.000', '16.000', '4.0000', '7500', '63.75'])
    expect(p.shown.value.map((s) => s.isOrigin).indexOf(true)).toBe(3)
  })
  test('another unit of the same kind is converted, one of another kind is refused', () => {
    const p = path()
    p.type(0, '4250 kPa')
    expect(texts(p)[2]).toBe('50.000')
    p.type(0, '3 m')
    expect(p.trouble.value).toEqual({
      at: 0,
      says: '“m” cannot be turned into bar g. Type the number in bar g.',
    })
    expect(texts(p)[2]).toBe('50.000')
  })
  test('at a limit only one side is known, and a failure current is named', () => {
    const p = path()
    p.type(3, '21.5')
    expect(p.shown.value[1]?.sign).toBe('≥')
    expect(p.shown.value[3]?.note).toMatch(/failure by a high current/)
  })
  test('a code tells the interval it stands for', () => {
    const p = path()
    p.type(5, '5000')
    expect(p.shown.value[0]?.note).toMatch(/^from 42\.49575 to 42\.50425$/)
  })
  test('emptying a field is not zero', () => {
    const p = path()
    p.type(3, '')
    expect(texts(p)[3]).toBe('12.000')
  })
})

test('a changed range recomputes from the value that was set; a path with other stations starts anew', () => {
  const stages = ref(defaultPath({ transmitter: range, squareRoot: false, receiver: range }))
  const p = useSignalPath(stages)
  p.setLevel(100)
  stages.value = defaultPath({ transmitter: { ...range, high: 170 }, squareRoot: false, receiver: range })
  expect(texts(p)[2]).toBe('50.000')
})
