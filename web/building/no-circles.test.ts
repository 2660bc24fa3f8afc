import { describe, expect, it } from 'vitest'
import { inCircles } from './no-circles.ts'

describe('files that import each other', () => {
  it.each([
    ['a line', { a: ['b'], b: ['c'], c: [] }, []],
    ['a fork that meets again', { a: ['b', 'c'], b: ['d'], c: ['d'], d: [] }, []],
    ['two that import each other', { a: ['b'], b: ['a'], c: ['a'] }, ['a', 'b']],
    ['a circle of three', { a: ['b'], b: ['c'], c: ['a'] }, ['a', 'b', 'c']],
    ['itself', { a: ['a'] }, ['a']],
    ['a file that is not ours', { a: ['elsewhere'] }, []],
  ])('%s', (_, files, circle) => {
    expect(inCircles(new Map(Object.entries(files)))).toEqual(circle)
  })
})
