import { expect, test } from 'vitest'
import { onceByContent } from './once-by-content.ts'

const counted = (most: number) => {
  let worked = 0
  const twice = onceByContent(most, ({ x }: { x: number }) => {
    worked++
    return { is: 2 * x }
  })
  return { twice, worked: () => worked }
}

test('the same content is worked out once, whoever made it; another one anew', () => {
  const { twice, worked } = counted(10)
  expect([twice({ x: 1 }), twice({ x: 1 }), twice({ x: 2 })]).toEqual([{ is: 2 }, { is: 2 }, { is: 4 }])
  expect(worked()).toBe(2)
})
test('what was changed in place is another content', () => {
  const { twice } = counted(10)
  const of = { x: 1 }
  twice(of)
  of.x = 5
  expect(twice(of)).toEqual({ is: 10 })
})
test('no more is kept than so many: the one that was not asked for longest goes', () => {
  const { twice, worked } = counted(2)
  for (const x of [1, 2, 1, 3]) twice({ x })
  expect(worked()).toBe(3)
  twice({ x: 1 })
  expect(worked()).toBe(3)
  twice({ x: 2 })
  expect(worked()).toBe(4)
})
