import { describe, expect, test } from 'vitest'
import { linkParts, silentPart } from './link-parts.ts'
import { exact, go } from './test/at-device.ts'

const answers = (d: ReturnType<typeof exact>, port: string) => linkParts(d, port).map((p) => p.answers)

describe('the way to a device, part by part', () => {
  test('all answer where all is right', () => {
    expect(answers(exact(10, 'bar'), 'A')).toEqual([true, true, true, true])
    expect(silentPart(exact(10, 'bar'), 'A')).toBeNull()
  })
  const faults: readonly [string, ReturnType<typeof exact>, string, (boolean | null)[], RegExp][] = [
    ['another port', exact(10, 'bar'), 'C', [false, null, null, null], /which port is new/],
    ['no resistor', exact(10, 'bar', { loop_ohm: 100 }), 'A', [true, false, null, null], /Only 100 Ω/],
    [
      'no supply',
      go(exact(10, 'bar'), 1, { kind: 'power', on: false }),
      'A',
      [true, true, false, null],
      /no supply/,
    ],
    [
      'a calibrator in its place',
      go(exact(10, 'bar'), 1, { kind: 'source', mA: 4 }),
      'A',
      [true, true, true, false],
      /in its place/,
    ],
    [
      'two faults: the first is told',
      exact(10, 'bar', { loop_ohm: 100, powered: false }),
      'A',
      [true, false, null, null],
      /Only 100 Ω/,
    ],
  ]
  test.each(faults)('%s', (_, d, port, expected, says) => {
    expect(answers(d, port)).toEqual(expected)
    expect(silentPart(d, port)?.says).toMatch(says)
  })
})
