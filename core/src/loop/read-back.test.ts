import { describe, expect, test } from 'vitest'
import { compareReadBack } from './read-back.ts'

describe('what a device shows against the sheet', () => {
  test.each<[sheet: string, read: string, 'same' | 'differs']>([
    ['73.02 mm', '73.02', 'same'],
    ['73.02 mm', '73,02 mm', 'same'],
    ['73.02 mm', '73.0', 'same'],
    ['73.02 mm', '73', 'same'],
    ['73.02 mm', '74', 'differs'],
    ['73.02 mm', '73.20', 'differs'],
    ['3.05 mm', '3', 'differs'],
    ['323.80 mm', '12.75 in', 'same'],
    ['323.80 mm', '12.57 in', 'differs'],
    ['3.05 mm', '305', 'differs'],
    ['none', 'None', 'same'],
    ['none', 'rubber', 'differs'],
    ['stainless 316', ' Stainless  316 ', 'same'],
    ['36 m³/h actual', '36', 'same'],
    ['36 m³/h actual', '36.1', 'differs'],
    ['2', '2', 'same'],
    ['2', '1', 'differs'],
    ['-15 mbar', '-15', 'same'],
    ['-15 mbar', '15', 'differs'],
    ['water, 24 °C', 'water, 24 °C', 'same'],
    ['1494.9 m/s', 'fast', 'differs'],
    ['1494.9 m/s', '', 'differs'],
  ])('%s, read %s: %s', (value, read, told) => {
    expect(compareReadBack({ says: 'line', value }, read)).toBe(told)
  })
})
