import { describe, expect, test } from 'vitest'
import { NOTHING_WIRED, withSetting, type Wiring } from '../part/wiring.ts'
import { connect } from './connect/index.ts'
import { FRESH_ORDER, meterSteps, orderAfter, type LiveMistake, type MeterOrder } from './meter-order.ts'
import { liftMeter, meterInSeries, placeLead, withMeter } from './meter.ts'

const loop = (): Wiring => {
  const c = connect({
    ...NOTHING_WIRED,
    parts: {
      'PT-1': { kind: 'two-wire-transmitter', settings: {} },
      'PS-1': { kind: 'supply', settings: {} },
      'AI-1': { kind: 'analogue-input', settings: {} },
    },
  })
  if (c.kind !== 'wired') throw new Error(c.says)
  return withMeter(c.wiring).wiring
}
const jack = (w: Wiring, to: string) => withSetting(w, 'DMM', 'jack', to)
const dial = (w: Wiring, to: string) => withSetting(w, 'DMM', 'dial', to)
const open = (w: Wiring) =>
  meterInSeries(w, 'DMM', Object.entries(w.wires).find(([, x]) => x.from === 'PT-1:minus')?.[0] ?? '', 'from')
const volts = (w: Wiring) => placeLead(placeLead(w, 'DMM', 'red', 'AI-1:in'), 'DMM', 'black', 'AI-1:com')
const lift = (w: Wiring) => liftMeter(w, 'DMM')

/** What was done, one thing after the other, each with the power as it was then. */
type Act = readonly [power: boolean, does: (w: Wiring) => Wiring]
function work(acts: readonly Act[]): { order: MeterOrder; w: Wiring; power: boolean } {
  let w = loop()
  let order = FRESH_ORDER
  let power = true
  for (const [on, does] of acts) {
    if (on !== power) order = orderAfter(order, w, w, on)
    power = on
    const next = does(w)
    order = orderAfter(order, w, next, power)
    w = next
  }
  return { order, w, power }
}
const same = (w: Wiring) => w

const inOrder: readonly Act[] = [
  [false, (w) => jack(w, 'mA')],
  [false, (w) => dial(w, 'mA')],
  [false, open],
  [true, same],
  [false, lift],
  [false, (w) => dial(jack(w, 'V'), 'V')],
  [true, same],
]

describe('the order of a measurement', () => {
  test('a current measured in order: every step done, nothing told', () => {
    const { order, w, power } = work(inOrder)
    expect(order.mistakes).toEqual([])
    const steps = meterSteps(order, w, power)
    expect(steps.filter((s) => !s.done)).toEqual([])
    expect(steps.map((s) => s.says)).toContain('Red lead back in the V jack')
  })
  const rows: readonly [why: string, acts: readonly Act[], mistakes: LiveMistake[]][] = [
    [
      'a loop opened live',
      [
        [true, (w) => jack(dial(w, 'mA'), 'mA')],
        [true, open],
      ],
      ['OPENED_LIVE'],
    ],
    [
      'opened live, closed live: told once',
      [
        [true, (w) => jack(dial(w, 'mA'), 'mA')],
        [true, open],
        [true, lift],
        [true, (w) => jack(w, 'V')],
      ],
      ['OPENED_LIVE'],
    ],
    [
      'the jack changed on a live circuit',
      [...inOrder.slice(0, 4), [true, (w) => jack(w, '10A')]],
      ['JACK_LIVE'],
    ],
    [
      'the dial turned in a live loop',
      [...inOrder.slice(0, 4), [true, (w) => dial(w, '10A')]],
      ['DIAL_LIVE'],
    ],
    [
      'volts into a current jack with the leads on',
      [
        [true, volts],
        [true, (w) => jack(w, 'mA')],
      ],
      ['JACK_LIVE'],
    ],
    ['left in the current jack', [...inOrder.slice(0, 5), [true, same]], ['LEFT_IN_CURRENT']],
    [
      'volts across the input, live',
      [
        [true, volts],
        [true, lift],
      ],
      [],
    ],
    [
      'the meter taken away with its leads in a live loop',
      [
        ...inOrder.slice(0, 4),
        [
          true,
          (w) => ({
            ...w,
            parts: Object.fromEntries(Object.entries(w.parts).filter(([id]) => id !== 'DMM')),
          }),
        ],
      ],
      ['OPENED_LIVE'],
    ],
  ]
  test.each(rows)('%s', (_why, acts, mistakes) => expect(work(acts).order.mistakes).toEqual(mistakes))

  test('power off before the loop is opened is done only if it was off', () => {
    const first = (acts: readonly Act[]) => {
      const { order, w, power } = work(acts)
      return meterSteps(order, w, power)[0]
    }
    expect(
      first([
        [true, (w) => jack(dial(w, 'mA'), 'mA')],
        [true, open],
        [false, same],
      ]),
    ).toEqual({
      says: 'Power off before the loop is opened',
      done: false,
    })
    expect(first(inOrder.slice(0, 3))?.done).toBe(true)
  })
  test('volts ask for no power off, and for no way back but the leads', () => {
    const { order, w, power } = work([[true, volts]])
    expect(meterSteps(order, w, power).map((s) => [s.says, s.done])).toEqual([
      ['Red lead in the V jack, black in COM', true],
      ['Dial at DC, not AC', true],
      ['Leads on their terminals', true],
      ['Power on, read', true],
      ['Leads off', false],
    ])
    expect(meterSteps(FRESH_ORDER, NOTHING_WIRED, true)).toEqual([])
  })
})
