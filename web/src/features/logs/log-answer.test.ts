import type { LogJudgement } from '@calm/contract/logs'
import type { LogSaying } from '@calm/core/logs/say-finding'
import { expect, test } from 'vitest'
import { answerOf } from './log-answer.ts'

const against = { lo: 0, hi: 10 } as LogJudgement['against']
const judged = (n: number, more: Partial<LogJudgement> = {}): LogJudgement => ({
  statistics: { n, mean: 5, sd: 1, min: 4, max: 6, from: 0, to: 1, close: null },
  findings: [],
  stable: null,
  total: null,
  parts: null,
  most: 1_000_000,
  against,
  ...more,
})
const finding = (severity: LogSaying['severity']) => ({ severity }) as LogSaying
const asked = { judgement: judged(5000), isAsked: true, found: [], unread: 0, isHeld: false }

test.each([
  ['whole and clean', {}, 'good', 'in 5000 samples; held against the range'],
  [
    'clean where it is held: the rest of the drawing is not meant',
    { isHeld: true },
    'good',
    'samples of the held stretch alone; ',
  ],
  [
    'found where it is held',
    { isHeld: true, found: [finding('warn')] },
    'look',
    '1 finding in 5000 samples of the held stretch alone',
  ],
  ['found of several weights', { found: [finding('note'), finding('stop')] }, 'stop', '2 findings'],
  ['a note alone is no verdict', { found: [finding('note')] }, 'notYet', '1 finding'],
  ['on its way', { judgement: null }, 'notYet', 'Being judged.'],
  ['refused', { judgement: null, isAsked: false }, 'notYet', ''],
  ['no value', { judgement: judged(0, { statistics: null }) }, 'notYet', 'No value lies'],
  ['too long', { judgement: judged(2e6, { findings: null }) }, 'notYet', 'summed up, not judged'],
  [
    'too long, and judged by parts',
    { judgement: judged(2e6, { parts: 8 }) },
    'good',
    'samples, judged in 8 parts; held against the range',
  ],
  ['too few', { judgement: judged(3) }, 'notYet', 'too few to be judged'],
  ['lines unread', { unread: 2 }, 'notYet', '2 of its lines could not be read'],
  ['no range', { judgement: judged(5000, { against: null }) }, 'notYet', 'not held against a range'],
] as const)('%s', (_, more, state, says) => {
  const told = answerOf({ ...asked, ...more })
  expect(told.state).toBe(state)
  expect(told.says.replace(/\s/g, ' ').replace('5 000', '5000')).toContain(says)
})
