import type { JobTold, PlanTold } from '@calm/contract/today'
import { deskWork } from '@calm/core/today/usual-work'
import { describe, expect, test } from 'vitest'
import { sayQuality } from './say-plan.ts'
import { wishForm, wishOf, type WishForm } from './wish-form.ts'

const TUESDAY = { from: '2026-12-01T09:00Z', to: '2026-12-01T11:00Z' }
const THURSDAY = { from: '2026-12-03T09:00Z', to: '2026-12-03T11:00Z' }
const job = (wish: JobTold['wish'] = {}) => ({
  wish,
  minutes: 35,
  importance: 3,
  work: deskWork('a job', 30),
})
const kept = (wish: JobTold['wish'], typed: Partial<WishForm>, day = '2026-12-02') => {
  const before = wishForm(job(wish), 'UTC')
  return wishOf(job(wish), { ...before, ...typed }, before, day, 'UTC')
}

describe('what was agreed is kept as it was typed', () => {
  test.each<[string, JobTold['wish'], Partial<WishForm>, JobTold['wish']]>([
    ['nothing typed', {}, {}, {}],
    ['a usual time is not frozen', {}, { order: 'WO-1' }, { order: 'WO-1' }],
    [
      'windows of other days stay on their days',
      { windows: [TUESDAY, THURSDAY] },
      { order: 'WO-1' },
      { windows: [TUESDAY, THURSDAY], order: 'WO-1' },
    ],
    [
      'a window typed anew is of the day that is looked at',
      { windows: [TUESDAY] },
      { to: '12:00' },
      { windows: [{ from: '2026-12-02T09:00Z', to: '2026-12-02T12:00Z' }] },
    ],
    ['a window taken away', { windows: [TUESDAY] }, { from: '', to: '' }, { windows: [] }],
    ['minutes left empty are refused by the server, not guessed', {}, { minutes: '' }, { minutes: NaN }],
    ['abilities in words', {}, { abilities: 'gas, , heights' }, { abilities: ['gas', 'heights'] }],
    ['any day again', { notBefore: '2026-12-04' }, { notBefore: '' }, { notBefore: null }],
  ])('%s', (_, wish, typed, expected) => {
    expect(kept(wish, typed)).toEqual(expected)
  })
})

describe('how good a plan is', () => {
  const made = (proved: boolean): PlanTold['made'] => ({
    ...{ id: '', at: '', byName: 'Wren', how: 'planned', mayUndo: true },
    worked: {
      ...{ unplaced: 0, points: 300, proved, seed: 1, steps: 9 },
      bound: { unplaced: 0, points: proved ? 300 : 200 },
    },
  })
  const placed = [{}] as unknown as PlanTold['placings']
  const broken = (n: number) => Array.from({ length: n }, () => ({ job: null, says: '' }))
  const left = [{ job: 'FT-402', says: 'no time', lift: null }] as unknown as PlanTold['left']
  test.each<[string, Pick<PlanTold, 'made' | 'broken' | 'placings' | 'left'>, string]>([
    ['nobody planned', { made: null, broken: [], placings: [], left: [] }, 'Not planned yet.'],
    [
      'proved',
      { made: made(true), broken: [], placings: placed, left },
      'Proved: no order of these jobs is better.',
    ],
    [
      'proved, and empty: the day is over',
      { made: made(true), broken: [], placings: [], left },
      'Proved: none of these jobs fits into the time that is left.',
    ],
    [
      'empty, and not proved',
      { made: made(false), broken: [], placings: [], left },
      'No job was placed; not proved that none fits.',
    ],
    [
      'proved once, but not as things are now',
      { made: made(true), broken: broken(2), placings: placed, left },
      'It has conflicts as things are now: plan it anew.',
    ],
    [
      'not proved',
      { made: made(false), broken: [], placings: placed, left },
      'The best of 9 tries; not proved: at most 1.5 times the least possible effort.',
    ],
  ])('%s', (_, plan, says) => {
    expect(sayQuality(plan)).toBe(says)
  })
})
