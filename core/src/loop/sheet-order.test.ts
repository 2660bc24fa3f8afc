import { describe, expect, test } from 'vitest'
import fc from 'fast-check'
import { inOrder, moved, orderedDevices, orderName, orderOf } from './sheet-order.ts'

const lines = ['a', 'b', 'c', 'd'].map((says) => ({ says, value: says.toUpperCase() }))
const said = (order: string[], of = lines) =>
  inOrder(of, order)
    .map((l) => l.says)
    .join('')

describe('the order in which a device asks', () => {
  test.each<[string, string[], string]>([
    ['nobody changed it', [], 'abcd'],
    ['all of it', ['d', 'c', 'b', 'a'], 'dcba'],
    ['a line that is new stands behind the one it follows', ['d', 'a', 'b'], 'dabc'],
    ['a first line that is new stands first', ['d', 'c', 'b'], 'adcb'],
    ['a line that is gone leaves no gap', ['x', 'd', 'a', 'b', 'c'], 'dabc'],
  ])('%s', (_what, order, is) => expect(said(order)).toBe(is))
  test.each<[number, number, string]>([
    [0, 3, 'bcda'],
    [3, 0, 'dabc'],
    [1, 1, 'abcd'],
    [1, -5, 'bacd'],
    [1, 99, 'acdb'],
    [9, 0, 'abcd'],
  ])('from %i to %i: %s', (from, to, is) => expect(moved(lines, from, to).join('')).toBe(is))
  test('a device of its own name asks in its own order, every other one in that of its kind', () => {
    const orders = { ph: ['b', 'a'], 'ph/field unit': ['d', 'c'], 'pharmacy/x': ['a'] }
    expect(orderOf(orders, 'ph', 'field unit')).toEqual(['d', 'c'])
    expect(orderOf(orders, 'ph', ' field unit ')).toEqual(['d', 'c'])
    expect(orderOf(orders, 'ph', 'bench unit')).toEqual(['b', 'a'])
    expect(orderOf(orders, 'ph', '')).toEqual(['b', 'a'])
    expect(orderOf(orders, 'thermal', '')).toEqual([])
    expect(orderedDevices(orders, 'ph')).toEqual(['field unit'])
    expect([orderName('ph', ''), orderName('ph', 'field unit')]).toEqual(['ph', 'ph/field unit'])
  })
  test('whatever order was kept, every line is there once', () => {
    fc.assert(
      fc.property(fc.shuffledSubarray(['a', 'b', 'c', 'd', 'x']), (order) => {
        expect([...said(order)].sort().join('')).toBe('abcd')
      }),
    )
  })
})
