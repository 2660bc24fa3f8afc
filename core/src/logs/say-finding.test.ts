import { describe, expect, test } from 'vitest'
import { faultyLog } from './test/faulty-logs.ts'
import { LOG_FINDINGS, USUAL_JUDGEMENT, type LogFinding } from './findings/finding.ts'
import { judgeLog } from './findings/judge.ts'
import { sayDuration, sayFindings } from './say-finding.ts'

describe('every finding in words', () => {
  test.each(LOG_FINDINGS)('%s', (code) => {
    const log = faultyLog(4242, code)
    const found = judgeLog(log, { ...USUAL_JUDGEMENT, ...(log.range ? { range: log.range } : {}) })
    const said = sayFindings(found, 'm³/h').find((f) => f.code === code)
    expect(said?.says).toMatch(/^[A-Z0-9].*\.$/)
    expect(said?.says).not.toMatch(/undefined|NaN|Infinity/)
  })
  test('the words of a step and of a changed unit name what to do with them', () => {
    const step: LogFinding = { code: 'STEP', from: 1, to: 1, evidence: { size: -1.469 } }
    expect(sayFindings([step], 'bar')[0]).toMatchObject({
      says: 'The level changed by −1.469 bar.',
      rule: expect.stringMatching(/no fault by itself/) as string,
    })
    const unit: LogFinding = {
      code: 'UNIT_CHANGED',
      from: 1,
      to: 1,
      evidence: { factor: 3.6, offset: 0, ratio: 3.61 },
    }
    expect(sayFindings([unit], '')[0]?.says).toContain('3.6 times the ones before')
  })
  test('a drift beside steps is none of the whole: a pump that fills four times falls between, and comes back each time', () => {
    const drift: LogFinding = {
      code: 'DRIFT',
      from: 0,
      to: 2_180_000,
      evidence: { total: -4.128, perHour: -6.82 },
    }
    const step: LogFinding = { code: 'STEP', from: 1, to: 1, evidence: { size: 1.059 } }
    expect(sayFindings([drift], 'bar').map((f) => f.says)).toEqual([
      'It drifts: −4.128 bar over the stretch, −6.82 bar an hour.',
    ])
    expect(sayFindings([drift, step], 'bar')[0]?.says).toBe(
      'Between its steps it drifts by −6.82 bar an hour, −4.128 bar with the steps taken out.',
    )
  })
  test('many spikes are one saying', () => {
    const spikes = Array.from({ length: 21 }, (_, i): LogFinding => ({
      code: 'SPIKE',
      from: i,
      to: i,
      evidence: { size: i - 30, samples: 1 },
    }))
    expect(sayFindings(spikes.slice(0, 20), '')).toHaveLength(20)
    expect(sayFindings(spikes, '')).toEqual([
      expect.objectContaining({
        from: 0,
        to: 20,
        says: expect.stringMatching(/^21 values stand out, the largest by 30:/) as string,
      }),
    ])
  })
  test('one sample is one', () => {
    const twice = (samples: number): LogFinding => ({
      code: 'DUPLICATE',
      from: 1,
      to: 1,
      evidence: { samples, conflicting: 0 },
    })
    expect([1, 2].map((k) => sayFindings([twice(k)], '')[0]?.says)).toEqual([
      '1 sample stands twice.',
      '2 samples stand twice.',
    ])
  })
  test('of many of a kind the largest are told, and how many there are', () => {
    const gaps = Array.from({ length: 30 }, (_, i): LogFinding => ({
      code: 'GAP',
      from: 1000 * i,
      to: 1000 * i + 10 * (i + 1),
      evidence: { seconds: (i + 1) / 100, missing: i },
    }))
    const step: LogFinding = { code: 'STEP', from: 500, to: 500, evidence: { size: 2 } }
    const told = sayFindings([...gaps, step], 'bar')
    expect(told.map((f) => [f.code, f.from])).toEqual([
      ['GAP', 0],
      ['STEP', 500],
      ...[25, 26, 27, 28, 29].map((i) => ['GAP', 1000 * i]),
    ])
    expect(told[0]).toMatchObject({ severity: 'warn', to: 29_300 })
    expect(told[0]?.says).toBe('30 gaps in all. The 5 largest are listed; look nearer to see the others.')
    expect(sayFindings(gaps.slice(0, 20), 'bar')).toHaveLength(20)
  })
  test.each([
    [0.5, '0.5 s'],
    [90, '90 s'],
    [600, '10 min'],
    [7200, '2 h'],
    [259_200, '3 days'],
  ])('%d s is %s', (s, says) => {
    expect(sayDuration(s)).toBe(says)
  })
})
