import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { isRefused } from '../refused.ts'
import { solvePlan } from '../plan/solve.ts'
import { dayProblem } from './day-problem.ts'
import { sayPlace, waysOf, type Place } from './place.ts'
import { facts, PLANT, planned, WREN } from './test/at-work.ts'

const at = (area: string, floor = 0): Place => ({ area, floor })

test('a loop without an area keeps nobody’s day from being planned', () => {
  const { problem } = dayProblem(facts({ people: [WREN], jobs: [planned('A', { area: '' })] }))
  expect(problem.areas).toContain('no area given')
  expect(isRefused(solvePlan(problem, 1, 'exact', 1e9, () => 0))).toBe(false)
})
describe('places with their floors', () => {
  test.each<[Place, string]>([
    [at('Intake'), 'Intake'],
    [at('Intake', 2), 'Intake, floor 2'],
    [at('Intake', -1), 'Intake, 1 below ground'],
    [at(''), 'no area given'],
    [at(' ', 2), 'no area given, floor 2'],
  ])('%j is called %s', (place, says) => {
    expect(sayPlace(place)).toBe(says)
  })
  test.each<[string, Place, Place, number]>([
    ['the same floor', at('Intake', 2), at('Intake', 2), 0],
    ['up one floor', at('Intake', 1), at('Intake', 2), 2],
    ['past the ground', at('Intake', -1), at('Intake', 2), 6],
    ['over the yard', at('Workshop'), at('Intake', 2), 14 + 4],
    ['down, over and up', at('Membranes', 3), at('Intake', 1), 8 + 8],
  ])('%s', (_, a, b, minutes) => {
    const plant = { ...PLANT, floor_min: 2 }
    expect(waysOf(plant, [a, b])).toEqual([
      [0, minutes],
      [minutes, 0],
    ])
  })
  test('no way is shorter over a third place by its stairs', () => {
    const place = fc.record({
      area: fc.constantFrom('Workshop', 'Membranes', 'Intake'),
      floor: fc.integer({ min: -3, max: 9 }),
    })
    // These three lie in a line, so that no way round is shorter on the ground either.
    const plant = { ...PLANT, usualWalk_min: 20, floor_min: 3 }
    fc.assert(
      fc.property(place, place, place, (a, b, c) => {
        const w = waysOf(plant, [a, b, c])
        expect(w[0]?.[2]).toBeLessThanOrEqual((w[0]?.[1] ?? 0) + (w[1]?.[2] ?? 0))
      }),
      { seed: 41 },
    )
  })
  test('a plan climbs to a floor once, and says where it goes', () => {
    const plant = { ...PLANT, floor_min: 5 }
    const jobs = [planned('A', { floor: 3 }), planned('B', { floor: 0 }), planned('C', { floor: 3 })]
    const n = dayProblem(facts({ plant, people: [WREN], jobs }))
    const told = solvePlan(n.problem, 1, 'exact', 1e9, () => 0)
    const starts = isRefused(told) ? [] : told.placings.map((p) => `${p.job} ${p.start.slice(11, 16)}`)
    // The ground first, since it lies on the way; 15 minutes up, and both jobs there.
    expect(starts.toSorted()).toEqual(['A 08:21', 'B 07:06', 'C 07:51'])
    expect(n.problem.areas).toEqual(['Workshop', 'Membranes, floor 3', 'Membranes'])
  })
  test('who works in an area works on all its floors', () => {
    const people = [{ ...WREN, areas: ['Membranes'] }]
    const n = dayProblem(facts({ people, jobs: [planned('A', { floor: 2 })] }))
    const told = solvePlan(n.problem, 1, 'exact', 1e9, () => 0)
    expect(isRefused(told) ? [] : told.placings.map((p) => p.job)).toEqual(['A'])
  })
})
