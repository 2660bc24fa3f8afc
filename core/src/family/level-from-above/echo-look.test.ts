import { describe, expect, test } from 'vitest'
import { adviceFor } from '../../procedure/advice.ts'
import { outcomeOf } from '../../procedure/closing.ts'
import { beginJob, doStep, perform, type Habits } from '../../procedure/test/technician.ts'
import { contextFor, deviceFor } from '../../procedure/test/loops.ts'
import type { StandIn } from '../../device/stand-in.ts'

const TOLD = { told: { empty_m: 4.5, full_m: 0.5 } }
/** A vessel of 4 m, its device as it is told. */
const job = (errors = {}, more: Partial<StandIn> = {}, linked = true) =>
  beginJob('level-echo', { ...contextFor('level'), ...TOLD }, deviceFor('level', 7, errors, more), {
    withDevice: linked,
  })
const came = (habits: Habits, errors = {}, more: Partial<StandIn> = {}) => {
  const j = job(errors, more)
  perform(j, habits)
  return outcomeOf(j.run)
}

describe('level from above: first the echo, then two levels', () => {
  // 0.5 % of 4 m is 20 mm.
  test.each<[why: string, habits: Habits, errors: object, more: Partial<StandIn>, result: string, says: RegExp]>([
    ['as it should be', {}, {}, {}, 'untouched', /At 0.8 m it reads .* off the tape, allowed ±0.02/],
    ['30 mm too high everywhere', {}, { z: 0.0075 }, {}, 'out', /At 0.8 m it reads 0.03/],
    ['a span 1 % long: only the upper level tells', {}, { g: 0.01 }, {}, 'out', /At 3.2 m it reads 0.03/],
    ['a dirty face: the reading is right, the echo is not', {}, {}, { wear: 2.6 }, 'out', /below 30 %: foam/],
    ['another echo that stays', { chooses: { others: 'stays' } }, {}, {}, 'out', /taken for the level one day/],
    ['one that was masked', { chooses: { others: 'masked' } }, {}, {}, 'untouched', /allowed/],
  ])('%s', (_, habits, errors, more, result, says) => {
    const outcome = came(habits, errors, more)
    expect(outcome?.result).toBe(result)
    expect(outcome?.says.join(' ')).toMatch(says)
  }) // prettier-ignore
  test('an empty distance that is not the sheet’s is not gone over', () => {
    const j = job({}, {}, false)
    for (let i = 0; i < 30 && j.run.left[0]?.id !== 'distances'; i++) doStep(j)
    expect(j.run.left[0]?.id).toBe('distances')
    const wrong = (_: unknown, f: { name: string }) => (f.name === 'empty_m' ? 5.4 : undefined)
    expect(doStep(j, { knows: wrong, patience_s: 0 })).toBe(false)
    expect(j.refused.at(-1)).toMatch(/Empty distance 5.4, not 4.5/)
    expect(doStep(j)).toBe(true)
  })
  test('an echo that scatters as echoes do is taken within half a minute, at every device', () => {
    const slow = Array.from({ length: 20 }, (_, seed) => {
      const j = beginJob(
        'level-echo',
        contextFor('level'),
        deviceFor('level', 31 * seed + 1, {}, { wear: seed / 20 }),
      )
      while (j.run.left[0]?.id !== 'echo') doStep(j)
      return doStep(j, { patience_s: 30 }) ? [] : [seed]
    })
    expect(slow.flat()).toEqual([])
  })
  test('the tape read twice at one level is no proof of two', () => {
    const j = job({}, {}, false)
    perform(j, { knows: (_, f) => (['applied', 'pv'].includes(f.name) ? 0.8 : undefined) })
    expect(outcomeOf(j.run)).toMatchObject({ result: 'notJudged' })
    expect(outcomeOf(j.run)?.says.at(-1)).toMatch(/nearly the same level/)
  })
  test('what it advises follows the readings', () => {
    const j = job({ z: 0.01 })
    for (let i = 0; i < 40 && j.run.left[0]?.judged !== true; i++) doStep(j)
    expect(adviceFor(j.run)).toMatchObject({ choice: 'report' })
    expect(adviceFor(j.run)?.says.at(-1)).toMatch(/The same at both levels is the empty distance/)
  })
})
