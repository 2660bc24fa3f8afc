import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { dayChance, sayChance, type ChanceJob } from './day-chance.ts'

const at = (hm: string) => Date.parse(`2026-11-24T${hm}:00Z`)
const turn = { from: at('06:00'), to: at('14:00'), breaks: [{ from: at('09:00'), to: at('09:30') }] }
const job = (leaves: string, start: string, end: string, usual?: number, begun = false): ChanceJob => ({
  ...{ leaves: at(leaves), start: at(start), end: at(end), spread: 0.3, begun },
  usual: usual ?? (at(end) - at(start)) / 60_000,
})
const hm = (ms: number) => new Date(ms).toISOString().slice(11, 16)

describe('whether a turn ends in time', () => {
  test.each<
    [
      says: string,
      jobs: ChanceJob[],
      now: string,
      back: number,
      left: { chance: number; ends: string } | null,
    ]
  >([
    ['nothing is left', [], '06:00', 10, null],
    ['the turn is over', [job('13:00', '13:10', '13:50')], '14:00', 5, null],
    [
      'the whole day for an hour',
      [job('06:00', '06:20', '07:20')],
      '05:00',
      10,
      { chance: 1, ends: '07:30' },
    ],
    [
      'a break in between counts',
      [job('08:00', '08:30', '10:00', 60)],
      '08:00',
      0,
      { chance: 1, ends: '10:00' },
    ],
    [
      'half of it is done',
      [job('12:00', '12:00', '14:00', 120, true)],
      '13:00',
      0,
      { chance: 0.5, ends: '14:00' },
    ],
    [
      'it has taken twice its time, and something is left',
      [job('10:00', '10:00', '11:00', 60, true)],
      '12:00',
      0,
      { chance: 1, ends: '12:06' },
    ],
    // Waited for until 12:00: whoever is slower than usual has 110 minutes for the hour.
    [
      'what is waited for is certain',
      [job('11:50', '12:00', '13:00')],
      '06:00',
      10,
      { chance: 0.9783, ends: '13:10' },
    ],
    // Planned for 10:00, and it is 13:00: nobody waits any more, the way is still walked.
    ['behind the plan', [job('09:50', '10:00', '11:00', 30)], '13:00', 5, { chance: 0.9117, ends: '13:45' }],
    ['too much is left', [job('09:50', '10:00', '13:00')], '12:00', 10, { chance: 0.02504, ends: '15:20' }],
  ])('%s', (_, jobs, now, back, expected) => {
    const told = dayChance(turn, jobs, at(now), back)
    expect(told && { chance: told.chance, ends: hm(told.ends) }).toEqual(
      expected && { chance: expect.closeTo(expected.chance, 3) as number, ends: expected.ends },
    )
  })
  test('the worked example of one job, to five digits', () => {
    const told = dayChance({ ...turn, breaks: [] }, [job('12:30', '12:40', '13:40', 60)], at('12:30'), 10)
    expect(told?.chance).toBeCloseTo(0.69632, 4)
  })
  test('who needs longer, or walks farther, ends later and less surely', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 10, max: 200 }),
        fc.integer({ min: 0, max: 60 }),
        fc.integer({ min: 1, max: 60 }),
        (usual, back, more) => {
          const of = (u: number, b: number) =>
            dayChance(
              turn,
              [job('06:00', '06:10', '07:10', u), job('07:10', '07:20', '08:20')],
              at('06:00'),
              b,
            )
          const [a, slower, farther] = [of(usual, back), of(usual + more, back), of(usual, back + more)]
          expect(slower?.chance).toBeLessThanOrEqual((a?.chance ?? 0) + 1e-12)
          expect(farther?.chance).toBeLessThanOrEqual((a?.chance ?? 0) + 1e-12)
          expect(slower?.ends).toBeGreaterThan(a?.ends ?? Infinity)
          expect(farther?.ends).toBeGreaterThan(a?.ends ?? Infinity)
        },
      ),
      { seed: 20_317 },
    )
  })
  test.each([
    [1, 'nearly always'],
    [0.951, 'nearly always'],
    [0.94, 'about 9 times in 10'],
    [0.7, 'about 7 times in 10'],
    [0.06, 'about once in 10'],
    [0.05, 'hardly ever'],
    [0, 'hardly ever'],
  ])('%d is said %s', (chance, says) => {
    expect(sayChance(chance)).toBe(says)
  })
})
