import { describe, expect, test } from 'vitest'
import { defaultPath } from '../loop/default-path.ts'
import { judgeRoot, rootTakers, type RootTaker } from './root.ts'

const range = { low: 0, high: 100, unit: 'm3/h' }

describe('the square root, once', () => {
  const rows: readonly [
    why: string,
    takers: readonly RootTaker[],
    needed: boolean | null,
    code: string | null,
    severity: string,
    where: readonly string[],
  ][] = [
    ['taken where it is needed', ['transmitter'], true, 'SQRT_ONCE', 'good', ['transmitter']],
    ['in the controller is as good', ['controller'], true, 'SQRT_ONCE', 'good', ['controller']],
    ['twice', ['transmitter', 'controller'], true, 'SQRT_TWICE', 'stop', ['transmitter', 'controller']],
    [
      'twice is wrong whatever it is',
      ['controller', 'display'],
      null,
      'SQRT_TWICE',
      'stop',
      ['controller', 'display'],
    ],
    [
      'three times',
      ['transmitter', 'controller', 'display'],
      false,
      'SQRT_TWICE',
      'stop',
      ['transmitter', 'controller', 'display'],
    ],
    ['nowhere', [], true, 'SQRT_NEVER', 'stop', ['transmitter', 'controller']],
    ['nowhere, and none is needed', [], false, null, '', []],
    ['nowhere, and nobody told what it is', [], null, null, '', []],
    ['where none is needed', ['transmitter'], false, 'SQRT_UNEXPECTED', 'warn', ['transmitter']],
    ['nobody told what it is', ['display'], null, 'SQRT_NOT_JUDGED', 'note', ['display']],
  ]
  test.each(rows)('%s', (_why, takers, needed, code, severity, where) => {
    const f = judgeRoot(takers, needed)
    expect([f?.code ?? null, f?.severity ?? '', f?.where ?? []]).toEqual([code, severity, where])
  })
  test('good names its evidence, and a wrong one what half flow would read', () => {
    expect(judgeRoot(['controller'], true)?.evidence).toEqual([
      { label: 'taken in the', value: 'controller' },
    ])
    expect(judgeRoot([], true)?.evidence?.[0]?.value).toBe(25)
    expect(judgeRoot(['transmitter', 'display'], true)?.evidence?.[0]?.value).toBeCloseTo(70.7107, 4)
  })
  test('the fix leaves it once: in the first, or in the transmitter', () => {
    expect(judgeRoot(['transmitter', 'controller', 'display'], true)?.fix?.set).toEqual([
      { path: 'path.controller.transfer.kind', value: 'linear' },
      { path: 'path.display.transfer.kind', value: 'linear' },
    ])
    expect(judgeRoot([], true)?.fix?.set).toEqual([{ path: 'path.transmitter.transfer.kind', value: 'sqrt' }])
    expect(judgeRoot(['transmitter'], false)?.fix).toBeUndefined()
  })
  test('who takes it is read off the path', () => {
    const path = (squareRoot: boolean) => defaultPath({ transmitter: range, squareRoot, receiver: range })
    expect(rootTakers(path(true))).toEqual(['transmitter'])
    expect(rootTakers(path(false))).toEqual([])
    const both = path(true).map((s) =>
      s.kind === 'controller' ? { ...s, transfer: { kind: 'sqrt' as const } } : s,
    )
    expect(rootTakers(both)).toEqual(['transmitter', 'controller'])
  })
})
