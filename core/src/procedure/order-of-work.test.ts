import { describe, expect, test } from 'vitest'
import { abortSteps, followWork, nextEvents, WORK_STEPS, type WorkState } from './order-of-work.ts'

const ALL = WORK_STEPS.map(([e]) => e)

describe('order of work', () => {
  test('the whole order leads to closed', () =>
    expect(followWork(ALL)).toMatchObject({ state: 'CLOSED', refusedAt: null }))
  test('a step out of its turn is refused and changes nothing', () =>
    expect(followWork(['notify', 'adjust'])).toEqual({
      state: 'NOTIFIED',
      refusedAt: 1,
      event: 'adjust',
      expectedNext: ['manual'],
    }))
  test('nothing to adjust may be disconnected; as-left may be adjusted again', () => {
    expect(nextEvents('AS_FOUND_DONE')).toEqual(['adjust', 'disconnect'])
    expect(nextEvents('AS_LEFT_DONE')).toEqual(['disconnect', 'adjust'])
    const without = ALL.filter((e) => e !== 'adjust' && e !== 'finishAsLeft')
    expect(followWork(without).state).toBe('CLOSED')
  })
  test('W25 abort after an adjustment with a held current', () =>
    expect(abortSteps('ADJUSTED', true)).toEqual(
      'releaseFixed revertTrim spotCheck ventStandard disconnect restore check unbypass auto close'.split(
        ' ',
      ),
    ))
  test('every way back ends with the operators told', () => {
    const states: WorkState[] = WORK_STEPS.map(([, s]) => s)
    for (const s of states.filter((one) => one !== 'CLOSED')) expect(abortSteps(s).at(-1)).toBe('close')
    expect(abortSteps('IDLE')).toEqual([])
  })
})
