import { describe, expect, test } from 'vitest'
import { defaultPath } from '../loop/default-path.ts'
import { withStage } from '../loop/optional-stages.ts'
import { stageOf, type Stage } from '../signal/stage.ts'
import { auditPath } from './audit.ts'
import { INPUT_KINDS, isDefaultRange, lostSettings, RETYPED, withType } from './type-change.ts'

const range = { low: 0, high: 85, unit: 'bar(g)' }
const path = (): Stage[] =>
  withStage(
    withStage(defaultPath({ transmitter: range, squareRoot: false, receiver: range }), 'display'),
    'converter',
  )

describe('another input type', () => {
  test.each<[(typeof RETYPED)[number], string[]]>([
    [
      'input',
      ['signal 4-20 mA', 'code at 4 mA 0', 'code at 20 mA 10000', 'lowest code -500', 'highest code 10500'],
    ],
    [
      'converter',
      ['channel 1', 'unit bar g', 'value at 4 mA 0 bar g', 'value at 20 mA 85 bar g', 'decimals 2'],
    ],
    [
      'display',
      ['unit bar g', 'value at 4 mA 0 bar g', 'value at 20 mA 85 bar g', 'decimals 1', 'transfer linear'],
    ],
  ])('of the %s takes these with it', (kind, lines) =>
    expect(lostSettings(path(), kind).map((l) => `${l.says} ${l.value}`)).toEqual(lines),
  )
  test.each(RETYPED)('leaves the %s at its default, and nothing else', (kind) => {
    const before = path()
    const { stages, assumed } = withType(before, kind, '0-20')
    const changed = stages.filter((s, i) => JSON.stringify(s) !== JSON.stringify(before[i]))
    expect(changed.map((s) => s.kind)).toEqual([kind])
    expect(assumed.every((p) => p.startsWith(`path.${kind}.`))).toBe(true)
    expect(lostSettings(stages, kind)).toHaveLength(lostSettings(before, kind).length)
  })
  test('a receiver that stands at a default is told so, beside what it should be', () => {
    const found = auditPath(withType(path(), 'converter', '4-20').stages, null).filter((f) =>
      f.says.includes('looks like a default'),
    )
    expect(found.map((f) => f.says)).toEqual([
      'The converter is scaled 0 to 100 bar g, the transmitter 0 to 85 bar g. 0 to 100 looks like a default that nobody changed.',
    ])
    expect(auditPath(path(), null).some((f) => f.says.includes('default'))).toBe(false)
  })
  test('what a receiver has none of is not lost', () => {
    expect(lostSettings([], 'display')).toEqual([])
    expect(stageOf(withType([], 'display', '4-20').stages, 'display')).toBeUndefined()
    expect(Object.keys(INPUT_KINDS)).toContain('sensor')
  })
  test.each([
    [0, 100, true],
    [4, 20, true],
    [0, 85, false],
    [100, 0, false],
  ])('%d to %d is a default: %s', (low, high, is) => expect(isDefaultRange({ low, high })).toBe(is))
})
