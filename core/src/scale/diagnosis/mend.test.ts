import { describe, expect, test } from 'vitest'
import { defaultPath } from '../../loop/default-path.ts'
import { procedureOf } from '../../procedure/catalogue.ts'
import type { Stage } from '../../signal/stage.ts'
import { auditPath } from '../audit.ts'
import { documentedChain } from './documented.ts'
import { locate, type Level, type LocateTask } from './locate.ts'
import { procedureFor, settingsThatMake } from './mend.ts'

const range = { low: 0, high: 6, unit: 'bar(g)' }
const SOUND = defaultPath({ transmitter: range, squareRoot: false, receiver: range })
const receiverAt = (high: number): Stage[] =>
  SOUND.map((s) => (s.kind === 'controller' ? { ...s, range: { ...s.range, high } } : s))

function judged(stages: readonly Stage[], levels: readonly Level['values'][]) {
  const chain = documentedChain(stages, false)
  if (!chain) throw new Error('a loop that measures')
  const task: LocateTask = {
    chain,
    levels: levels.map((values) => ({ values, dir: 1 })),
    u: { IN: 0.0006, PV: 0.0006, MA: 0.002, V: 0.0005, EU: 0.0006, PCT: 0.01 },
    tol: { PV: 0.1, PCT: 0.02, MA: 0.1, V: 0.1, CNT: 0.05, EU: 0.05 },
  }
  const l = locate(task)
  const out = l.firstOut
  if (!out) throw new Error('something is out')
  return { out, settings: settingsThatMake(stages, auditPath(stages, false), task, out) }
}

describe('the procedure that mends what was named', () => {
  const rows: readonly [string, readonly Level['values'][], string | null][] = [
    [
      'sensor shifted, read at the sensor',
      [
        { IN: 0, PV: 0.06 },
        { IN: 3, PV: 3.06 },
        { IN: 6, PV: 6.06 },
      ],
      'zero-trim',
    ],
    [
      'sensor span',
      [
        { IN: 0, PV: 0 },
        { IN: 3, PV: 3.09 },
        { IN: 6, PV: 6.18 },
      ],
      'sensor-trim',
    ],
    [
      'output shifted, read at percent and loop',
      [
        { PCT: 0, MA: 4.3 },
        { PCT: 50, MA: 12.3 },
        { PCT: 90, MA: 18.7 },
      ],
      'output-trim',
    ],
    [
      'range of the transmitter',
      [
        { PV: 0, PCT: 0 },
        { PV: 3, PCT: 37.5 },
        { PV: 6, PCT: 75 },
      ],
      're-range',
    ],
    [
      'current that stands still: no trim',
      [
        { PCT: 0, MA: 12 },
        { PCT: 50, MA: 12 },
        { PCT: 100, MA: 12 },
      ],
      null,
    ],
    [
      'from end to end: sensor or output, not resolved',
      [
        { IN: 0, MA: 4.3 },
        { IN: 3, MA: 12.3 },
        { IN: 5, MA: 17.633 },
      ],
      null,
    ],
    [
      'another shunt: no trim',
      [
        { MA: 6, V: 1.4 },
        { MA: 12, V: 2.8 },
        { MA: 18, V: 4.2 },
      ],
      null,
    ],
  ]
  test.each(rows)('%s', (_, levels, wanted) => {
    const { out } = judged(SOUND, levels)
    expect(procedureFor(out, false)).toBe(wanted)
    // What it names is a procedure.
    expect(wanted === null || procedureOf(wanted) !== null).toBe(true)
  })
  test('an absolute device is not zeroed in open air', () => {
    const { out } = judged(SOUND, [
      { IN: 0, PV: 0.06 },
      { IN: 3, PV: 3.06 },
      { IN: 6, PV: 6.06 },
    ])
    expect(procedureFor(out, true)).toBe('sensor-trim')
  })
})

describe('settings of the loop that make what was read', () => {
  test('the controller is scaled to 8 bar, and reads so: its own setting, with its fix', () => {
    const { settings } = judged(receiverAt(8), [
      { MA: 4, EU: 0 },
      { MA: 12, EU: 4 },
      { MA: 20, EU: 8 },
    ])
    expect(settings.map((f) => f.code)).toEqual(['RANGE_DIFFERS'])
    expect(settings[0]?.fix?.set.length).toBeGreaterThan(0)
  })
  test('it is scaled to 8 bar and reads as if to 10: the setting does not make it', () => {
    const { settings } = judged(receiverAt(8), [
      { MA: 4, EU: 0 },
      { MA: 12, EU: 5 },
      { MA: 20, EU: 10 },
    ])
    expect(settings).toEqual([])
  })
  test('the loop agrees with itself and reads wrongly: nothing in it to change', () => {
    const { settings } = judged(SOUND, [
      { MA: 4, EU: 0 },
      { MA: 12, EU: 4 },
      { MA: 20, EU: 8 },
    ])
    expect(settings).toEqual([])
  })
})
