import { describe, expect, test } from 'vitest'
import { namedPipe, PIPE_MAKES, sizesOf, type PipeMake } from './other-pipes.ts'

describe('pipes beyond steel’s schedules', () => {
  test.each<[PipeMake, string, object, number, number | null]>([
    ['en', '65', {}, 76.1, null],
    ['en', '125', {}, 139.7, null],
    ['copperInch', '1', { type: 'L' }, 28.575, 1.27],
    ['copperInch', '2', { type: 'M' }, 53.975, 1.4732],
    ['copperMetric', '22', {}, 22, null],
    ['plastic', '110', { sdr: 11 }, 110, 10],
    ['ductile', '200', { kClass: 9 }, 222, 6.3],
    ['ductile', '100', { kClass: 9 }, 118, 6],
    ['ductileInch', '8', {}, 229.87, null],
  ])('%s %s %o', (make, size, wall, od, w) => {
    const p = namedPipe(make, size, wall)
    expect(p.od_mm).toBeCloseTo(od, 6)
    expect(p.wall_mm === null).toBe(w === null)
    expect(p.wall_mm ?? 0).toBeCloseTo(w ?? 0, 6)
  })
  test('every size that is listed is known, and grows with its name; another is none', () => {
    for (const make of Object.keys(PIPE_MAKES) as PipeMake[]) {
      const ods = sizesOf(make).map((s) => namedPipe(make, s, {}).od_mm ?? NaN)
      expect([...ods].sort((a, b) => a - b).every((v) => v > 0)).toBe(true)
      expect(namedPipe(make, '7/9', {}).od_mm).toBeNull()
    }
  })
})
