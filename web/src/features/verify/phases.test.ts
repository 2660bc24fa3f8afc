import type { Phase } from '@calm/core/record/kinds/reading-values'
import type { Run, RunState } from '@calm/core/record/run'
import { defaultPath } from '@calm/core/loop/default-path'
import { describe, expect, test } from 'vitest'
import { columnsOf, nextStep, phaseOpen, phaseShown, type VerifyStands } from './phases.ts'

const at = (state: RunState, leftAsFound = false) => ({ state, leftAsFound })

describe('which readings are on screen, and which can be typed', () => {
  test.each<
    [why: string, run: ReturnType<typeof at> | null, asked: Phase | null, shown: Phase, open: Phase | null]
  >([
    ['before anything', null, null, 'asFound', null],
    ['being read', at('asFound'), null, 'asFound', 'asFound'],
    ['as left cannot be asked for before as found is closed', at('asFound'), 'asLeft', 'asFound', 'asFound'],
    ['closed: what was found stays to be seen', at('adjust'), null, 'asFound', null],
    ['closed, and as left asked for', at('adjust'), 'asLeft', 'asLeft', 'asLeft'],
    ['as left being read', at('asLeft'), null, 'asLeft', 'asLeft'],
    ['as found cannot be typed again then', at('asLeft'), 'asFound', 'asLeft', 'asLeft'],
    ['read, with an adjustment', at('ready'), null, 'asLeft', null],
    ['read, nothing adjusted', at('ready', true), null, 'asFound', null],
    ['signed, as found looked at', at('signed'), 'asFound', 'asFound', null],
    ['complete', at('countersigned'), null, 'asLeft', null],
  ])('%s', (_why, run, asked, shown, open) => {
    expect(phaseShown(run, asked)).toBe(shown)
    expect(phaseOpen(run, asked, true)).toBe(open)
    // Who may only look types nothing, wherever it stands.
    expect(phaseOpen(run, asked, false)).toBeNull()
  })
})

describe('what is read at each point', () => {
  const started = { inputRange: { unit: 'bar(g)' }, outputRange: { unit: '%' } } as Run['started']
  const range = { low: 0, high: 80, unit: 'bar(g)' }
  const path = defaultPath({
    transmitter: range,
    squareRoot: false,
    receiver: { low: 0, high: 100, unit: '%' },
  })
  test('a controller where the path has one, in its own unit', () => {
    expect(columnsOf({ started }, path).map((c) => [c.id, c.unit])).toEqual([
      ['applied', 'bar(g)'],
      ['pv', 'bar(g)'],
      ['loopCurrent_mA', 'mA'],
      ['controller', '%'],
    ])
    const shown = path.filter((s) => s.kind !== 'controller')
    expect(columnsOf({ started }, shown).map((c) => c.id)).not.toContain('controller')
  })
})

describe('the next step is told', () => {
  const base: VerifyStands = {
    run: null,
    hasTolerance: true,
    mayWrite: true,
    isReviewer: false,
    choosing: false,
    asked: null,
    missing: 0,
    unsigned: null,
  }
  const run = (state: RunState) => ({ ...at(state), plan: Array.from({ length: 9 }) as Run['plan'] })
  test.each<[why: string, stands: Partial<VerifyStands>, says: RegExp]>([
    [
      'without a tolerance nothing can be judged',
      { hasTolerance: false, run: run('asFound') },
      /tolerance on the Scale/,
    ],
    ['who may only look', { mayWrite: false }, /Nothing has been verified/],
    ['a new one', { choosing: true, run: run('countersigned') }, /Choose plan and instruments/],
    ['points to read', { run: run('asFound'), missing: 4 }, /^As found: 4 of 9 points/],
    ['all read', { run: run('asFound') }, /Close it before anything is adjusted/],
    ['closed', { run: run('adjust') }, /Say what was adjusted/],
    ['adjusted', { run: run('adjust'), asked: 'asLeft' }, /Read the as-left values/],
    ['as left to read', { run: run('asLeft'), missing: 1 }, /^As left: 1 of 9/],
    ['as left read', { run: run('asLeft') }, /Close it, then sign/],
    [
      'something stands against a signature',
      { run: run('ready'), unsigned: 'DWT-1 has expired.' },
      /DWT-1 has expired/,
    ],
    ['nothing does', { run: run('ready') }, /Sign the record/],
    ['signed, for the technician', { run: run('signed') }, /A reviewer countersigns/],
    ['signed, for the reviewer', { run: run('signed'), isReviewer: true }, /Countersign it, or return it/],
    ['complete', { run: run('countersigned') }, /The record is complete/],
    ['complete, then adjusted', { run: run('countersigned'), since: 'trim' }, /verify it again/],
    [
      'complete, then its memory lost',
      { run: run('countersigned'), since: 'loss' },
      /key it in again at Trim/,
    ],
    ['not loaded yet', {}, /^$/],
  ])('%s', (_why, stands, says) => expect(nextStep({ ...base, ...stands })).toMatch(says))
})
